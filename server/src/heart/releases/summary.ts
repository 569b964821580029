import type { MomentInput, ReleaseChange, StockChange, WallTimeInput } from '@domatium/contracts';
import { canonical, groupBy } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { SummaryPart } from '@domatium/core/words';
import { instantOf } from './apply.js';

const FEW = 3;

/** What changes of pages do; many are counted, with what they share. `isMany`: of drafts of many pages. */
export function partsOfAll(
  changes: readonly ReleaseChange[],
  partOf: (change: ReleaseChange, isMany: boolean) => SummaryPart,
): SummaryPart[] {
  if (changes.length <= FEW) return changes.map((change) => partOf(change, false));
  const kinds = groupBy(
    changes.map((change) => partOf(change, true)),
    canonical,
  );
  const parts = [...kinds.values()].flatMap(([part, ...rest]) => (part ? [{ ...part, pages: rest.length + 1 }] : []));
  return parts.length <= FEW ? parts : [{ code: 'pages-changed', params: { pages: changes.length } }];
}

/** The address of a page before and after a move. */
export interface Moved {
  readonly from?: string;
  readonly to?: string;
}

/** `revision`: `null` for the draft of one of many pages. */
export function partOf(change: ReleaseChange, now: Instant, revision: number | null, moved: Moved = {}): SummaryPart {
  const at = (moment: MomentInput) => instantOf(moment, now);
  const end = (moment: WallTimeInput | null) => (moment === null ? null : instantOf(moment, now));
  switch (change.act) {
    case 'release':
      return {
        code: 'released',
        params: {
          ...{ revision, from: at(change.from), until: end(change.until) },
          more: change.further?.length ?? 0,
        },
      };
    case 'take-off':
      return { code: 'taken-off', params: { from: at(change.from), until: end(change.until) } };
    case 'move':
      return { code: 'moved', params: { path: change.path, at: at(change.at), ...moved } };
    case 'retime':
      return { code: 'retimed', params: { from: change.from && at(change.from), until: end(change.until) } };
    case 'shift':
      return { code: 'shifted', params: { by: change.days } };
    case 'afterwards':
      return { code: 'afterwards-changed', params: {} };
    case 'bin':
      return { code: 'binned', params: {} };
    case 'restore':
      return { code: 'restored', params: { isPlanned: change.isPlanned } };
  }
}

/** What a change of something in the stock does. */
export function partOfStock(
  { act, from, until }: StockChange,
  name: string,
  now: Instant,
  revision: number,
): SummaryPart {
  const during = {
    from: from === 'now' ? null : instantOf(from, now),
    until: until === null ? null : instantOf(until, now),
  };
  return act === 'put'
    ? { code: 'put', params: { name, revision, ...during } }
    : { code: 'put-nothing', params: { name, ...during } };
}
