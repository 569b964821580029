import { html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import type { Piece } from './schema.js';

export const pieceView = viewOf<Piece>({
  render: ({ piece: used, looks }, context) => {
    const blocks = used ? context.pieceOf(used.id) : null;
    // Its texts are typed in the stock, not on the pages that use it.
    return blocks ? context.inner(blocks, looks) : html``;
  },
  style: '',
});
