import { EMPTY_DOCUMENT, type PageDocument } from '@domatium/core/document';
import { SLOTS, type FrameParts, type Slot } from '@domatium/core/frame';
import type { HostId, PortfolioId, SiteAddress } from '@domatium/core/plan';
import { siteFrameParts, type PartsAround, type RenderWorld, type SiteFrame } from '@domatium/core/render';
import { stableOver } from '@domatium/core/routing';
import {
  byReach,
  isCovered,
  isOfPages,
  partsAround,
  placeOnSite,
  standingOf,
  stockAt,
  type Part,
  type Said,
  type SiteProfile,
  type Standing,
} from '@domatium/core/stock';
import { scopedCss, type Theme } from '@domatium/core/theme';
import { contains, endOf, type Instant, type Interval } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import { dateOf, insertRows, type Db } from '../../platform/database/context.js';
import type { ShelvedItem } from '../stock/index.js';
import { codesAround, type CodesAround } from './codes.js';
import type { KeepBefore } from './cut.js';
import { framedPlaces, placeOf, writeLines, type MadeFrame, type Place } from './frame-lines.js';
import { readVariant, rulesIn, type PreparedPages, type Variant } from './framed-pages.js';
import type { Shelves, SiteView, Surroundings } from './input.js';
import { hrefsIn, openFiles, shelfHrefs } from './open.js';
import type { Publisher } from './publication.js';
import { keeping, renderInput, worldOfInput } from './render.js';
import {
  identityOf,
  ofKind,
  profileAt,
  signatureOf,
  siteCssAt,
  surroundingsAt,
  themeAt,
  type PortfolioOverTime,
  type Witness,
} from './surroundings.js';
import { rootAround } from './root.js';
import { Undrawn } from './undrawn.js';
import { isPart, waysOver, type WaysStretch } from './ways.js';

/** What frames are made of, as it is planned. */
export interface FrameWorld {
  readonly publisher: Publisher;
  readonly portfolioId: PortfolioId;
  readonly overTime: PortfolioOverTime;
  readonly shelves: Shelves;
  readonly hostName: (id: HostId) => string;
}

/** Sites whose frames are made anew. */
export type FramedSites = ReadonlySet<number> | 'all';
export const NO_SITES: FramedSites = new Set();

interface MadePart {
  readonly html: string;
  /** Addresses of every file it asks for. */
  readonly files: readonly string[];
}

/** Frames of sites, rendered. */
export interface PreparedFrames {
  readonly made: readonly MadeFrame[];
  /** Writes and opens the files they ask for: before they are written themselves, and with no transaction open. */
  readonly ready: () => Promise<void>;
  /** Writes them; gives the hosts on which any is another. */
  readonly write: (trx: Db, keep: KeepBefore) => Promise<HostId[]>;
}

/** Which frames are to be made: of sites that are asked for, and of places that have none yet. */
export interface DueFrames {
  readonly due: readonly { readonly address: SiteAddress; readonly variant: string; readonly isNew: boolean }[];
  /** Every place that is written, with its host. */
  readonly places: ReadonlyMap<string, HostId>;
}

export async function dueFrames(
  reader: Db,
  portfolioId: PortfolioId,
  world: { readonly siteAddresses: readonly SiteAddress[]; readonly pages: PreparedPages },
  sites: FramedSites,
  horizon: Instant,
): Promise<DueFrames> {
  const framed = await framedPlaces(reader, portfolioId);
  const keyOf = ({ hostId, basePath }: SiteAddress, variant: string) => placeOf(hostId, basePath, variant);
  const isNew = (address: SiteAddress, variant = '') => !framed.has(keyOf(address, variant));
  // Also where a site only redirects from: its page for what is not found is shown there too.
  const all = world.siteAddresses.filter((address) => isNew(address) || endOf(address.during) > horizon);
  const isAsked = (address: SiteAddress) => sites === 'all' || sites.has(address.siteId) || isNew(address);
  const asked = new Set(all.filter(isAsked).map((address) => keyOf(address, '')));
  const variantsOf = ({ siteId }: SiteAddress) => ['', ...world.pages.variantsOf(siteId)];
  // Sites that lie at one place one after the other are written together.
  const due = all.flatMap((address) =>
    variantsOf(address)
      .filter((variant) => asked.has(keyOf(address, '')) || isNew(address, variant))
      .map((variant) => ({ address, variant, isNew: isNew(address, variant) })),
  );
  const places = new Map(due.map(({ address, variant }) => [keyOf(address, variant), address.hostId]));
  // Variants that no page has any more are made no further.
  for (const [place, hostId] of framed) if (asked.has(placeOf(...siteOfPlace(place)))) places.set(place, hostId);
  return { due, places };
}

