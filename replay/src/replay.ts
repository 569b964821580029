import { joinPath } from '@domatium/core/address';
import type { AnswerInput, ReleaseChange, WallTimeInput } from '@domatium/contracts';
import { instantOfWall, startOfDay, dayOf, later, type Instant } from '@domatium/core/time';
import type { AccountId, PageId, PortfolioId, ReleaseId } from '@domatium/core/plan';
import { parseHost } from '@domatium/core/address';
import type {
  DemoAnswer,
  DemoIds,
  DemoLife,
  DemoCampaign,
  DemoPage,
  DemoPortfolio,
  DemoScenario,
  DemoTime,
} from '@domatium/demo';
import { randomFrom, type DemoSite } from '@domatium/demo';
import type { Knex } from 'knex';
import {
  hashPassword,
  makePage,
  newStock,
  publishReleases,
  release,
  saveDraft,
  saveStock,
  setInstant,
  type Context,
  type Publisher,
} from '@domatium/server';
import { insertPapers } from './papers.js';
import { insertPictures, type DrawnPicture } from './pictures.js';
import { insertVisits } from './visits.js';

export type Report = (step: string, done: number, of: number) => void;

interface Event {
  readonly at: Instant;
  readonly run: () => Promise<void>;
}

/** Replays a scenario through the real services, with a clock that moves from its past to the present. */
export async function replay(
  publisher: Publisher,
  scenario: DemoScenario,
  pictures: readonly DrawnPicture[],
  anchor: Instant,
  report: Report,
): Promise<void> {
  const { database } = publisher;
  const hash = await hashPassword(scenario.password);
  const accounts = new Map<string, AccountId>();
  for (const { email, name } of scenario.accounts) {
    const [row] = (await database('account').insert({ email, name, password_hash: hash }).returning('id')) as {
      id: AccountId;
    }[];
    if (row) accounts.set(email, row.id);
  }
  for (const portfolio of scenario.portfolios)
    await new PortfolioReplay(publisher, portfolio, accounts, anchor, report).run(pictures, scenario);
}

class PortfolioReplay {
  private readonly pages = new Map<string, { id: PageId; version: number }>();
  private readonly sites = new Map<string, { id: number; site: DemoSite }>();
  private portfolioId = 0 as PortfolioId;
  private pictureIds = new Map<string, number>();
  private readonly pieces = new Map<string, number>();
  private readonly releases: ReleaseId[] = [];

  constructor(
    private readonly publisher: Publisher,
    private readonly portfolio: DemoPortfolio,
    private readonly accounts: ReadonlyMap<string, AccountId>,
    private readonly anchor: Instant,
    private readonly report: Report,
  ) {}

  async run(pictures: readonly DrawnPicture[], { seed, listService }: DemoScenario): Promise<void> {
    const { database } = this.publisher;
    const { name, pages } = this.portfolio;
    const campaigns = await this.insertPlaces(database);
    this.pictureIds = await insertPictures(database, this.portfolioId, pictures);
    const paperIds = await insertPapers(database, this.publisher.blobs, this.portfolioId, this.portfolio.papers ?? []);
    const random = randomFrom(seed);
    const ids: DemoIds = {
      page: (key) => this.pages.get(key)?.id ?? null,
      picture: (key) => this.pictureIds.get(key) ?? 0,
      paper: (key) => paperIds.get(key) ?? 0,
      piece: (name) => this.pieces.get(name) ?? null,
      block: () =>
        Math.floor(random() * 2 ** 48)
          .toString(36)
          .padStart(8, '0'),
      listService: () => listService,
    };
    await this.stockUp(ids);
    const events = pages.flatMap((page) => this.eventsOf(page, ids, campaigns)).sort((a, b) => a.at - b.at);
    for (const [index, event] of events.entries()) {
      await event.run();
      if (index % 20 === 0 || index === events.length - 1)
        this.report(`${name}: pages and releases`, index + 1, events.length);
    }
    await this.label(database);
    await this.frameUp(ids);
    await publishReleases(this.publisher, this.portfolioId, this.releases);
    await this.arrange(database);
    // The past went out without them; from today on they are wanted.
    for (const { id, site } of this.sites.values())
      if (site.approvals) await database('site').where({ id }).update({ approvals: site.approvals });
    // What the scenario says was released in the past was out then; nobody was waiting for this machine.
    await database('release')
      .where({ portfolio_id: this.portfolioId })
      .whereNull('out_at')
      .update({ out_at: database.ref('at'), published_at: database.ref('at') });
    const visited = pages.flatMap((page) => {
      const known = this.pages.get(page.key);
      const place = this.sites.get(page.site);
      return known && place && page.role !== 'not-found'
        ? [{ id: known.id, page, host: place.site.host, path: joinPath(place.site.basePath, page.path) }]
        : [];
    });
    const rows = await insertVisits(database, this.portfolioId, this.portfolio.zone, visited, this.anchor);
    this.report(`${name}: days of visits`, rows, rows);
  }

