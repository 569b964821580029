import { counted, type Shown } from '../shown.js';

/** What the interface says of the settings of many pages, side by side. */
export const say = {
  settingsOf: (count: number) => `Settings of ${counted(count, 'page', 'pages')}`,
  backToPages: '← Pages',
  page: 'Page',
  address: 'Address',
  find: 'Find',
  replaceWith: 'Replace with',
  matchCase: 'Match case',
  foundIn: (count: number, cells: number) =>
    `${counted(count, 'place', 'places')} in ${counted(cells, 'cell', 'cells')}`,
  replaceAll: 'Replace all',
  redo: 'Redo',
  keys: 'Enter edits · Shift+↓ chooses more rows · Ctrl+D fills down · Delete empties · copy and paste as in a spreadsheet',
  changedPages: (count: number) =>
    count ? `${counted(count, 'page', 'pages')} changed, not in drafts yet` : 'Nothing changed yet',
  lengthOf: (length: Shown, shown: Shown) => `${length} / ${shown}`,
  takenOver: 'Taken over',
  changed: 'changed',
  own: 'Own',
  leftOut: (count: number) =>
    `${counted(count, 'cell', 'cells')} had no room in the grid and ${count === 1 ? 'was' : 'were'} left out.`,
  tooLong: (count: number) =>
    `${counted(count, 'text', 'texts')} ${count === 1 ? 'was' : 'were'} longer than a page can hold, and cut: look at ${count === 1 ? 'it' : 'them'} before you go on.`,
  nothingChosen: 'No pages are chosen. Choose some in the list, then open their settings here.',
  tooMany: (most: Shown) => `Only the first ${most} of the chosen pages are shown.`,
  isLoading: 'Loading…',
  discard: 'Discard the changes',
  keepEditing: 'Keep editing',
  notInDrafts: (count: number) =>
    `The changes of ${counted(count, 'page', 'pages')} are not in drafts yet. Leave without them?`,
  drafts: (count: number) => (count ? `Change ${counted(count, 'draft', 'drafts')}` : 'Change drafts'),
  draftsAndRelease: (count: number) =>
    `${count ? `Change ${counted(count, 'draft', 'drafts')}` : 'Change drafts'} and go on to release`,
} as const;
