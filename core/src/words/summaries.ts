import type { Instant } from '../time/index.js';
import type { WritePlan } from './release-faults.js';

/** From when, and until when, something holds; `null` for the press itself, and for no end. */
interface Stretch {
  readonly from: Instant | null;
  readonly until: Instant | null;
}

const periods = (count: number) => (count === 1 ? '1 more period' : `${count} more periods`);
const days = (count: number) => `${Math.abs(count)} ${Math.abs(count) === 1 ? 'day' : 'days'}`;
const count = (value: number) => value.toLocaleString('en');
const ends = (until: Instant | null, write: WritePlan) => (until === null ? '' : ` until ${write.end(until)}`);
const begins = (from: Instant | null, write: WritePlan) => (from === null ? '' : ` from ${write.at(from)}`);

/** What a release did, by code, in words. */
export const SUMMARIES = {
  released: (
    { revision, from, until, more }: Stretch & { readonly revision: number | null; readonly more: number },
    write,
  ) =>
    `Put ${revision === null ? 'the drafts' : `revision ${revision}`} live${begins(from, write)}${ends(until, write)}${more ? `, and ${periods(more)}` : ''}`,
  'taken-off': ({ from, until }: Stretch, write) => `Took off${begins(from, write)}${ends(until, write)}`,
  /** `from`, `to`: whole addresses; releases of earlier versions kept only the path. */
  moved: (
    {
      path,
      at,
      from,
      to,
    }: { readonly path: string; readonly at: Instant; readonly from?: string; readonly to?: string },
    write,
  ) => `Moved ${from === undefined ? '' : `from ${from} `}to ${to ?? path} on ${write.at(at)}`,
  retimed: ({ from, until }: { readonly from: Instant | null; readonly until: Instant | null }, write) =>
    `Changed its period${from === null ? '' : `: from ${write.at(from)}`}${until === null ? ', no end' : ` to ${write.end(until)}`}`,
  shifted: ({ by }: { readonly by: number }) => `Shifted by ${days(by)} ${by > 0 ? 'later' : 'earlier'}`,
  'afterwards-changed': () => 'Changed what comes afterwards',
  binned: () => 'Put in the bin',
  restored: ({ isPlanned }: { readonly isPlanned: boolean }) => `Restored from the bin${isPlanned ? '' : ', off'}`,
  put: ({ name, revision, from, until }: Stretch & { readonly name: string; readonly revision: number }, write) =>
    `Put revision ${revision} of ${name} on its pages${begins(from, write)}${ends(until, write)}`,
  'put-nothing': ({ name, from, until }: Stretch & { readonly name: string }, write) =>
    `Took ${name} off its pages${begins(from, write)}${ends(until, write)}`,
  'pages-changed': ({ pages }: { readonly pages: number }) => `Changed ${count(pages)} pages`,
  /** `what`: its words where the version before kept no more of it. */
  undid: ({ what, at }: { readonly what: string | readonly object[]; readonly at: Instant }, write): string =>
    `Undid “${typeof what === 'string' ? what : summaryWords(what as readonly SummaryPart[], write)}” of ${write.at(at)}`,
} satisfies Record<string, (params: never, write: WritePlan) => string>;

export type SummaryCode = keyof typeof SUMMARIES;
type Params<Code extends SummaryCode> =
  Parameters<(typeof SUMMARIES)[Code]> extends [infer First, ...unknown[]] ? First : Record<string, never>;

/** One thing that a release did, to one page or thing, or to as many as `pages` says. */
export type SummaryPart = {
  readonly [Code in SummaryCode]: {
    readonly code: Code;
    readonly params: Params<Code>;
    readonly pages?: number;
  };
}[SummaryCode];

/** What a release did, in words for whoever reads now. */
export function summaryWords(parts: readonly SummaryPart[], write: WritePlan): string {
  return parts
    .map(({ code, params, pages }) => {
      const words = (SUMMARIES[code] as (params: unknown, write: WritePlan) => string)(params, write);
      return pages === undefined ? words : `${words} (${count(pages)} pages)`;
    })
    .join('; ');
}
