import type { MomentInput, ReleaseChange, StockChange } from '@domatium/contracts';
import { groupBy } from '@domatium/core/plan';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { instantOf } from './apply.js';
import { say } from '@domatium/core/words/answers/releases';

/** All changes in words; many pages are counted, with the words they share. `isMany`: of drafts of many pages. */
export function summaryOfAll(
  changes: readonly ReleaseChange[],
  words: (change: ReleaseChange, isMany: boolean) => string,
): string {
  if (changes.length <= 3) return changes.map((change) => words(change, false)).join('; ');
  const kinds = groupBy(changes, (change) => words(change, true));
  const parts = [...kinds].map(([text, group]) => say.pages(text, group.length.toLocaleString('en')));
  return parts.length <= 3 ? parts.join('; ') : say.changedPages(changes.length.toLocaleString('en'));
}

/** `revision`: `null` for the draft of one of many pages. */
export function summaryOf(change: ReleaseChange, zone: string, now: Instant, revision: number | null): string {
  const write = (moment: MomentInput) => writeInstant(instantOf(moment, now), zone, now);
  if (change.act === 'shift')
    return say.shiftedBy(
      Math.abs(change.days),
      Math.abs(change.days) === 1 ? say.day : say.days,
      change.days > 0 ? say.later : say.earlier,
    );
  if (change.act === 'afterwards') return say.changedWhatComesAfterwards;
  if (change.act === 'bin') return say.putInTheBin;
  if (change.act === 'restore') return say.restoredFromTheBin(change.isPlanned ? '' : say.off);
  if (change.act === 'move') return say.movedToFrom(change.path, write(change.at));
  const until = change.until ? say.until(writeEnd(instantOf(change.until, now), zone, now)) : '';
  const more = change.act === 'release' ? (change.further?.length ?? 0) : 0;
  return change.act === 'release'
    ? say.putLiveFrom(
        revision === null ? say.theDrafts : say.revisionWithRevision(revision),
        write(change.from),
        until,
        more ? say.andMore(more, more === 1 ? say.period : say.periods) : '',
      )
    : say.tookOffFrom(write(change.from), until);
}

/** A change of something in the stock. */
export function summaryOfStock(
  { act, from, until }: StockChange,
  name: string,
  zone: string,
  now: Instant,
  revision: number,
): string {
  const what = act === 'put' ? say.putRevisionOfOnItsPages(revision, name) : say.tookOffItsPages(name);
  const begins = from === 'now' ? '' : say.from(writeInstant(instantOf(from, now), zone, now));
  const ends = until === null ? '' : say.until(writeEnd(instantOf(until, now), zone, now));
  return what + begins + ends;
}
