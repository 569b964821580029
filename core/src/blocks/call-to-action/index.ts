import type { Button } from '../../document/fields.js';
import { emailField, formHtml, type Form } from '../../forms/index.js';
import { html } from '../../render/html.js';
import { buttonHtml, linesAt } from '../../render/parts.js';
import { defineBlock } from '../definition.js';
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
    { kind: 'line', key: 'heading', label: 'Heading', max: 200 },
    { kind: 'paragraph', key: 'text', label: 'Text', max: 600 },
    {
      kind: 'choice',
      key: 'asks',
      label: 'Ask for',
      options: [
        { value: 'nothing', label: 'Nothing' },
        { value: 'email', label: 'E-mail address' },
      ],
    },
    { kind: 'line', key: 'askLabel', label: 'Words beside the field', max: 120 },
    { kind: 'button', key: 'button', label: 'Button' },
  ],
  summary: ({ heading }) => heading,
  render: (values, context) => {
    const { heading, text, button } = values;
    const form = formOf(values);
    return html`
    <div class="ask"><div class="ask-inner">
      <div>${heading && html`<h2${context.at('heading')}>${heading}</h2>`}${linesAt(text, 'text', context)}</div>
      ${form ? formHtml(form) : buttonHtml(button, context)}
    </div></div>`;
  },
  style,
});