/** The frames that are due, split where anything in them changes. No page is rendered for them. */
export async function prepareFrames(
  world: FrameWorld,
  { due, places }: DueFrames,
  horizon: Instant,
): Promise<PreparedFrames> {
  const { publisher, portfolioId, overTime, shelves } = world;
  const shelf = due.length ? shelfHrefs(shelves) : new Set<string>();
  const parts = new Map<string, MadePart>();
  /** Of what was made already: most sites have much in common. */
  const hashes = new Map<string, string>();
  const frames: MadeFrame[] = [];
  const ownFiles = new Map<string, Buffer>();
  const ways = new Map<string, WaysStretch[]>();
  const undrawn = new Undrawn();
  const framing = framingOf(overTime.stock);
  for (const { address, variant, isNew } of due) {
    const { siteId, hostId, basePath } = address;
    const place = placeOf(hostId, basePath, variant);
    const from = isNew || address.during.from > horizon ? address.during.from : horizon;
    const site = { siteId, host: world.hostName(hostId), basePath, isOwnHost: false };
    const more = readVariant(variant);
    const during = { from, until: address.during.until };
    // The same around all variants of a site: found once.
    const wayKey = JSON.stringify([site, during]);
    const ownWays = ways.get(wayKey) ?? waysOver(overTime, site, publisher.style, during);
    ways.set(wayKey, ownWays);
    const standing = () =>
      stableOver(
        during,
        (at, witness) => standingAt(world, framing, site, more, ownWays, at, witness),
        (a, b) => a.sameness === b.sameness,
      );
    const stretches: { during: Interval; parts: FrameParts }[] = [];
    for (const { during: stretch, value } of undrawn.unless(place, site.host, standing) ?? []) {
      const own = new Map<string, Buffer>();
      const css = scopedCss(value.css);
      const frame = await siteFrame(world, site, value, css, own);
      const made = undrawn.unless(place, site.host, () => siteFrameParts(...frame));
      if (!made) break;
      for (const [href, bytes] of own) ownFiles.set(href.slice(3, 67), bytes);
      const hashed = (slot: Slot) =>
        made[slot].map((html) => {
          const hash = hashes.get(html) ?? sha256(html);
          if (hashes.has(html) && !own.size && !css) return hash;
          hashes.set(html, hash);
          const inner = slot === 'head' ? [css] : slot === 'icons' ? [] : [...own.values()].map(String);
          const named = inner.flatMap(hrefsIn).filter((href) => shelf.has(href));
          const files = [...new Set([...(parts.get(hash)?.files ?? []), ...hrefsIn(html), ...named])];
          parts.set(hash, { html, files });
          return hash;
        });
      const slots = Object.fromEntries(SLOTS.map((slot) => [slot, hashed(slot)])) as unknown as FrameParts;
      const texts = Object.entries({ nav: value.ways, codes: value.codes.text, root: value.root }).flatMap(
        ([slot, text]) => {
          if (!text) return [];
          const files = slot === 'codes' ? value.codes.files : [];
          parts.set(sha256(text), { html: text, files });
          return [[slot, [sha256(text)]] as const];
        },
      );
      for (const [hash, script] of value.codes.scripts) ownFiles.set(hash, script);
      stretches.push({
        during: stretch,
        parts: { ...slots, ...(Object.fromEntries(texts) as Pick<FrameParts, 'nav' | 'codes' | 'root'>) },
      });
    }
    frames.push({ hostId, basePath, variant, during, stretches });
  }
  const files = [...parts.values()].flatMap((part) => part.files);
  const made = frames.filter(({ hostId, basePath, variant }) => !undrawn.has(placeOf(hostId, basePath, variant)));
  return {
    made,
    ready: async () => {
      if (!parts.size) return;
      await publisher.blobs.write('files', ownFiles);
      await openFiles(publisher.blobs, portfolioId, files);
    },
    write: async (trx, keep) => {
      const drawn = {
        places: new Map([...places].filter(([place]) => !undrawn.has(place))),
        frames: made,
        parts,
      };
      await undrawn.tell(trx, portfolioId, [...places.keys()]);
      return writeFrames(trx, portfolioId, drawn, horizon, { now: publisher.clock(), keep });
    },
  };
}

