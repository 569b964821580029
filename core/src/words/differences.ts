/** What differs between two states of a page beside its blocks. */
export const DIFFERENCES = { metadata: 'Title, description or settings', order: 'The order of blocks' };

/** What the texts of a page beside its blocks are called. */
export const METADATA_LABELS = {
  title: 'Title',
  description: 'Description',
  shareTitle: 'Title where it is shared',
  shareDescription: 'Description where it is shared',
} as const;
