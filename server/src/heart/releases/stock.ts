import type { ReleasePreview, StockChange } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { codeFaults, type Code } from '@domatium/core/codes';
import { partFindingsOf } from '@domatium/core/checks';
import {
  paintStock,
  PART_KINDS,
  type Part,
  type StockContent,
  type StockKind,
  type StockPeriod,
} from '@domatium/core/stock';
import { readOwnCss, unreadablePair } from '@domatium/core/theme';
import type { Instant } from '@domatium/core/time';
import type { ReleaseFaultCode, ReleaseFaultParams, Said } from '@domatium/core/words';
import type { Db } from '../../platform/database/context.js';
import * as stock from '../stock/index.js';
import { instantOf, type ReleaseFault } from './apply.js';

/** Stands for the revision that the draft of a thing in the stock would become. */
export const DRAFT_OF_STOCK = -1;

/** What can stand nowhere: the others always hold something. */
const TAKEN_OFF: readonly StockKind[] = ['piece', 'standing', 'menu', 'metadata', 'code', 'root', ...PART_KINDS];

/** What is known where changes of the stock are applied. */
export interface StockGround {
  readonly items: ReadonlyMap<number, stock.ItemRow>;
  readonly before: ReadonlyMap<number, readonly StockPeriod[]>;
}

export interface AppliedStock {
  readonly after: ReadonlyMap<number, readonly StockPeriod[]>;
  readonly faults: readonly ReleaseFault[];
}

/** Things of the stock with their periods, for changes of them. */
export async function stockGround(db: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<StockGround> {
  const rows = await stock.itemsById(db, portfolioId, ids);
  const periods = await stock.periodsOf(db, ids);
  return {
    items: new Map(rows.map((row) => [row.id, row])),
    before: new Map(ids.map((id) => [id, periods.get(id) ?? []])),
  };
}

/**
 * What changes make of the stock, decided at `instant`: pure, for the preview and the press alike, with the rules of
 * pages. A thing is changed once in a release; a change with faults is left out.
 */
export function applyStock(
  changes: readonly StockChange[],
  { items, before }: StockGround,
  instant: Instant,
  revisionOf: (itemId: number) => number,
): AppliedStock {
  const after = new Map<number, readonly StockPeriod[]>();
  const faults: ReleaseFault[] = [];
  changes.forEach((change, index) => {
    const fault = <Code extends ReleaseFaultCode>(
      field: string,
      code: Code,
      ...[params]: ReleaseFaultParams<Code> extends Record<string, never> ? [] : [ReleaseFaultParams<Code>]
    ) => void faults.push({ path: `stock[${index}].${field}`, code, params: (params ?? {}) as object });
    const { act, itemId } = change;
    const item = items.get(itemId);
    const from = instantOf(change.from, instant);
    const until = change.until && instantOf(change.until, instant);
    if (after.has(itemId)) return fault('itemId', 'item-twice');
    if (!item) return fault('itemId', 'item-elsewhere');
    if (from < instant) return fault('from', 'in-the-past');
    if (until !== null && until <= from) return fault('until', 'ends-before-it-starts');
    if (act === 'take-off' && !TAKEN_OFF.includes(item.kind)) return fault('act', 'only-a-piece');
    const css = act === 'put' ? blockingCss(item) : null;
    if (css) return fault('content.css', 'css-blocks', css);
    const pair = act === 'put' && item.kind === 'theme' ? unreadablePair(item.draft as StockContent['theme']) : null;
    if (pair) return fault('content.colours', 'theme-unreadable', pair);
    const found = act === 'put' ? blockingPart(item) : null;
    if (found) return fault('content.blocks', 'part-blocks', found);
    const [lack] = act === 'put' && item.kind === 'code' ? codeFaults(item.draft as Code) : [];
    if (lack) return fault(`content.${lack.path}`, 'code-lacks', { why: { code: lack.code, params: lack.params } });
    after.set(itemId, paintStock(before.get(itemId) ?? [], act === 'put' ? revisionOf(itemId) : null, { from, until }));
  });
  return { after, faults };
}

/** CSS that would hide every page, with its line. */
function blockingCss({ kind, draft }: stock.ItemRow): { readonly line: number; readonly why: Said } | null {
  if (kind !== 'theme' && kind !== 'css') return null;
  const { css } = draft as StockContent['css'];
  const found = readOwnCss(css).faults.find(({ severity }) => severity === 'blocks');
  return found ? { line: found.line, why: { code: found.code, params: found.params } } : null;
}

/** What visitors should never meet in a header, a footer or a band: first content, a picture without words. */
function blockingPart({ kind, draft }: stock.ItemRow): ReleaseFaultParams<'part-blocks'> | null {
  if (!(PART_KINDS as readonly string[]).includes(kind)) return null;
  const found = partFindingsOf((draft as Part).blocks).find(({ severity }) => severity === 'blocks');
  return found ? { code: found.code, params: found.params } : null;
}

/** The drafts that changes put on pages, as revisions, by their things. */
export async function freezeStock(
  trx: Db,
  portfolioId: PortfolioId,
  changes: readonly StockChange[],
  { items }: StockGround,
  made: { readonly at: Instant; readonly by: number | null },
): Promise<Map<number, { readonly id: number; readonly number: number }>> {
  const frozen = new Map<number, { readonly id: number; readonly number: number }>();
  for (const { act, itemId } of changes) {
    const item = items.get(itemId);
    if (act === 'put' && item) frozen.set(itemId, await stock.freeze(trx, portfolioId, item, made));
  }
  return frozen;
}

/** What changes put on how many pages, for the sheet. */
export async function stockEffects(
  db: Db,
  portfolioId: PortfolioId,
  changes: readonly StockChange[],
  { items }: StockGround,
  instant: Instant,
): Promise<ReleasePreview['stock']> {
  const effects: ReleasePreview['stock'][number][] = [];
  for (const { act, itemId } of changes) {
    const item = items.get(itemId);
    if (!item) continue;
    effects.push({
      itemId,
      name: item.name,
      revision: act === 'put' ? (await stock.nextRevision(db, item)).number : null,
      draftVersion: item.draft_version,
      pages: (await stock.pagesShowing(db, portfolioId, item, instant, act === 'put')).length,
    });
  }
  return effects;
}
