import type { Reference } from '../../fields/fields.js';
import { reference } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Piece {
  readonly piece: Reference | null;
  /** Layouts its blocks have on this page alone (see `looks.ts`). */
  readonly looks: string;
}

/** A piece that many pages use, linked: it shows what the piece holds at the moment. */
export const piece = defineBlock<Piece>({
  label: 'Piece',
  group: 'Close',
  glyph: [
    ['moss', 'M6 7h12v12H6z'],
    ['soft', 'M24 7h12v12H24z'],
    ['ink', 'M18 12h6v2h-6z'],
  ],
  firstHeadings: 0,
  fields: [
    reference('piece', 'Piece', 'piece', 'Changed in stock, once for every page that uses it.'),
    { kind: 'line', key: 'looks', label: 'Looks on this page', max: 2000, isCode: true },
  ],
  summary: () => '',
});
