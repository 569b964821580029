import { buttonHtml, linesHtml, pictureHtml } from '../../markup/parts.js';
import { html } from '../../html/index.js';
import { emailForm, formHtml } from '../../forms/index.js';
import { style } from './style.js';
import { viewOf } from '../definition.js';
import type { Opening } from './schema.js';

export const openingView = viewOf<Opening>({
  render: ({ layout, kicker, heading, text, picture, button, asks, askLabel }, context) => html`
    <div class="opening ${picture ? layout : `${layout} bare`}">
      <div class="opening-words">
        ${kicker && html`<p class="kicker"${context.at('kicker')}>${kicker}</p>`}
        <h1${context.at('heading')}>${heading}</h1>
        ${text && html`<div class="lead"${context.at('text')}>${linesHtml(text)}</div>`}
        ${asks === 'email' ? formHtml(emailForm(askLabel, button)) : buttonHtml(button, context)}
      </div>
      ${picture && html`<div class="opening-picture"${context.at('picture')}>${pictureHtml(picture, context, layout === 'side' ? '(min-width: 60rem) 50vw, 100vw' : '100vw')}</div>`}
    </div>`,
  style,
});
