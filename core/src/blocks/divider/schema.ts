import { choice } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Divider {
  readonly layout: 'line' | 'room' | 'mark';
}

export const divider = defineBlock<Divider>({
  label: 'Divider',
  group: 'Close',
  glyph: [['ink', 'M5 12h32v2H5z']],
  firstHeadings: 0,
  fields: [choice('layout', 'Layout', { line: 'Line', room: 'Room', mark: 'Mark' })],
  summary: ({ layout }) => ({ line: 'Line', room: 'Room', mark: 'Mark' })[layout],
});
