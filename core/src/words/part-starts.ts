/** What the starts of headers, footers and notice bands are called, and what they are for. */
export const PART_START_WORDS = {
  header: {
    row: { label: 'Name and menu', words: 'In one row; the menu folds where it is narrow.' },
    act: { label: 'Name, menu and one act', words: 'A button at the end of the row.' },
    rows: { label: 'Two rows', words: 'The name above, the menu below it.' },
    centred: { label: 'Centred', words: 'Name and menu in the middle.' },
    over: { label: 'Over the opening picture', words: 'Lies over the picture a page opens with.' },
    folded: { label: 'Always folded', words: 'The name, and a menu that opens on a press.' },
    name: { label: 'Name alone', words: 'No way leads off a page that asks for one thing.' },
  },
  footer: {
    legal: { label: 'Legal line', words: 'The year, the name, and what the law asks for.' },
    columns: { label: 'Columns of links', words: 'Two lists and the legal line.' },
    contact: { label: 'Contact and links', words: 'Who answers, where to go, the legal line.' },
    elsewhere: { label: 'With profiles elsewhere', words: 'Links, profiles, the legal line.' },
    centred: { label: 'Centred', words: 'The name, a row of links, the legal line.' },
    about: { label: 'A few words', words: 'What the site is, links, the legal line.' },
    row: { label: 'Name and links in a row', words: 'The name, and links at the end.' },
  },
  band: {
    information: { label: 'Information', words: 'Something worth knowing.' },
    warning: { label: 'Warning', words: 'Something to reckon with; can be closed.' },
    urgent: { label: 'Urgent', words: 'Stays in view.' },
    countdown: { label: 'Countdown', words: 'Counts to a moment, and removes itself then.' },
    foot: { label: 'At the foot', words: 'Stays at the foot of the window; can be closed.' },
  },
} as const;