  /** Themes, pieces and values, before the pages that use them. */
  private async stockUp(ids: DemoIds): Promise<void> {
    const owner = this.accounts.get(this.portfolio.members[0]?.email ?? '') ?? null;
    for (const { kind, name, theme, site, content, decided, from, until } of this.portfolio.stock ?? []) {
      const context = this.context(decided, owner);
      const siteId = site ? (this.sites.get(site)?.id ?? null) : null;
      const { id } = await newStock(context, this.portfolioId, {
        kind,
        name,
        key: theme ?? null,
        siteId,
        content: content(() => ids.block()),
      });
      if (kind === 'piece') this.pieces.set(name, id);
      await this.put(context, id, from, until);
    }
  }

  /** What stands around pages, once there are pages to lead to. */
  private async frameUp(ids: DemoIds): Promise<void> {
    const owner = this.accounts.get(this.portfolio.members[0]?.email ?? '') ?? null;
    const parts = new Map<string, number>();
    for (const { kind, name, key = null, site, content, decided, from, until } of this.portfolio.frames ?? []) {
      const context = this.context(decided, owner);
      const made = content({
        ...ids,
        part: (of) => parts.get(of) ?? null,
        site: (of) => this.sites.get(of)?.id ?? null,
      });
      const known = kind === 'standing' ? undefined : parts.get(name);
      const siteId = site ? (this.sites.get(site)?.id ?? null) : null;
      const id = known ?? (await newStock(context, this.portfolioId, { kind, name, key, siteId, content: made })).id;
      if (known) await saveStock(context, this.portfolioId, known, { version: 1, name, content: made });
      if (kind !== 'standing') parts.set(name, id);
      await this.put(context, id, from, until);
    }
  }

  private async put(context: Context, itemId: number, from: DemoTime, until: DemoTime | null): Promise<void> {
    const times = { from: this.wallOf(from), until: until ? this.wallOf(until) : null };
    const idempotencyKey = `demo-stock-${this.portfolioId}-${itemId}-${times.from.local}`;
    await release(context, this.portfolioId, {
      changes: [],
      stock: [{ act: 'put', itemId, ...times }],
      idempotencyKey,
    });
  }

  private async insertPlaces(database: Knex): Promise<Map<string, number>> {
    const { name, slug, zone, domains, sites, members, ownHost } = this.portfolio;
    const began = this.instantOf({ day: -1000, time: '00:00' });
    return database.transaction(async (trx) => {
      await setInstant(trx, began);
      const idOf = async (table: string, row: object) =>
        ((await trx(table).insert(row).returning('id')) as { id: number }[])[0]?.id ?? 0;
      const portfolio_id = (this.portfolioId = (await idOf('portfolio', { name, slug, zone })) as PortfolioId);
      for (const { email, role } of members)
        await trx('membership').insert({ portfolio_id, account_id: this.accounts.get(email), role });
      const domainIds = new Map<string, number>();
      for (const domain of domains) domainIds.set(domain, await idOf('domain', { portfolio_id, name: domain }));
      const hosts = new Map<string, number>();
      for (const host of new Set([ownHost, ...sites.map((site) => site.host)])) {
        const domain = parseHost(host)?.domain ?? '';
        hosts.set(
          host,
          await idOf('host', {
            portfolio_id,
            name: host,
            domain_id: domainIds.get(domain) ?? null,
            is_own: host === ownHost,
          }),
        );
      }
      for (const site of sites) {
        const id = await idOf('site', { portfolio_id, name: site.name, brand: site.brand, theme: site.theme });
        this.sites.set(site.key, { id, site });
        await trx('site_address').insert({
          portfolio_id,
          site_id: id,
          host_id: hosts.get(site.host),
          base_path: site.basePath,
          is_primary: true,
          from_at: new Date(began),
        });
      }
      const campaigns = new Map<string, number>();
      for (const campaign of this.portfolio.campaigns)
        campaigns.set(campaign.name, await idOf('campaign', this.campaignRow(portfolio_id, campaign)));
      return campaigns;
    });
  }

  private campaignRow(portfolio_id: number, { name, purpose, days, owner }: DemoCampaign): object {
    const day = (offset: number) => this.wallOf({ day: offset, time: '00:00' }).local.slice(0, 10);
    const owner_id = this.accounts.get(owner) ?? null;
    return { portfolio_id, name, purpose, from_day: day(days[0]), until_day: day(days[1]), owner_id };
  }

