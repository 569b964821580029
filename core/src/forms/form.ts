import type { FindingCode } from '../words/index.js';
import type { Button } from '../fields/fields.js';
import type { LinkTarget } from '../fields/link.js';
import { namesIn } from '../text/names.js';

/** One thing that is asked. The browser fills it in and checks it by its kind (HTML, 4.10.5 and 4.10.18.7). */
export interface FormField {
  readonly kind: 'email';
  /** The name under which the answer is sent. */
  readonly name: string;
  readonly label: string;
}

/** What is asked, and to whom the answers are sent. */
export interface Form {
  readonly fields: readonly FormField[];
  /** What the button says. */
  readonly button: string;
  readonly target: LinkTarget | null;
}

/** The longest e-mail address there is (RFC 5321, 4.5.3.1.3, without the angle brackets). */
export const EMAIL_MAX = 254;

/** A field for an e-mail address, named as list services commonly name it. */
export const emailField = (label: string): FormField => ({
  kind: 'email',
  name: 'email',
  label: label.trim() || 'Your e-mail address',
});

/** A form that asks for an e-mail address, sent where the block’s button leads. */
export const emailForm = (label: string, button: Button | null): Form => ({
  fields: [emailField(label)],
  button: button?.label ?? '',
  target: button?.target ?? null,
});

/** What keeps a form from working, by the code of its words. */
export type FormFault = Extract<FindingCode, `form-${string}`>;

/**
 * What keeps a form from working, as a person can mend it. Published pages take no answers themselves: they go to an
 * outside service, over an encrypted line unless it is on this machine.
 */
export function formFaultsOf({ button, target }: Form): FormFault[] {
  if (!button.trim()) return ['form-without-button'];
  if (target === null) return ['form-without-target'];
  if (target.kind !== 'outside') return [target.kind === 'page' ? 'form-to-page' : 'form-to-nobody'];
  // An address of a shared value is judged as it is filled in.
  if (namesIn(target.url).length) return [];
  const { protocol, hostname } = new URL(target.url);
  const isHere = hostname === 'localhost' || hostname.endsWith('.localhost');
  return protocol === 'https:' || (protocol === 'http:' && isHere) ? [] : ['form-unencrypted'];
}