/** What stands around the pages of a site at an instant, and a text that is the same where that is. */
interface Stands extends PartsAround {
  readonly profile: SiteProfile;
  readonly theme: Theme;
  readonly css: string;
  /** The blocks of all parts, as a document, and what it shows. */
  readonly document: PageDocument;
  readonly around: Surroundings;
  /** The ways through the site, as they are kept. */
  readonly ways: string;
  readonly codes: CodesAround;
  readonly root: string;
  readonly sameness: string;
}

/** What of the stock decides what stands around pages, found once for all sites. */
interface Framing {
  readonly rules: readonly (ReturnType<typeof rulesIn>[number] & Pick<ShelvedItem, 'periods'>)[];
  readonly bands: readonly ShelvedItem[];
  readonly codes: readonly ShelvedItem[];
  readonly roots: readonly ShelvedItem[];
  readonly parts: ReadonlyMap<number, ShelvedItem>;
  /** The blocks of parts that stand together as one document, so that what it asks for is found once. */
  readonly documents: Map<string, PageDocument>;
}

function framingOf(stock: readonly ShelvedItem[]): Framing {
  const byId = new Map(stock.map((item) => [item.id, item]));
  return {
    rules: rulesIn(stock)
      .sort(byReach)
      .map((rule) => ({ ...rule, periods: byId.get(rule.id)?.periods ?? [] })),
    bands: ofKind(stock, 'band'),
    codes: ofKind(stock, 'code'),
    roots: ofKind(stock, 'root'),
    parts: new Map([...byId].filter(([, item]) => isPart(item))),
    documents: new Map(),
  };
}

