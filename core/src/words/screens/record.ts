import type { Shown } from '../shown.js';
import type { RecordKind } from '../record.js';

/** What the interface says: `web/src/app/record`. */
export const say = {
  record: 'Record',
  whoDidWhat: 'Who did what, and when. Nothing is ever taken out of it.',
  who: 'Who',
  everybody: 'Everybody',
  what: 'What',
  everything: 'Everything',
  fromDay: 'From day',
  toDay: 'To day',
  from: 'from',
  to: 'to',
  asCsv: 'As CSV',
  thatIsNoDay: (typed: Shown) => `“${typed}” is no day.`,
  nothingWasDone: 'Nothing of this kind was done in this time.',
  showEarlier: 'Show earlier',
  theSystem: 'The system',
  done: 'Undone.',
  kinds: {
    visitors: 'What visitors get',
    drafts: 'Drafts',
    pages: 'Pages',
    prepared: 'Prepared releases',
    stock: 'Pieces, themes, values, pictures',
    remarks: 'Links and remarks',
    tasks: 'Tasks',
    campaigns: 'Campaigns',
    people: 'People and sites',
  } satisfies Record<RecordKind, string>,
};
