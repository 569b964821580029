import { checkOutsideAddress, checkTypedPath } from '@domatium/core/address';
import { instantOfWall, isZone, LAST_INSTANT, LAST_WALL, parseInstant } from '@domatium/core/time';
import { lazy, mixed, number, object, string } from 'yup';
import { say } from '@domatium/core/words/answers/requests';

/** Schemas that several endpoints and forms share. Messages are for the person at the field. */
export const id = () =>
  number().integer(say.mustBeAnID).positive(say.mustBeAnID).max(Number.MAX_SAFE_INTEGER).required();

/** Identities as a query carries them: numbers with commas between. */
export const idList = (most: number) =>
  string()
    .matches(/^\d{1,15}(,\d{1,15})*$/, say.separateIdsWithCommas)
    .test('most', say.atMostAtOnce(most), (value) => !value || value.split(',').length <= most);
export const idsIn = (list: string): number[] => list.split(',').map(Number);

/** Spaces at both ends are dropped; what is no text stays what it is, to be refused. */
export const trim = (value: unknown): unknown => (typeof value === 'string' ? value.trim() : value);

export const name = () =>
  string()
    .transform(trim)
    .required(say.giveItAName)
    .max(200, say.atMost200Characters)
    .matches(/^[^\u0000-\u001f\u007f]*$/, say.theNameContainsAnInvisibleCharacter);

export const path = () =>
  string()
    .required(say.enterAnAddress)
    .test('path', (value, context) => {
      const checked = checkTypedPath(value);
      return checked.ok || context.createError({ message: checked.why.message });
    });

/** A wall-clock time in a zone, as a person chooses it. */
export const wallTime = object({
  local: string().required(say.chooseADateAndTime),
  zone: string()
    .required()
    .test('zone', say.unknownTimeZone, (zone) => isZone(zone)),
})
  .noUnknown()
  .test(
    'time',
    say.thatIsntADateAndTime,
    (value: unknown) => !value || instantOfWall(value as { local: string; zone: string }) !== null,
  )
  .test(
    'horizon',
    say.nothingCanBePlannedAfter,
    (value: unknown) => !value || (value as { local: string }).local <= LAST_WALL,
  );
export interface WallTimeInput {
  readonly local: string;
  readonly zone: string;
}

/** An instant as a query carries it: ISO 8601 with its offset. */
export const isoMoment = () =>
  string()
    .required(say.chooseAMoment)
    .test('moment', say.enterAMoment, (value) => !value || parseInstant(value) !== null)
    .test('horizon', say.nothingIsPlannedAfter, (value) => (parseInstant(value ?? '') ?? 0) <= LAST_INSTANT);

/** Now, or a wall-clock time. */
export const moment = lazy((value: unknown) =>
  value === 'now'
    ? mixed<'now'>((input): input is 'now' => input === 'now').required()
    : wallTime.required(say.chooseWhen),
);
export type MomentInput = 'now' | WallTimeInput;

export const redirectTarget = lazy((value: unknown) => {
  const kind = (value as { kind?: unknown } | null | undefined)?.kind;
  if (kind === 'outside')
    return object({
      kind: mixed<'outside'>().oneOf(['outside']).required(),
      url: string()
        .required(say.enterTheAddress)
        .test('url', (url, context) => {
          const checked = checkOutsideAddress(url, 'redirect');
          return checked.ok || context.createError({ message: checked.why.message });
        }),
    })
      .noUnknown()
      .required();
  return object({
    kind: mixed<'page'>().oneOf(['page'], say.chooseAPageOrAnOutside).required(say.chooseWhereItLeads),
    pageId: id().positive(say.chooseAPage).typeError(say.chooseAPage).required(say.chooseAPage),
  })
    .noUnknown()
    .required(say.chooseWhereItLeads);
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
      status: mixed<301 | 302>().oneOf([301, 302], say.choose301Or302).required(say.choose301Or302),
      target: redirectTarget,
    })
      .noUnknown()
      .required();
  return object({
    kind: mixed<'gone' | 'not-found'>()
      .oneOf(['gone', 'not-found'], say.chooseARedirectGoneOrNot)
      .required(say.chooseWhatVisitorsGet),
  })
    .noUnknown()
    .required(say.chooseWhatVisitorsGet);
});