function standingAt(
  { overTime, publisher }: FrameWorld,
  framing: Framing,
  site: SiteView,
  more: Variant,
  allWays: readonly WaysStretch[],
  at: Instant,
  witness: Witness,
): Stands {
  const { stock } = overTime;
  const profile = profileAt(stock, site.siteId, at, witness);
  const theme = themeAt(stock, profile.theme, at, witness);
  const css = siteCssAt(stock, site.siteId, at, witness);
  const place = placeOnSite(site.siteId, site.host);
  const said = framing.rules.flatMap((rule): Said[] => {
    if (!(isOfPages(rule.for) ? more.rules.includes(rule.id) : isCovered(rule.for, place))) return [];
    const standing = (stockAt(rule.periods, at, witness)?.content ?? null) as Standing | null;
    return standing ? [{ rule, standing }] : [];
  });
  const standing = standingOf([
    ...said,
    ...(more.own ? [{ rule: null, standing: { ...more.own, isLocked: false } }] : []),
  ]);
  // Of bands all that hold, since they may stand there by themselves; of others those that are said.
  const named = [...new Set([standing.header.value, standing.footer.value])].flatMap((id) =>
    typeof id === 'number' ? (framing.parts.get(id) ?? []) : [],
  );
  const shown = [...framing.bands, ...named.filter(({ kind }) => kind !== 'band')].map(({ id, periods }) => ({
    id,
    part: (stockAt(periods, at, witness)?.content ?? null) as Part | null,
  }));
  const { header, footer, bands } = partsAround(standing, shown, site.siteId);
  const parts = [header, footer, ...bands].filter((one): one is Part => one !== null && one !== 'none');
  const together = parts.map(identityOf).join();
  const document = framing.documents.get(together) ?? {
    ...EMPTY_DOCUMENT,
    blocks: parts.flatMap(({ blocks }) => blocks),
  };
  framing.documents.set(together, document);
  const around = surroundingsAt(overTime, document, site, null, at, witness);
  const objects = [profile, theme, ...parts].map(identityOf);
  const held = allWays.find(({ during }) => contains(during, at));
  if (held) witness(held.during.from, endOf(held.during));
  const ways = held?.value ?? '';
  const codes = codesAround(framing.codes, site.siteId, publisher.files.codesScript, at, witness);
  const root = rootAround(framing.roots, site, publisher.style, at, witness);
  const sorts = [header, footer].map((one) => typeof one);
  const sameness = JSON.stringify([objects, sorts, css, ways, codes.text, root, signatureOf(around)]);
  return { profile, theme, css, header, footer, bands, document, around, ways, codes, root, sameness };
}

/** A site's frame and the world it is rendered in; files that come with it are put into `own`. */
async function siteFrame(
  { publisher, shelves }: FrameWorld,
  site: SiteView,
  stands: Stands,
  css: string,
  own: Map<string, Buffer>,
): Promise<[SiteFrame, RenderWorld]> {
  const { profile, theme, header, footer, bands, document, around } = stands;
  const { scripts } = publisher.files;
  const input = renderInput(document, site, site.basePath, around, shelves, scripts, publisher.style);
  const live = new Set(around.ends.flatMap(([id, end]) => (end.kind === 'address' && end.isDirect ? [id] : [])));
  const frame = {
    siteName: profile.brand,
    homeHref: site.basePath,
    ...(await publisher.files.ofTheme(theme)),
    siteStyleHref: css ? await publisher.files.ofCss(css) : null,
    inlineStyle: null,
    icons: (profile.iconId && shelves.icons.get(profile.iconId)) || null,
    partScripts: Object.values(input.head.scriptHrefs),
    frameScript: publisher.files.frameScript,
  };
  return [
    frame,
    { ...worldOfInput(input, keeping(own)), isLive: (id) => live.has(id), parts: { header, footer, bands } },
  ];
}

/** The frame of the site at the same place. */
const siteOfPlace = (place: string): Place => {
  const [hostId, basePath] = JSON.parse(place) as Place;
  return [hostId, basePath, ''];
};

/** Writes frames, and the parts that stand on any line anew; gives the hosts on which anything is another. */
async function writeFrames(
  trx: Db,
  portfolioId: PortfolioId,
  made: {
    /** Every place that is written, with its host. */
    readonly places: ReadonlyMap<string, HostId>;
    readonly frames: readonly MadeFrame[];
    readonly parts: ReadonlyMap<string, MadePart>;
  },
  horizon: Instant,
  { now, keep }: { readonly now: Instant; readonly keep: KeepBefore },
): Promise<HostId[]> {
  if (!made.places.size) return [];
  const { hosts, parts } = await writeLines(trx, portfolioId, made.places, made.frames, horizon, keep);
  await insertRows(
    trx,
    'part',
    [...made.parts]
      .filter(([hash]) => parts.has(hash))
      .map(([hash, { html, files }]) => ({ hash, html, files, made_at: dateOf(now) })),
    'ON CONFLICT (hash) DO UPDATE SET made_at = excluded.made_at, files = excluded.files',
  );
  return hosts;
}
