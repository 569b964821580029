import { counted, type Shown } from '../shown.js';

/** What the interface says: `web/src/app/many`. */
export const say = {
  whatMoves: 'What moves',
  starts: 'starts',
  ends: 'ends',
  becomes: 'becomes',
  pieceDots: 'Piece…',
  pieceOn: (count: number) => (count === 1 ? 'A piece on 1 page' : `A piece on ${count.toLocaleString('en-GB')} pages`),
  pieceLead: 'The drafts change first, all of them or none; then they are released as one release.',
  whatIsDone: 'What is done',
  putItOn: 'Put it on them',
  takeItOffThem: 'Take it off them',
  piece: 'Piece',
  chooseAPiece: 'Choose a piece',
  where: 'Where',
  first: 'First on the page',
  last: 'Last on the page',
  before: 'Before a block',
  after: 'After a block',
  instead: 'Instead of a block',
  theBlock: 'Block',
  chooseABlock: 'Choose a block',
  firstOfType: 'The first of its type',
  anotherPiece: 'Another piece',
  whatGoesIsInTheTray: 'The block it replaces goes to the tray of its page; nothing of it is lost.',
  notOn: (count: number) =>
    count === 1 ? 'One page takes no part:' : `${count.toLocaleString('en-GB')} pages take no part:`,
  notPlaced: {
    'has-it': 'has it already',
    'has-none': 'doesn’t have it',
    'no-place': 'has no such block',
    full: 'has no room for more blocks',
  },
  moreActs: 'More',
  settingsGrid: 'Settings in a grid…',
  textsAndSearch: 'Titles and search…',
  fillingOf: (count: number) =>
    count === 1 ? 'Titles and search of 1 page' : `Titles and search of ${count.toLocaleString('en-GB')} pages`,
  whatIsSet: 'What is set',
  atMostCharacters: 'At most, in characters',
  noLimit: 'No limit',
  pattern: 'Pattern',
  patternBegins: '{page name} | {site name}',
  insertAName: 'Insert',
  patternNote:
    'Words in { } stand for what each page has, or for a shared value. {offer price|"Prices"} takes the first there is; {first paragraph:150} ends after at most 150 characters, with a whole word.',
  replaceOwn: 'Replace what pages have of their own',
  lookedAt: (looked: number, of: number) =>
    `Looked at ${looked.toLocaleString('en-GB')} of ${of.toLocaleString('en-GB')}`,
  notFilled: {
    'has-own': (count: number) =>
      count === 1
        ? 'One page has something of its own, and keeps it.'
        : `${count.toLocaleString('en-GB')} pages have something of their own, and keep it.`,
    same: (count: number) =>
      count === 1 ? 'One page has it already.' : `${count.toLocaleString('en-GB')} pages have it already.`,
    missing: (count: number, names: readonly string[], place: string) =>
      count === 1
        ? `${names[0]} has nothing for ${place}, and is left out.`
        : `${names.slice(0, 2).join(', ')}${count > 2 ? ` and ${(count - 2).toLocaleString('en-GB')} more` : ''} have nothing for ${place}, and are left out.`,
    'too-long': (count: number, names: readonly string[]) =>
      count === 1
        ? `On ${names[0]} it would be too long; that page is left out.`
        : `On ${count.toLocaleString('en-GB')} pages it would be too long; they are left out.`,
  },
  lengthOf: (length: number, shown: number) => `${length} of about ${shown}`,
  draftsHaveMore: (count: number) =>
    count === 1
      ? 'The draft of one page has other changes that are not released; they would go out too.'
      : `The drafts of ${count.toLocaleString('en-GB')} pages have other changes that are not released; they would go out too.`,
  leaveThemOut: 'Leave them out',
  takeThemIn: 'Include them',
  whatBecomesOfThem: 'What changes',
  added: 'Added: ',
  gone: 'Removed: ',
  choosePieceAndPlace: 'Choose a piece and where it stands; what becomes of each page is shown here.',
  noPiecesYet: 'There are no pieces yet. Save a block as a piece in the editor, or make one in the stock.',
  placeAndRelease: (count: number) =>
    count === 1
      ? 'Change 1 draft and go on to release'
      : `Change ${count.toLocaleString('en-GB')} drafts and go on to release`,
  placeInDrafts: (count: number) => (count === 1 ? 'Change 1 draft' : `Change ${count.toLocaleString('en-GB')} drafts`),
  placedInDrafts: (count: number) =>
    count === 1
      ? '1 draft changed. Visitors get it once it is released.'
      : `${count.toLocaleString('en-GB')} drafts changed. Visitors get them once they are released.`,
  placedBack: (count: number, of: number) =>
    count === of
      ? 'The drafts are as they were.'
      : `${count} of ${of} drafts are as they were; the others have been changed since.`,
  wantAnApproval: (count: Shown, sites: Shown) => `${count} on ${sites} want an approval first`,
  pagesThatWaitForApproval: 'Pages that want an approval first',
  prepareAllOrLeaveThemOut: 'Prepare all of it as one release for approval, or leave these out and press the rest now.',
  pages: (count: Shown) => `${count} pages`,
  arrange: (count: Shown) => `Arrange ${count}`,
  asItIs: 'as it is',
  none: 'none',
  labelsToAdd: 'Labels to add',
  add: 'Add',
  dontAdd: 'Don’t add',
  currentlyOnThesePages: 'Currently on these pages',
  on: (count: Shown) => `on ${count}`,
  keepIt: 'Keep it',
  takeItOff: 'Take it off',
  byHowMuch: 'By how much',
  days: 'Days',
  daysSmall: 'days',
  later: 'later',
  earlier: 'earlier',
  atTheSameTimeOfDay: (zone: Shown) => `at the same time of day, ${zone}`,
  whatVisitorsGet: 'What visitors get',
  itsFormerPlanWhereThatIs: 'its former plan, where that is still ahead or would be live now',
  nothingYetItComesBackOff: 'nothing yet: it comes back off, ready to release',
  aDifferentPathIfItsOwn: 'A different path if its own is taken',
  staysAsItWas: 'stays as it was',
  itsAddress: 'its address',
  theseAddresses: 'these addresses',
  fromNowOnVisitorsOfGet: (theseAddresses: Shown) => `From now on, visitors of ${theseAddresses} get`,
  afterwards: 'Afterwards',
  whereAPageIsAlreadyOff: 'Where a page is already off, its address keeps what it gives.',
  afterItsEndVisitorsOfEach: 'After its end, visitors of each address get',
  to: 'To',
  chooseASite: 'Choose a site',
  tomorrow0900: 'Tomorrow 09:00',
  nextMonday0900: 'Next Monday 09:00',
  anotherTime: 'Another time',
  openEnd: 'open end',
  setAnEnd: 'Set an end',
  fromThenOn: 'From then on',
  visitorsOfTheseAddressesGet: (afterwards: Shown) => `${afterwards}, visitors of these addresses get`,
  onePeriodThatIsPlannedFor: '1 period that is planned for later goes',
  periodsThatArePlannedForLater: (laterCuts: Shown) =>
    `${counted(laterCuts, 'period that is planned for later goes', 'periods that are planned for later go')}`,
  thatPage: 'that page',
  thosePages: (count: Shown) => `those ${count} pages`,
  leaveOut: (count: Shown) => `Leave ${count} out`,
  pagesThatCantTakePart: 'Pages that can’t take part',
  cantBecause: (count: Shown) => `${count} can’t, because:`,
  these: (count: Shown) => `these ${count}`,
  andMore: (count: Shown) => `and ${count} more.`,
  onePageIs: '1 page is',
  pagesAre: (size: Shown) => `${size} pages are`,
  leftOut: (size: Shown) => `${size} left out.`,
  includeAllAgain: 'Include all again',
  theFirstOfChanges: (count: Shown, lineCount: Shown) => `The first ${count} of ${lineCount} changes.`,
  deciding: 'Deciding',
  workingOutWhatChanges: 'Working out what changes',
  leaveOutThePagesThatCant: 'Leave out the pages that can’t change, or fix them first.',
  visitorsNoticeNothingOfThis: (pages: Shown) => `${pages}. Visitors notice nothing of this.`,
  change: (count: Shown) => `Change ${count}`,
  nothingToChangeYet: 'Nothing to change yet',
  changed: (count: Shown) => `Changed ${count}.`,
  chosen: (size: Shown) => `${size} chosen`,
  restore: 'Restore',
  deleteForEver: 'Delete for ever',
  release: 'Release',
  takeOff: 'Take off',
  shiftDates: 'Shift dates',
  move: 'Move',
  campaignOwnerLabels: 'Campaign, owner, labels',
  copy: 'Copy',
  share: 'Share',
  chooseNone: 'Choose none',
  allOfThemInTheBin: (pages: Shown) => `${pages}, all of them in the bin.`,
  isDeleted: (what: Shown) => `${what} is deleted.`,
  pagesAreDeleted: (deleted: Shown) => `${counted(deleted, 'page is deleted', 'pages are deleted')}.`,
  stoppedPagesDeletedSoFarAre: 'Stopped. Pages deleted so far are gone; the rest are in the bin.',
  deleteForEverWithWhat: (what: Shown) => `Delete ${what} for ever`,
  draftsRevisionsAndLabelsAreDeleted:
    'Drafts, revisions and labels are deleted. Past records, redirects and visit figures stay.',
  thisCantBeUndone: 'This can’t be undone.',
  itsName: 'its name',
  howManyTheyAre: 'how many they are',
  toConfirmType: (howManyTheyAre: Shown) => `To confirm, type ${howManyTheyAre}:`,
  deleting: 'Deleting',
  releaseWithCount: (count: Shown) => `Release ${count}`,
  takeOffWithCount: (count: Shown) => `Take ${count} off`,
  shiftTheDatesOf: (count: Shown) => `Shift the dates of ${count}`,
  whatComesAfter: (count: Shown) => `What comes after ${count}`,
  moveToAnotherSite: (count: Shown) => `Move ${count} to another site`,
  putInTheBin: (one: Shown) => `Put ${one} in the bin`,
  restoreWithOne: (one: Shown) => `Restore ${one}`,
  eachGetsItsDraftAsIt: (spread: Shown) => `${spread}. Each gets its draft as it is now.`,
  nobodyReachesThemAnyMoreRevisions: (spread: Shown) =>
    `${spread}. Nobody reaches them any more; revisions and history stay.`,
  everythingThatIsStillToCome: (spread: Shown) =>
    `${spread}. Everything that is still to come moves; what is live stays live and only its end moves.`,
  countsFromTheEndOfEach: (spread: Shown) => `${spread}. Counts from the end of each, where it has one.`,
  eachKeepsItsPathOldAddresses: (spread: Shown) => `${spread}. Each keeps its path; old addresses redirect.`,
  whatIsLiveComesOffNow: (spread: Shown) =>
    `${spread}. What is live comes off now. Everything is kept and can be restored.`,
  eachComesBackWithItsDraft: (spread: Shown) =>
    `${spread}. Each comes back with its draft, its revisions and its history.`,
  changeSmall: 'change',
  changes: 'changes',
  forVisitors: (lineCount: Shown, changes: Shown) => `${lineCount} ${changes} for visitors`,
  linksElsewhereWillLeadThrough: (redirect: Shown) =>
    `${counted(redirect, 'link elsewhere will', 'links elsewhere will')} lead through redirects`,
  linksElsewhereWillLeadNowhere: (nowhere: Shown) =>
    `${counted(nowhere, 'link elsewhere will', 'links elsewhere will')} lead nowhere`,
  pagesHaveSomethingWorthFixing: (worthFixing: Shown) =>
    `${counted(worthFixing, 'page has something', 'pages have something')} worth fixing`,
  putLive: (count: Shown, when: Shown) => `Put ${count} live ${when}`,
  takeOffWithCount2: (count: Shown, when: Shown) => `Take ${count} off ${when}`,
  shiftBy: (count: Shown, daysWords: Shown) => `Shift ${count} by ${daysWords}`,
  setThisFor: (count: Shown) => `Set this for ${count}`,
  moveWithCount: (count: Shown, when: Shown) => `Move ${count} ${when}`,
  putInTheBinNow: (one: Shown) => `Put ${one} in the bin now`,
  asItWasPlanned: ', as it was planned',
  off: ', off',
  restoreWithOne2: (one: Shown, off: Shown) => `Restore ${one}${off}`,
  onTheAirTo: (when: Shown) => `on the air to ${when}`,
  pagesAreOnTheirWayTo: (count: Shown) =>
    `${counted(count, 'page is on its way', 'pages are on their way')} to visitors.`,
  pagesAreBeingTakenOff: (count: Shown) => `${counted(count, 'page is being', 'pages are being')} taken off.`,
  pagesAreShiftedBy: (count: Shown, daysWords: Shown) =>
    `${counted(count, 'page is shifted', 'pages are shifted')} by ${daysWords}.`,
  setForPages: (count: Shown) => `Set for ${counted(count, 'page', 'pages')}.`,
  pagesMove: (count: Shown) => `${counted(count, 'page moves', 'pages move')}.`,
  putInTheBinWithOne: (one: Shown) => `${one} put in the bin.`,
  restored: (one: Shown) => `${one} restored.`,
  pagesGoLiveOn: (count: Shown, value: Shown) => `${counted(count, 'page goes live', 'pages go live')} on ${value}.`,
  page: 'page',
  pagesSmall: 'pages',
  hosts: (hosts: Shown) => `${hosts} hosts`,
  oneHost: '1 host',
  onWithCount: (count: Shown, pagesSmall: Shown, hosts: Shown) => `${count} ${pagesSmall} on ${hosts}`,
  onePage: '1 page',
  now: 'now',
  shiftedBy: (days: number) =>
    `${Math.abs(days)} ${Math.abs(days) === 1 ? 'day' : 'days'} ${days < 0 ? 'earlier' : 'later'}`,
  notInTheBin: (count: number) =>
    count === 1
      ? '1 of the chosen pages isn’t in the bin: it stays as it is.'
      : `${count} of the chosen pages aren’t in the bin: they stay as they are.`,
  offAlready: (count: number) =>
    count === 1
      ? '1 of them is off already, and what its address gives stays. Change that too'
      : `${count} of them are off already, and what their addresses give stays. Change that too`,
  releasePiecesToo: (count: number) => (count === 1 ? 'Release the piece too' : `Release the ${count} pieces too`),
};
