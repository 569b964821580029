import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/imports`. */
export const say = {
  importPagesFromACSV: 'Import pages from a CSV file',
  rowsMakePagesOrChangeThose:
    'Rows make pages, or change those that lie at the same address. Nothing happens before you confirm.',
  chooseAnotherFile: 'Choose another file',
  chooseAFile: 'Choose a file',
  rows: (file: Shown, count: Shown, encoding: Shown) => `${file} · ${count} rows · ${encoding}`,
  matchColumns: 'Match columns',
  column: (number: Shown) => `column ${number}`,
  whatIs: (column: Shown) => `What ${column} is`,
  notTaken: 'not taken',
  newChangeAreAsTheyAre: (create: Shown, change: Shown, same: Shown, wrong: Shown) =>
    `${create} new · ${change} change · ${same} are as they are · ${wrong} wrong`,
  takeLine: (line: Shown) => `Take line ${line}`,
  theFirstOf: (count: Shown, count2: Shown) => `The first ${count} of ${count2}.`,
  theFirstRowIsTheHeader: (zone: Shown) =>
    `The first row is the header. These columns are understood: name, site, path (or the whole address), title, labels, campaign, live from, live until. Times are of ${zone}.`,
  readingTheRows: 'Reading the rows',
  ofThemForVisitors: (touches: Shown) => `, ${touches} of them for visitors`,
  checkEveryRow: 'Check every row',
  pathOrAddress: 'path or address',
  liveFrom: 'live from',
  liveUntil: 'live until',
  asItIs: 'as it is',
  chooseWhichColumnIsTheSite: 'Choose which column is the site, or the full address.',
  pages: (creates: Shown) => `${creates} pages`,
  make: (creates: Shown) => `make ${creates}`,
  change: (changes: Shown) => `change ${changes}`,
  nothingToDo: 'Nothing to do',
  nearLine: (lines: Shown) => ` near line ${lines}`,
  whatVisitorsGetIsOneRelease: '; what visitors get is one release',
  pagesMadeChanged: (created: Shown, changed: Shown, whatVisitorsGetIsOneRelease: Shown) =>
    `${created} pages made, ${changed} changed${whatVisitorsGetIsOneRelease}.`,
  undoTheRelease: 'Undo the release',
  tooManyRows: (most: Shown) => `At most ${most} rows at once; this file has more. Split it.`,
  noRows: 'This file has no rows below the header.',
  cantBeReadAsCsv: (where: Shown) =>
    `This can’t be read as CSV${where}: a quote isn’t closed, or it isn’t a text file.`,
  cancelledNothingHasChanged: 'Cancelled. Nothing has changed.',
};
