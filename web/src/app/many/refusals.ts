import type { ReleaseChange, ReleasePreview } from '@domatium/contracts';
import type { Faults } from '../releases/releasing.service';

/** Why a page can't take part, in the server's words. */
export interface RefusedPage {
  readonly pageId: number;
  readonly reasons: readonly string[];
}

export interface Refusals {
  readonly pages: readonly RefusedPage[];
  /** What is wrong with every page in the same way belongs to the field. */
  readonly fields: ReadonlyMap<string, string>;
  /** What is wrong with no page in particular. */
  readonly whole: readonly string[];
}

const PLACE = /^changes\[(\d+)\]\.([a-zA-Z-]+)/;

/** Sorts what is wrong with changes of many pages: by page where it is the page's, by field where it is everyone's. */
export function refusalsOf(
  changes: readonly ReleaseChange[],
  { fields, whole, isEveryones }: Faults,
  findings: ReleasePreview['findings'],
): Refusals {
  const byPage = new Map<number, Set<string>>();
  const byField = new Map<string, Map<string, Set<number>>>();
  const others: string[] = whole ? [whole] : [];
  const note = (pageId: number, message: string) => byPage.set(pageId, (byPage.get(pageId) ?? new Set()).add(message));
  for (const { path, message } of fields) {
    const [, index, field = ''] = PLACE.exec(path) ?? [];
    const pageId = changes[Number(index)]?.pageId;
    if (index === undefined || pageId === undefined) {
      others.push(message);
      continue;
    }
    const messages = byField.get(field) ?? new Map<string, Set<number>>();
    byField.set(field, messages.set(message, (messages.get(message) ?? new Set()).add(pageId)));
  }
  const everyone = new Map<string, string>();
  for (const [field, messages] of byField)
    for (const [message, ids] of messages)
      if (isEveryones || ids.size === changes.length) everyone.set(field, message);
      else for (const id of ids) note(id, message);
  for (const { pageId, severity, message } of findings) if (severity === 'blocks') note(pageId, message);
  return {
    pages: [...byPage].map(([pageId, reasons]) => ({ pageId, reasons: [...reasons] })),
    fields: everyone,
    whole: others,
  };
}
