import type { Interval } from '../time/index.js';
import { endOf } from '../time/index.js';
import type { LegalPage } from './menus.js';

/** What is wrong with a legal page of a site: none is named, or the named one is not live, now or from an instant on. */
export interface LegalFinding {
  readonly key: string;
  readonly kind: string;
  readonly what: 'missing' | 'not-live' | 'leaving';
  readonly pageId: number | null;
  /** From when on, of one that leaves; else it is so already. */
  readonly from: number | null;
}

/** When a page is live, in order; `null` where nothing is known of it. */
export type PeriodsOf = (pageId: number) => readonly Interval[] | null;

/** What is wrong with the legal pages of a site from an instant on. Of what is not known nothing is said. */
export function legalFindings(pages: readonly LegalPage[], periodsOf: PeriodsOf, now: number): LegalFinding[] {
  return pages.flatMap(({ key, name, pageId }): LegalFinding[] => {
    const one = { key, kind: name || key, pageId };
    if (pageId === null) return [{ ...one, what: 'missing', from: null }];
    const periods = periodsOf(pageId);
    if (!periods) return [];
    let until = now;
    for (const period of periods) if (period.from <= until && endOf(period) > until) until = endOf(period);
    if (until === now) return [{ ...one, what: 'not-live', from: null }];
    return until === Infinity ? [] : [{ ...one, what: 'leaving', from: until }];
  });
}
