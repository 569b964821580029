import type { Button } from '../../fields/fields.js';
import { emailForm } from '../../forms/index.js';
import { button, choice, line, paragraph } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface CallToAction {
  readonly layout: 'deep' | 'tint' | 'framed';
  readonly heading: string;
  readonly text: string;
  readonly asks: 'nothing' | 'email';
  readonly askLabel: string;
  readonly button: Button | null;
}

export const callToAction = defineBlock<CallToAction>({
  label: 'Call to action',
  group: 'Ask',
  glyph: [
    ['ink', 'M4 8h34v11H4z'],
    ['paper', 'M8 12h11v3H8zM26 11h9v5h-9z'],
  ],
  example: { heading: '‹What to do now›', text: '‹What happens after that.›' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { deep: 'On dark', tint: 'On tint', framed: 'Framed' }),
    line('heading', 'Heading', 200),
    paragraph('text', 'Text', 600),
    choice('asks', 'Ask for', { nothing: 'Nothing', email: 'E-mail address' }),
    line('askLabel', 'Text next to the field', 120, 'What visitors enter: “Your e-mail address”.'),
    button('button', 'Button', 'Name the action: “Book a berth”, not “Submit”.'),
  ],
  summary: ({ heading }) => heading,
  form: ({ asks, askLabel, button }) => (asks === 'email' ? emailForm(askLabel, button) : null),
});