  /** Templates and labels, which visitors never notice. */
  private async arrange(database: Knex): Promise<void> {
    const portfolio_id = this.portfolioId;
    for (const { page, notes } of this.portfolio.templates)
      await database('page').where({ portfolio_id, name: page }).update({ is_template: true, template_notes: notes });
    for (const { page, text, person, day } of this.portfolio.tasks) {
      const [found] = (await database('page').where({ portfolio_id, name: page }).select('id')) as { id: number }[];
      if (!found) throw new Error(`The scenario gives a task to ${page}, which is not there`);
      const made = new Date(this.instantOf({ day: Math.min(day, 0) - 4, time: '10:00' }));
      await database('task').insert({
        portfolio_id,
        page_id: found.id,
        text,
        person_id: this.accounts.get(person),
        due_day: this.wallOf({ day, time: '00:00' }).local.slice(0, 10),
        made_at: made,
        reminded_on: made,
      });
    }
  }

  private async label(database: Knex): Promise<void> {
    const portfolio_id = this.portfolioId;
    for (const { name, words } of this.portfolio.labels) {
      const [label] = (await database('label').insert({ portfolio_id, name }).returning('id')) as { id: number }[];
      const pages = (await database('page')
        .where({ portfolio_id })
        .whereRaw('name ILIKE ANY(?)', [words.map((word) => `%${word}%`)])
        .select('id')) as { id: number }[];
      for (const { id } of pages)
        await database('page_label').insert({ portfolio_id, page_id: id, label_id: label?.id });
    }
  }

  private eventsOf(page: DemoPage, ids: DemoIds, campaigns: ReadonlyMap<string, number>): Event[] {
    const account = this.accounts.get(page.owner) ?? null;
    const make: Event = {
      at: this.instantOf(page.made),
      run: async () => {
        const document = page.documents[0]?.(ids);
        const site = this.sites.get(page.site);
        if (!document || !site) return;
        const { name, role, path } = page;
        const id = await makePage(this.context(page.made, account), this.portfolioId, {
          name,
          role,
          path,
          document,
          siteId: site.id,
          campaignId: campaigns.get(page.campaign ?? '') ?? null,
          ownerId: account,
        });
        this.pages.set(page.key, { id, version: 1 });
      },
    };
    const lives = page.lives.map((life): Event => ({
      at: this.instantOf(life.decided),
      run: () => this.releaseLife(page, life, ids, account),
    }));
    const moves = page.moves.map(({ at, path }): Event => ({
      at: this.instantOf(at),
      run: () =>
        this.press(at, account, {
          act: 'move',
          pageId: this.idOf(page.key),
          at: 'now',
          siteId: this.sites.get(page.site)?.id ?? 0,
          path,
          leaves: null,
        }),
    }));
    return [make, ...lives, ...moves];
  }

  private async releaseLife(page: DemoPage, life: DemoLife, ids: DemoIds, account: AccountId | null): Promise<void> {
    const known = this.pages.get(page.key);
    const document = page.documents[life.revision]?.(ids);
    if (!known || !document) return;
    const context = this.context(life.decided, account);
    // Written anew before each release: pages it links to may have come since.
    const saved = await saveDraft(context, this.portfolioId, known.id, known.version, document);
    known.version = saved.version;
    const until = life.until ? this.wallOf(life.until) : null;
    await this.press(life.decided, account, {
      act: 'release',
      pageId: known.id,
      from: this.wallOf(life.from),
      until,
      afterwards: life.afterwards ? this.answerOf(life.afterwards) : null,
      cutsLater: false,
    });
  }

  private async press(time: DemoTime, account: AccountId | null, change: ReleaseChange): Promise<void> {
    const { id } = await release(this.context(time, account), this.portfolioId, {
      changes: [change],
      idempotencyKey: `demo-${this.portfolioId}-${this.releases.length}`,
    });
    this.releases.push(id as ReleaseId);
  }

  private answerOf(answer: DemoAnswer): AnswerInput {
    return answer.kind === 'redirect'
      ? { kind: 'redirect', status: answer.status, target: { kind: 'page', pageId: this.idOf(answer.to) } }
      : answer;
  }

  private idOf(key: string): number {
    const page = this.pages.get(key);
    if (!page) throw new Error(`The scenario names ${key} before it is made`);
    return page.id;
  }

  private context(time: DemoTime, account: AccountId | null): Context {
    const now = this.instantOf(time);
    return { database: this.publisher.database, style: this.publisher.style, account, now, clock: () => now };
  }

  private wallOf({ day, time }: DemoTime): WallTimeInput {
    const { zone } = this.portfolio;
    return { local: `${dayOf(later(startOfDay(this.anchor, zone, day), 43_200_000), zone)}T${time}`, zone };
  }

  private instantOf(time: DemoTime): Instant {
    return instantOfWall(this.wallOf(time)) ?? this.anchor;
  }
}
