import { html, Html } from '../html/index.js';
import { CONSENT_WORDS, type ConsentWords } from '../words/consent.js';
import type { AskedPurpose } from './code.js';

/** Norwegian has one written form here, by whichever name. */
const SAME: Readonly<Record<string, string>> = { no: 'nb', nn: 'nb' };

/** The language the notice is in on a page of a language: the same where it speaks it, else English. */
export function consentLanguage(language: string): string {
  const [base = ''] = language.toLowerCase().split('-');
  const wanted = SAME[base] ?? base;
  return Object.hasOwn(CONSENT_WORDS, wanted) ? wanted : 'en';
}

/**
 * The notice that asks before what is not necessary runs, and the way back to it: both hidden until `codesScript` finds
 * that somebody is to be asked. Its two answers look alike, and the page can be used beside it.
 */
export function consentHtml(asked: readonly AskedPurpose[], pageLanguage: string): Html {
  const language = consentLanguage(pageLanguage);
  const words = CONSENT_WORDS[language] as ConsentWords;
  const said = html` lang="${language}" dir="ltr"`;
  const answer = (how: string, label: string) => html`<button type="button" data-allow="${how}">${label}</button>`;
  const several = asked.length > 1;
  const list = several
    ? html`<ul>${asked.map((purpose) => html`<li><label><input type="checkbox" value="${purpose}">${words[purpose]}</label></li>`)}</ul>`
    : html`<ul>${asked.map((purpose) => html`<li>${words[purpose]}</li>`)}</ul>`;
  return html`<p class="choices-again" hidden><button type="button"${said}>${words.again}</button></p><section class="choices" aria-label="${words.heading}" tabindex="-1"${said} data-asked="${asked.join(' ')}" hidden><h2>${words.heading}</h2><p>${words.lead}</p>${list}<div>${answer('none', words.none)}${several && answer('ticked', words.ticked)}${answer('all', words.all)}</div></section>`;
}
