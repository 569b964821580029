import { html } from '../../html/index.js';
import { buttonHtml, headingAt, richTextHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Offer } from './schema.js';

export const offerView = viewOf<Offer>({
  render: ({ layout, heading, price, per, before, body, button, note }, context) => html`
    <div class="offer ${layout}"><div class="offer-card">
      <div class="offer-price">
        ${headingAt(heading, context)}
        <p>${before && html`<s><span class="unseen">Before: </span><span${context.at('before')}>${before}</span></s> `}<strong${context.at('price')}>${price}</strong>${per && html` <span class="offer-per"${context.at('per')}>${per}</span>`}</p>
      </div>
      <div class="offer-body"><div class="offer-text"${context.at('body')}>${richTextHtml(body, context)}</div>${buttonHtml(button, context)}${note && html`<p class="offer-note"${context.at('note')}>${note}</p>`}</div>
    </div></div>`,
  style: `
.offer{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.offer-card{background:var(--tint);border-radius:calc(2*var(--corner));padding:clamp(1.75rem,5vw,3.5rem);display:grid;gap:1.5rem clamp(2rem,6vw,5rem)}
.offer h2{margin:0 0 .75rem}
.offer-price p{margin:0}.offer-price strong{font:var(--display-weight) var(--step-5)/1 var(--display);letter-spacing:var(--display-spacing);font-variant-numeric:tabular-nums}
.offer s{color:var(--quiet)}.offer-per{color:var(--quiet)}
.offer-text p,.offer-text ul,.offer-text ol{margin:0 0 1em}.offer-text ul,.offer-text ol{padding-inline-start:1.2em}.offer-text li>p{margin:0}
.offer-note{font-size:var(--small);color:var(--quiet);margin:1rem 0 0}
.offer.deep .offer-card{background:var(--deep);color:var(--on-deep)}.offer.deep s,.offer.deep .offer-per,.offer.deep .offer-note{color:inherit}.offer.deep .offer-text a{color:inherit}.offer.deep .button{background:var(--on-deep);color:var(--deep)}
.offer.plain .offer-card{background:none;border:2px solid var(--ink)}
@container(min-width:52rem){.offer-card{grid-template-columns:minmax(0,5fr) minmax(0,6fr);align-items:start}}`,
});
