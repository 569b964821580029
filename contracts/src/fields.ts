import { checkOutsideAddress, checkTypedPath } from '@domatium/core/address';
import { instantOfWall, isZone, LAST_INSTANT, LAST_WALL, parseInstant } from '@domatium/core/time';
import { lazy, mixed, number, object, string } from 'yup';

/** Schemas that several endpoints and forms share. Messages are for the person at the field. */
export const id = () =>
  number().integer('Must be an ID.').positive('Must be an ID.').max(Number.MAX_SAFE_INTEGER).required();

/** Identities as a query carries them: numbers with commas between. */
export const idList = (most: number) =>
  string()
    .matches(/^\d{1,15}(,\d{1,15})*$/, 'Separate IDs with commas.')
    .test('most', `At most ${most} at once.`, (value) => !value || value.split(',').length <= most);
export const idsIn = (list: string): number[] => list.split(',').map(Number);

/** Spaces at both ends are dropped; what is no text stays what it is, to be refused. */
export const trim = (value: unknown): unknown => (typeof value === 'string' ? value.trim() : value);

export const name = () =>
  string()
    .transform(trim)
    .required('Give it a name.')
    .max(200, 'At most 200 characters.')
    .matches(/^[^\u0000-\u001f\u007f]*$/, 'The name contains an invisible character.');

export const path = () =>
  string()
    .required('Enter an address.')
    .test('path', (value, context) => {
      const checked = checkTypedPath(value);
      return checked.ok || context.createError({ message: checked.why });
    });

/** A wall-clock time in a zone, as a person chooses it. */
export const wallTime = object({
  local: string().required('Choose a date and time.'),
  zone: string()
    .required()
    .test('zone', 'Unknown time zone.', (zone) => isZone(zone)),
})
  .noUnknown()
  .test(
    'time',
    'That isn’t a date and time.',
    (value: unknown) => !value || instantOfWall(value as { local: string; zone: string }) !== null,
  )
  .test(
    'horizon',
    'Nothing can be planned after 31 December 2199. Choose an earlier day.',
    (value: unknown) => !value || (value as { local: string }).local <= LAST_WALL,
  );
export interface WallTimeInput {
  readonly local: string;
  readonly zone: string;
}

/** An instant as a query carries it: ISO 8601 with its offset. */
export const isoMoment = () =>
  string()
    .required('Choose a moment.')
    .test('moment', 'Enter a moment such as 2026-12-12T08:00Z.', (value) => !value || parseInstant(value) !== null)
    .test(
      'horizon',
      'Nothing is planned after 31 December 2199.',
      (value) => (parseInstant(value ?? '') ?? 0) <= LAST_INSTANT,
    );

/** Now, or a wall-clock time. */
export const moment = lazy((value: unknown) =>
  value === 'now'
    ? mixed<'now'>((input): input is 'now' => input === 'now').required()
    : wallTime.required('Choose when.'),
);
export type MomentInput = 'now' | WallTimeInput;

export const redirectTarget = lazy((value: unknown) => {
  const kind = (value as { kind?: unknown } | null | undefined)?.kind;
  if (kind === 'outside')
    return object({
      kind: mixed<'outside'>().oneOf(['outside']).required(),
      url: string()
        .required('Enter the address.')
        .test('url', (url, context) => {
          const checked = checkOutsideAddress(url, 'redirect');
          return checked.ok || context.createError({ message: checked.why });
        }),
    })
      .noUnknown()
      .required();
  return object({
    kind: mixed<'page'>().oneOf(['page'], 'Choose a page or an outside address.').required('Choose where it leads.'),
    pageId: id().positive('Choose a page.').typeError('Choose a page.').required('Choose a page.'),
  })
    .noUnknown()
    .required('Choose where it leads.');
});

export type AnswerInput =
  | {
      readonly kind: 'redirect';
      readonly status: 301 | 302;
      readonly target:
        { readonly kind: 'page'; readonly pageId: number } | { readonly kind: 'outside'; readonly url: string };
    }
  | { readonly kind: 'gone' }
  | { readonly kind: 'not-found' };

/** What an address gives where no page is live. */
export const answer = lazy((value: unknown) => {
  if ((value as { kind?: unknown } | null | undefined)?.kind === 'redirect')
    return object({
      kind: mixed<'redirect'>().oneOf(['redirect']).required(),
      status: mixed<301 | 302>().oneOf([301, 302], 'Choose 301 or 302.').required('Choose 301 or 302.'),
      target: redirectTarget,
    })
      .noUnknown()
      .required();
  return object({
    kind: mixed<'gone' | 'not-found'>()
      .oneOf(['gone', 'not-found'], 'Choose a redirect, gone or not found.')
      .required('Choose what visitors get.'),
  })
    .noUnknown()
    .required('Choose what visitors get.');
});
