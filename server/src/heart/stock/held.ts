import type { StockHeld } from '@domatium/contracts';
import type { Code } from '@domatium/core/codes';
import { completeBlock, type Block } from '@domatium/core/document';
import type { PortfolioId } from '@domatium/core/plan';
import {
  alwaysAt,
  stockAt,
  type LegalPage,
  type Menu,
  type Part,
  type SharedMetadata,
  type SharedValue,
  type SiteProfile,
  type Standing,
  type StockContent,
} from '@domatium/core/stock';
import { THEMES, type Theme } from '@domatium/core/theme';
import type { Instant } from '@domatium/core/time';
import type { Context } from '../../platform/database/context.js';
import * as store from './store.js';

/** What holds at a moment, all of it: what the canvas renders with. */
export async function stockHeld({ database }: Context, portfolioId: PortfolioId, at: Instant): Promise<StockHeld> {
  const shelved = await store.stockOf(database, portfolioId);
  const heldOf = (id: number) => {
    const item = shelved.find((one) => one.id === id);
    return (item && stockAt(item.periods, at)?.content) ?? null;
  };
  const rows = await store.itemsOf(database, portfolioId);
  return {
    themes: {
      ...THEMES,
      ...Object.fromEntries(
        rows.flatMap(({ id, kind, key }) => {
          const held = kind === 'theme' ? heldOf(id) : null;
          return key && held ? [[key, held as Theme]] : [];
        }),
      ),
    },
    values: rows
      .filter(({ kind }) => kind === 'values')
      .map(({ id, site_id }) => ({ siteId: site_id, values: (heldOf(id) ?? []) as readonly SharedValue[] })),
    profiles: rows.flatMap(({ id, kind, site_id }) => {
      const periods = kind === 'profile' ? shelved.find((one) => one.id === id)?.periods : undefined;
      const held = periods && alwaysAt(periods, at);
      return held && site_id !== null ? [{ siteId: site_id, profile: held.content as SiteProfile }] : [];
    }),
    css: rows
      .filter(({ kind }) => kind === 'css')
      .map(({ id, site_id }) => ({
        siteId: site_id,
        css: (heldOf(id) as StockContent['css'] | null)?.css ?? '',
      })),
    pieces: rows
      .filter(({ kind }) => kind === 'piece')
      .map(({ id, name, draft }) => {
        const blocks = (heldOf(id) as readonly Block[] | null)?.map(completeBlock) ?? null;
        return { id, name, blocks, draft: blocks ? null : (draft as readonly Block[]).map(completeBlock) };
      }),
    parts: rows.flatMap(({ id, kind, name, draft }) => {
      if (kind !== 'header' && kind !== 'footer' && kind !== 'band') return [];
      const held = heldOf(id) as Part | null;
      const whole = (part: Part) => ({ ...part, blocks: part.blocks.map(completeBlock) });
      return [{ id, kind, name, part: held && whole(held), draft: held ? null : whole(draft as Part) }];
    }),
    standings: rows.flatMap(({ id, kind, key, site_id }) => {
      const held = kind === 'standing' ? (heldOf(id) as Standing | null) : null;
      return held ? [{ id, key, siteId: site_id, standing: held }] : [];
    }),
    menus: rows.flatMap(({ id, kind, key, site_id }) => {
      const held = kind === 'menu' ? (heldOf(id) as Menu | null) : null;
      return held && key !== null && site_id !== null ? [{ siteId: site_id, name: key, menu: held }] : [];
    }),
    legal: rows
      .filter(({ kind }) => kind === 'legal')
      .map(({ id, site_id }) => ({ siteId: site_id, pages: (heldOf(id) ?? []) as readonly LegalPage[] })),
    metadata: rows.flatMap(({ id, kind, key, site_id }) => {
      const held = kind === 'metadata' ? (heldOf(id) as SharedMetadata | null) : null;
      return held ? [{ id, key, siteId: site_id, metadata: held }] : [];
    }),
    codes: rows.flatMap(({ id, kind, name }) => {
      const held = kind === 'code' ? (heldOf(id) as Code | null) : null;
      return held ? [{ id, name, code: held }] : [];
    }),
  };
}
