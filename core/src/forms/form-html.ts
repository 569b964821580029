import { html, type Html } from '../html/index.js';
import { EMAIL_MAX, formFaultsOf, type Form } from './form.js';

/** A form as visitors get it; `null` where it can't work, so that nobody fills in what leads nowhere. */
export function formHtml(form: Form): Html | null {
  if (formFaultsOf(form).length || form.target?.kind !== 'outside') return null;
  const fields = form.fields.map(
    ({ name, label }) =>
      html`<label>${label}<input name="${name}" type="email" maxlength="${String(EMAIL_MAX)}" autocomplete="email" required></label>`,
  );
  return html`<form class="form" method="post" action="${form.target.url}">${fields}<button type="submit" class="button">${form.button}</button></form>`;
}
