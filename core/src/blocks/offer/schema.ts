import type { Button } from '../../fields/fields.js';
import { richTextOf, type RichText } from '../../fields/rich-text.js';
import { button, choice, line, rich } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Offer {
  readonly layout: 'tint' | 'deep' | 'plain';
  readonly heading: string;
  readonly price: string;
  readonly per: string;
  readonly before: string;
  readonly body: RichText;
  readonly button: Button | null;
  readonly note: string;
}

export const offer = defineBlock<Offer>({
  label: 'Price or offer',
  group: 'Explain',
  glyph: [
    ['soft', 'M9 4h24v18H9z'],
    ['ink', 'M13 7h10v2H13zM13 11h14v3H13z'],
    ['moss', 'M13 17h10v3H13z'],
  ],
  example: {
    heading: '‹What is offered›',
    price: '‹1,190 kr›',
    per: '‹for two, one night›',
    body: richTextOf('‹What is in it, and until when.›'),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { tint: 'On tint', deep: 'On dark', plain: 'Framed' }),
    line('heading', 'Name', 200),
    line('price', 'Price', 40, 'With the currency, as it should be read.'),
    line('per', 'For what', 80),
    line('before', 'Price before', 40, 'Shown struck through. Only a price that was really charged.'),
    rich('body', 'What is in it'),
    button('button', 'Button'),
    line('note', 'Small print', 300, 'What isn’t included, and how long it is valid.'),
  ],
  summary: ({ heading, price }) => [heading, price].filter(Boolean).join(' · '),
});
