import { COLOUR_PLACES, type ColourPlace } from './colour-places.js';
import type { Instant } from '../time/index.js';
import { faultWords, type Said } from './faults.js';
import { findingWords, type FindingCode, type WriteInstant } from './findings.js';

/** How instants are written for whoever reads: as they are, and as ends of intervals. */
export interface WritePlan {
  readonly at: WriteInstant;
  readonly end: WriteInstant;
}

/** Why a release can't be as it was asked for, by code, in words. */
export const RELEASE_FAULTS = {
  'page-twice': () => 'This release already changes this page; a release changes each page once.',
  'page-elsewhere': () => 'That page isn’t in this portfolio.',
  'in-the-past': () => 'That time is in the past. Choose a later one.',
  'deleted-for-ever': () => 'It has been deleted for ever.',
  'not-in-the-bin': () => 'It is not in the bin.',
  'in-the-bin': () => 'It is in the bin. Restore it first.',
  'ends-before-it-starts': () => 'It must end after it starts.',
  'starts-before-the-last-ends': () => 'It must start at or after the end of the period before it.',
  'no-plan-to-go-back-to': () =>
    'There is no plan to go back to: the page would not be live then. Choose what visitors get.',
  'cuts-later-periods': () => 'This cuts periods planned for later. Choose an earlier end, or confirm the cut.',
  'without-address': () => 'The page has no address then; its site has no host.',
  'no-such-period': () => 'That period isn’t planned any more. Look again.',
  'period-is-over': () => 'That period is over; what visitors got stays as it was.',
  'start-is-over': () => 'It has begun already; its start stays as it was.',
  'nothing-after-it': () => 'Choose what visitors get after its end.',
  'nothing-to-shift': () => 'Nothing is planned, so there is nothing to shift.',
  'shifted-too-far': () => 'Nothing can be planned after 31 December 2199. Choose fewer days.',
  'shifted-into-the-past': () => 'It would begin or end in the past.',
  'shifted-over-a-skipped-hour': (
    { at, became, next }: { readonly at: Instant; readonly became: Instant; readonly next: Instant },
    write,
  ) =>
    `Clocks skip an hour that day: ${write.at(at)} would become ${write.at(became)}, no longer before ${write.at(next)}. Choose another number of days.`,
  'without-end': () => 'It has no end, so nothing comes after it.',
  'never-live': () => 'It was never live, so nothing comes after it.',
  'site-elsewhere': () => 'That site isn’t in this portfolio.',
  'no-path': ({ why }: { readonly why: Said }) => faultWords(why),
  'not-there-then': () => 'The page doesn’t exist at that time.',
  'there-already': () => 'The page is at that address already.',
  'target-elsewhere': () => 'There is no such page in this portfolio.',
  'target-itself': () => 'That is this page itself: the redirect would lead round in a circle.',
  'address-taken': (
    {
      address,
      page,
      from,
      until,
      by,
      at,
    }: {
      readonly address: string;
      readonly page: string | null;
      readonly pageId: number;
      readonly from: Instant;
      readonly until: Instant | null;
      /** Who released the other page, and when; `at` is `null` where that is not known. */
      readonly by: string | null;
      readonly at: Instant | null;
    },
    write,
  ) => {
    const period = `from ${write.at(from)} ${until === null ? 'on' : `to ${write.end(until)}`}`;
    const decided = at === null ? '' : `, released by ${by ?? 'the system'} on ${write.at(at)}`;
    return `${address} is ${page ?? 'another page'} ${period}${decided}.`;
  },
  'item-twice': () => 'This release already changes this; a release changes each thing once.',
  'item-elsewhere': () => 'That isn’t in the stock of this portfolio.',
  'only-a-piece': () => 'Only pieces and what stands around pages can be taken off.',
  'theme-unreadable': ({
    place,
    ratio,
    isDark,
  }: {
    readonly place: ColourPlace;
    readonly ratio: number;
    readonly isDark: boolean;
  }) =>
    `${COLOUR_PLACES[place].replace(/^./, (first) => first.toUpperCase())}${isDark ? ', in dark colours,' : ''} can’t be read: its contrast is ${ratio.toFixed(1)} : 1. Choose other colours.`,
  'code-lacks': ({ why }: { readonly why: Said }) => faultWords(why),
  'part-blocks': (
    { code, params, part }: { readonly code: FindingCode; readonly params: object; readonly part?: string },
    { at }: WritePlan,
  ) => {
    const words = findingWords(code, params, at);
    if (!words) return 'Something in it is not for visitors. Look at its blocks.';
    return `${part ? `“${part}”: ` : ''}${words.message} ${words.mend}`.trim();
  },
  'css-blocks': ({ line, why }: { readonly line: number; readonly why: Said }) => `Line ${line}: ${faultWords(why)}`,
  'approvals-missing': ({
    site,
    approvals,
  }: {
    readonly site: string;
    readonly siteId: number;
    readonly approvals: number;
  }) =>
    approvals === 1
      ? `${site} wants an approval before a release. Prepare it, and somebody else approves it.`
      : `${site} wants ${approvals} approvals before a release. Prepare it, and others approve it.`,
} satisfies Record<string, (params: never, write: WritePlan) => string>;

export type ReleaseFaultCode = keyof typeof RELEASE_FAULTS;
/** What a code has to be told to be words; nothing for most. */
export type ReleaseFaultParams<Code extends ReleaseFaultCode = ReleaseFaultCode> =
  Parameters<(typeof RELEASE_FAULTS)[Code]> extends [infer Params, ...unknown[]] ? Params : Record<string, never>;

/** The words of a fault. */
export function releaseFaultWords<Code extends ReleaseFaultCode>(
  code: Code,
  params: ReleaseFaultParams<Code>,
  write: WritePlan,
): string {
  return (RELEASE_FAULTS[code] as (params: unknown, write: WritePlan) => string)(params, write);
}
