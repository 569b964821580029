/** What differs between two states of a page beside its blocks. */
export const DIFFERENCES = { metadata: 'Title or description', order: 'The order of blocks' };
