import type { MomentInput, ReleaseChange, StockChange } from '@domatium/contracts';
import { groupBy } from '@domatium/core/plan';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { instantOf } from './apply.js';

/** All changes in words; many pages are counted, with the words they share. `isMany`: of drafts of many pages. */
export function summaryOfAll(
  changes: readonly ReleaseChange[],
  words: (change: ReleaseChange, isMany: boolean) => string,
): string {
  if (changes.length <= 3) return changes.map((change) => words(change, false)).join('; ');
  const kinds = groupBy(changes, (change) => words(change, true));
  const parts = [...kinds].map(([text, group]) => `${text} (${group.length.toLocaleString('en')} pages)`);
  return parts.length <= 3 ? parts.join('; ') : `Changed ${changes.length.toLocaleString('en')} pages`;
}

/** `revision`: `null` for the draft of one of many pages. */
export function summaryOf(change: ReleaseChange, zone: string, now: Instant, revision: number | null): string {
  const write = (moment: MomentInput) => writeInstant(instantOf(moment, now), zone, now);
  if (change.act === 'shift')
    return `Shifted by ${Math.abs(change.days)} ${Math.abs(change.days) === 1 ? 'day' : 'days'} ${change.days > 0 ? 'later' : 'earlier'}`;
  if (change.act === 'afterwards') return 'Changed what comes afterwards';
  if (change.act === 'bin') return 'Put in the bin';
  if (change.act === 'restore') return `Restored from the bin${change.isPlanned ? '' : ', off'}`;
  if (change.act === 'move') return `Moved to ${change.path} from ${write(change.at)}`;
  const until = change.until ? ` until ${writeEnd(instantOf(change.until, now), zone, now)}` : '';
  const more = change.act === 'release' ? (change.further?.length ?? 0) : 0;
  return change.act === 'release'
    ? `Put ${revision === null ? 'the drafts' : `revision ${revision}`} live from ${write(change.from)}${until}${more ? `, and ${more} more ${more === 1 ? 'period' : 'periods'}` : ''}`
    : `Took off from ${write(change.from)}${until}`;
}

/** A change of something in the stock. */
export function summaryOfStock(
  { act, from, until }: StockChange,
  name: string,
  zone: string,
  now: Instant,
  revision: number,
): string {
  const what = act === 'put' ? `Put revision ${revision} of ${name} on its pages` : `Took ${name} off its pages`;
  const begins = from === 'now' ? '' : ` from ${writeInstant(instantOf(from, now), zone, now)}`;
  const ends = until === null ? '' : ` until ${writeEnd(instantOf(until, now), zone, now)}`;
  return what + begins + ends;
}
