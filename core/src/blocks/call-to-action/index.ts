import type { Button } from '../../document/fields.js';
import { emailField, formHtml, type Form } from '../../forms/index.js';
import { html } from '../../render/html.js';
import { buttonHtml, headingAt, linesAt } from '../../render/parts.js';
import { defineBlock } from '../definition.js';
import { button, choice, line, paragraph } from '../fields.js';
import { style } from './style.js';

export interface CallToAction {
  readonly heading: string;
  readonly text: string;
  readonly asks: 'nothing' | 'email';
  readonly askLabel: string;
  readonly button: Button | null;
}

/** The form of a call to action that asks for something, `null` of one that is only a button. */
export function formOf({ asks, askLabel, button }: CallToAction): Form | null {
  return asks === 'email'
    ? { fields: [emailField(askLabel)], button: button?.label ?? '', target: button?.target ?? null }
    : null;
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
    line('heading', 'Heading', 200),
    paragraph('text', 'Text', 600),
    choice('asks', 'Ask for', { nothing: 'Nothing', email: 'E-mail address' }),
    line('askLabel', 'Words beside the field', 120),
    button('button', 'Button'),
  ],
  summary: ({ heading }) => heading,
  render: (values, context) => {
    const { heading, text, button } = values;
    const form = formOf(values);
    return html`
    <div class="ask"><div class="ask-inner">
      <div>${headingAt(heading, context)}${linesAt(text, 'text', context)}</div>
      ${form ? formHtml(form) : buttonHtml(button, context)}
    </div></div>`;
  },
  style,
});
