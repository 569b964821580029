import { emailForm, formHtml } from '../../forms/index.js';
import { html } from '../../html/index.js';
import { buttonHtml, headingAt, linesAt } from '../../markup/parts.js';
import { style } from './style.js';
import { viewOf } from '../definition.js';
import type { CallToAction } from './schema.js';

export const callToActionView = viewOf<CallToAction>({
  render: ({ layout, heading, text, asks, askLabel, button }, context) => html`
    <div class="ask ${layout}"><div class="ask-inner">
      <div>${headingAt(heading, context)}${linesAt(text, 'text', context)}</div>
      ${asks === 'email' ? formHtml(emailForm(askLabel, button)) : buttonHtml(button, context)}
    </div></div>`,
  style,
});
