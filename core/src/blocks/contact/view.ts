import { html } from '../../html/index.js';
import { linesHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Contact } from './schema.js';

export const contactView = viewOf<Contact>({
  render: ({ layout, name, address, phone, mail, legal, items }, context) => html`
    <div class="contact ${layout}"><div class="contact-who">
      ${name && html`<p class="contact-name"${context.at('name')}>${name}</p>`}
      ${address && html`<address${context.at('address')}>${linesHtml(address)}</address>`}
      ${(phone || mail) && html`<p>${phone && html`<a href="tel:${phone.replace(/[^+\d]/g, '')}"${context.at('phone')}>${phone}</a>`}${phone && mail && html`<br>`}${mail && html`<a href="mailto:${mail}"${context.at('mail')}>${mail}</a>`}</p>`}</div>
      ${
        items.length > 0 &&
        html`<ul>${items.map(({ button }, n) => {
          const href = button?.target ? context.hrefOf(button.target) : null;
          return (
            button?.label &&
            href !== null &&
            html`<li><a href="${href}"${context.at(`items[${n}].button.label`)}>${button.label}</a></li>`
          );
        })}</ul>`
      }
      ${legal && html`<div class="contact-legal"${context.at('legal')}>${linesHtml(legal)}</div>`}
    </div>`,
  style: `
.contact{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);padding-block:calc(var(--section)*.7);display:grid;gap:2rem clamp(2rem,6vw,5rem)}
.contact p{margin:0 0 .6em}.contact address{font-style:normal;margin-bottom:.6em}.contact address p{margin:0}
.contact-name{font:var(--display-weight) var(--step-1)/1.2 var(--display)}
.contact ul{list-style:none;margin:0;padding:0;display:flex;flex-direction:column;gap:.5rem}
.contact-legal{font-size:var(--small);color:var(--quiet);max-width:var(--measure)}
.contact.deep{max-width:none;background:var(--deep);color:var(--on-deep);padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}.contact.deep a{color:inherit}.contact.deep .contact-legal{color:inherit}
.contact.centred{text-align:center;justify-items:center}
@container(min-width:48rem){.contact:not(.centred){grid-template-columns:minmax(0,1fr) auto}.contact:not(.centred) .contact-legal{grid-column:1/-1}}`,
});
