import { computed, inject, Injectable, signal } from '@angular/core';
import type { HeldPiece, StockHeld, StockView } from '@domatium/contracts';
import type { Block } from '@domatium/core/document';
import type { Nav } from '@domatium/core/frame';
import { isBelow, pathBelow } from '@domatium/core/address';
import type { RegisterRow } from '@domatium/core/register';
import type { PartsAround } from '@domatium/core/render';
import {
  partsAt,
  placeOnSite,
  roleAt,
  ruleFor,
  valueMap,
  yearValues,
  type MetadataRule,
  type PageFrame,
  type PagePlace,
  type SharedValue,
  type SiteProfile,
} from '@domatium/core/stock';
import { THEMES, type Theme } from '@domatium/core/theme';
import { isoInstant, yearOf, type Instant } from '@domatium/core/time';
import { debounceTime, filter } from 'rxjs';
import { ClockService } from './clock.service';
import { RegisterService } from './register.service';
import { api, Api, Refusal } from './api';

/** Themes, pieces and shared values of the portfolio: what there is, and what holds at a moment. */
@Injectable({ providedIn: 'root' })
export class StockService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly clock = inject(ClockService);
  private portfolioId = 0;
  /** What holds now. */
  readonly held = signal<StockHeld | null>(null);
  readonly items = signal<readonly StockView[] | null>(null);
  readonly pieces = computed(() => this.held()?.pieces ?? []);
  readonly themes = computed(() => (this.items() ?? []).filter(({ kind }) => kind === 'theme'));

  /** The ways through sites as visitors get them now, of those that were asked about. */
  private readonly waysKnown = signal<ReadonlyMap<number, Nav | null>>(new Map());
  private readonly waysAsked = new Set<number>();

  constructor() {
    this.register.events
      .pipe(
        filter(({ kind }) => kind === 'stock' || kind === 'released' || kind === 'again'),
        debounceTime(80),
      )
      .subscribe(() => void this.load());
  }

  async open(portfolioId: number): Promise<void> {
    if (this.portfolioId !== portfolioId) {
      this.held.set(null);
      this.items.set(null);
      this.waysAsked.clear();
      this.waysKnown.set(new Map());
    }
    this.portfolioId = portfolioId;
    await this.load();
  }

  async load(): Promise<void> {
    const { portfolioId } = this;
    if (!portfolioId) return;
    try {
      const [held, items] = await Promise.all([
        // What was released a moment ago holds too.
        this.heldAt(this.clock.precise()),
        this.client.call(api.stock, { params: { portfolioId } }),
      ]);
      if (portfolioId !== this.portfolioId) return;
      this.held.set(held);
      this.items.set(items);
      for (const siteId of this.waysAsked) await this.lookUpWays(siteId);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  /** The ways through a site as visitors get them now; none until they are known. */
  waysOf(siteId: number | null | undefined): Nav | null {
    const known = this.waysKnown();
    if (siteId && !this.waysAsked.has(siteId)) {
      this.waysAsked.add(siteId);
      queueMicrotask(() => void this.lookUpWays(siteId));
    }
    return known.get(siteId ?? 0) ?? null;
  }

  private async lookUpWays(siteId: number): Promise<void> {
    const nav = await this.waysAt(siteId, this.register.now());
    this.waysKnown.update((known) => new Map(known).set(siteId, nav));
  }

  async waysAt(siteId: number, at: Instant): Promise<Nav | null> {
    try {
      const asked = { params: { portfolioId: this.portfolioId }, query: { siteId, at: isoInstant(at) } };
      return (await this.client.call(api.siteWays, asked)).nav;
    } catch (error) {
      if (error instanceof Refusal) return null;
      throw error;
    }
  }

  heldAt(at: Instant): Promise<StockHeld> {
    return this.client.call(api.stockHeld, {
      params: { portfolioId: this.portfolioId },
      query: { at: isoInstant(at) },
    });
  }
}

/** The theme of a key as it holds, or as it ships. */
export function themeOf(held: StockHeld | null, key: string | undefined): Theme {
  return held?.themes[key ?? ''] ?? THEMES.ferry;
}

/** What a piece shows on a draft: what visitors get of it, or what it is released with. */
export const blocksOf = ({ blocks, draft }: HeldPiece): readonly Block[] | null => blocks ?? draft;

/** Own CSS of a site, as it holds. */
export const siteCssOf = (held: StockHeld | null, siteId: number | null | undefined): string =>
  held?.css.find((one) => one.siteId === siteId)?.css ?? '';

const UNKNOWN: SiteProfile = { brand: '', language: 'en', theme: 'ferry', iconId: null, shareId: null };

/** What a site is, as it holds. */
export const profileOf = (held: StockHeld | null, siteId: number | null | undefined): SiteProfile =>
  held?.profiles.find((one) => one.siteId === siteId)?.profile ?? UNKNOWN;

/** Shared values for a site at a moment, those of the site over those of the portfolio. */
export function valuesOf(
  held: StockHeld | null,
  siteId: number | null,
  at: Instant,
  zone: string,
): ReadonlyMap<string, string> {
  const layer = (id: number | null): readonly SharedValue[] =>
    held?.values.find((one) => one.siteId === id)?.values ?? [];
  const own = yearValues(yearOf(at, zone), profileOf(held, siteId).brand);
  return valueMap(own, layer(null), siteId === null ? [] : layer(siteId));
}

/** Where a site lies. */
interface SitePlace {
  readonly id: number;
  readonly host: string;
  readonly basePath: string;
}

/** What is known of a page for what is said of what stands around it. */
export function placeOfRow(row: RegisterRow | null | undefined, site: SitePlace | null | undefined): PagePlace {
  if (!row) return placeOnSite(site?.id ?? null, site?.host);
  const path =
    site?.host === row.host && isBelow(site.basePath, row.path) ? pathBelow(site.basePath, row.path) : row.path;
  return { pageId: row.id, siteId: row.siteId, path, host: row.host, labels: row.labels, role: roleAt(row.role, path) };
}

/** What stands around a page, as it holds. */
export const partsOf = (held: StockHeld | null, place: PagePlace, own?: PageFrame | null): PartsAround =>
  partsAt(held ?? { parts: [], standings: [] }, place, own);

/** What is said to search engines, and where pages are shared, by the rules that say it. */
export const metadataRules = (held: StockHeld | null): MetadataRule[] =>
  (held?.metadata ?? []).flatMap(({ id, key, siteId, metadata }) => {
    const about = ruleFor(key, siteId);
    return about ? [{ id, for: about, metadata }] : [];
  });
