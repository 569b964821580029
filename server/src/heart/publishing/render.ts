import { absoluteAddress, NOT_FOUND_PATH, type AddressStyle } from '@domatium/core/address';
import { filledTarget, picturesOf, referencesOf, type PageDocument } from '@domatium/core/document';
import { canonical } from '@domatium/core/plan';
import {
  contentHtml,
  contextOf,
  RENDER_VERSION,
  worldOf,
  type PageHead,
  type RenderWorld,
} from '@domatium/core/render';
import type { Followed } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import { scopedCss } from '@domatium/core/theme';
import { durations, packPage, sha256, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import pMap from 'p-map';
import { insertRows, rowsOf } from '../../platform/database/context.js';
import type { PictureId, PortfolioId } from '@domatium/core/plan';
import { fileHref } from './files.js';
import type { RenderInput, Shelves, SiteView, Surroundings } from './input.js';
import { hrefsGiven, hrefsIn, openFiles } from './open.js';

/** What a page at a place becomes, with links leading where `ends` says. */
export function renderInput(
  document: PageDocument,
  site: SiteView,
  path: string,
  around: Surroundings,
  shelves: Shelves,
  scriptHrefs: PageHead['scriptHrefs'],
  style: AddressStyle,
): RenderInput {
  const isFound = !path.endsWith(NOT_FOUND_PATH);
  const whole = withPieces(document, around.pieces);
  const used = [...new Set(picturesOf(whole).map(({ value }) => value.pictureId))].flatMap((id) => {
    const picture = shelves.pictures.get(id);
    return picture ? [[id, picture] as const] : [];
  });
  const files = referencesOf(whole, 'file').flatMap((id) => {
    const file = shelves.files.get(id);
    return file ? [[id, file] as const] : [];
  });
  const { sharePictureId, iconPictureId } = document.metadata;
  const { language, shareId, title } = around.site;
  const shareOf = (id: PictureId | null | undefined) => (id ? shelves.shares.get(id) : null);
  const iconsOf = (id: PictureId | null | undefined) => (id ? shelves.icons.get(id) : null);
  // A drawing is no picture to those who fetch it for sharing.
  const first = picturesOf(whole)
    .flatMap(({ value: { pictureId, description, isDecorative } }) => {
      const picture = shelves.pictures.get(pictureId);
      const variant = picture?.variants.at(-1);
      if (!picture || !variant || variant.src.endsWith('.svg')) return [];
      const height = Math.round((variant.width * picture.height) / picture.width);
      const words = isDecorative ? '' : description;
      const share = shareOf(pictureId);
      return [
        share
          ? { ...share, description: words }
          : { src: variant.src, width: variant.width, height, description: words },
      ];
    })
    .at(0);
  const share = shareOf(sharePictureId) ?? first ?? shareOf(shareId);
  const types = new Set<string>(whole.blocks.map(({ type }) => type));
  const canonical = isFound && !site.isOwnHost ? canonicalOf(document, site, path, around, style) : null;
  // What stands around a page is no part of it, nor what it is to be found by.
  const { frame: _, phrases: __, ...metadata } = document.metadata;
  return {
    version: RENDER_VERSION,
    document: { ...document, metadata },
    head: {
      language,
      siteName: title,
      scriptHrefs: Object.fromEntries(Object.entries(scriptHrefs).filter(([type]) => types.has(type))),
      ownIcons: iconsOf(iconPictureId) ?? null,
      canonical: canonical?.address ?? null,
      isIndexable: isFound && !site.isOwnHost,
      homeAddress: canonical ? absoluteAddress(style, site.host, site.basePath || '/') : null,
      said: around.said,
      shareImage: share ? { ...share, src: absoluteAddress(style, site.host, share.src) } : null,
    },
    hrefs: around.ends.map(([id, end]) => [id, hrefOf(end, site.host, style)] as const),
    titles: around.titles,
    pictures: used,
    files,
    pieces: around.pieces,
    values: around.values,
    end: around.end,
    past: around.past,
    ...(canonical?.isElsewhere ? { isElsewhere: true as const } : {}),
  };
}

/** The address under which search engines are to know a page: its own, unless the one it names instead is there. */
function canonicalOf(
  { metadata: { canonical } }: PageDocument,
  site: SiteView,
  path: string,
  { ends, values }: Surroundings,
  style: AddressStyle,
): { readonly address: string; readonly isElsewhere: boolean } {
  const own = absoluteAddress(style, site.host, path);
  const target = canonical && filledTarget(canonical, new Map(values));
  const end = target?.kind === 'page' ? ends.find(([id]) => id === target.pageId)?.[1] : null;
  const there = end?.kind === 'address' && end.isDirect ? absoluteAddress(style, end.host, end.path) : null;
  const address = (target?.kind === 'outside' ? target.url : there) ?? own;
  return { address, isElsewhere: address !== own };
}

/** From when on a page asks search engines to leave it out, or to show another one; `null` for never. The epoch stands for always. */
export function hiddenFrom({ document, head, isElsewhere }: RenderInput): Instant | null {
  const { noindex, unavailableAfter } = document.metadata.robots ?? head.said.robots ?? {};
  return noindex || isElsewhere ? (0 as Instant) : ((unavailableAfter?.at as Instant | undefined) ?? null);
}

/** A document with the blocks of the pieces it uses, for all that is asked of a whole page. */
export function withPieces(document: PageDocument, pieces: Surroundings['pieces']): PageDocument {
  return pieces.length
    ? { ...document, blocks: [...document.blocks, ...pieces.flatMap(([, blocks]) => blocks)] }
    : document;
}

/** A link's address: a path on the same host, an absolute address on another, `null` where it leads nowhere. */
export function hrefOf(end: Followed, host: string, style: AddressStyle): string | null {
  if (end.kind === 'outside') return end.url;
  if (end.kind !== 'address') return null;
  return end.host === host ? end.path : absoluteAddress(style, end.host, end.path);
}

export const renderKeyOf = (input: RenderInput) => sha256(canonical(input));

/** Keeps a text as a file of its own, and gives its address. */
type Keep = (text: string, ending: string) => string;

/** Files that come with a rendering, by their address. */
export const keeping =
  (files: Map<string, Buffer>): Keep =>
  (text, ending) => {
    const bytes = Buffer.from(text);
    const href = fileHref(sha256(bytes), ending);
    files.set(href, bytes);
    return href;
  };

/** What blocks are rendered in. */
export function worldOfInput(input: RenderInput, keep: Keep): RenderWorld {
  const maps = {
    leads: new Map(input.hrefs),
    titles: new Map(input.titles),
    pictures: new Map(input.pictures),
    files: new Map(input.files),
    pieces: new Map(input.pieces),
  };
  const past = new Set(input.past);
  return worldOf({
    pageHref: (id) => maps.leads.get(id) ?? null,
    titleOf: (id) => maps.titles.get(id) ?? null,
    pictureOf: (id) => maps.pictures.get(id) ?? null,
    fileOf: (id) => maps.files.get(id) ?? null,
    pieceOf: (id) => maps.pieces.get(id) ?? null,
    values: new Map(input.values),
    language: input.head.language,
    end: input.end,
    isPast: (at) => past.has(at),
    apart: (markup) => ({
      src: keep(`<!doctype html><meta charset="utf-8"><base target="_blank">${markup}`, 'html'),
    }),
  });
}

/** Renders; puts the files that only this page has (own CSS, own HTML) into `files`, by their address. */
export function renderHtml(input: RenderInput, files: Map<string, Buffer>): string {
  const { document, head } = input;
  const keep = keeping(files);
  const css = scopedCss(document.metadata.css ?? '');
  const own = { ...head, ownStyleHref: css ? keep(css, 'css') : null };
  return contentHtml(document, own, contextOf(worldOfInput(input, keep)));
}

/** What a publication renders, and whose visitors it is opened to. */
export interface Renders {
  readonly portfolioId: PortfolioId;
  /** By their keys. */
  readonly inputs: ReadonlyMap<string, RenderInput>;
  /** Which files the pages' own HTML and CSS may name. */
  readonly shelf: ReadonlySet<string>;
  /** Whether visitors still get it; what is over and can't be rendered is left out. */
  readonly isNeeded: (key: string) => boolean;
}

const took = durations('domatium_render_seconds', 'Rendering, compressing and writing of what a publication needs.');

/** Pages that are rendered and written together: what a kill throws away. */
const BATCH = 500;

/**
 * Finds or makes the artifacts of many renders; gives each key's artifact. Blobs are on disk before this returns, and
 * before a render is noted; what was noted is not made again.
 */
export async function renderAll(db: Knex, blobs: BlobStore, renders: Renders): Promise<Map<string, string>> {
  const keys = [...renders.inputs.keys()];
  const known = new Map(
    (
      await rowsOf<{ key: string; artifact: string }>(db, 'SELECT key, artifact FROM render WHERE key = ANY(?)', [keys])
    ).map(({ key, artifact }) => [key, artifact]),
  );
  await pMap([...known], async ([key, artifact]) => (await blobs.has('pages', artifact)) || known.delete(key), {
    concurrency: AT_ONCE,
  });
  const missing = keys.filter((key) => !known.has(key));
  for (let first = 0; first < missing.length; first += BATCH) {
    const ended = took.startTimer();
    const rendered = await renderSome(blobs, renders, missing.slice(first, first + BATCH));
    ended();
    for (const { key, artifact } of rendered) known.set(key, artifact);
    await db.transaction(async (trx) => {
      // A note that is lost is made anew with its page: it need not wait for the disk.
      await trx.raw('SET LOCAL synchronous_commit TO off');
      const now = new Date();
      await insertRows(
        trx,
        'render',
        rendered.map((one) => ({ ...one, made_at: now })),
        'ON CONFLICT (key) DO UPDATE SET artifact = excluded.artifact, files = excluded.files, made_at = excluded.made_at',
      );
    });
  }
  return known;
}

interface Rendered {
  readonly key: string;
  readonly artifact: string;
  /** Addresses of every file it asks for. */
  readonly files: readonly string[];
}

async function renderSome(
  blobs: BlobStore,
  { inputs, portfolioId, shelf, isNeeded }: Renders,
  keys: readonly string[],
): Promise<Rendered[]> {
  const batch = blobs.batch('pages');
  const own = new Map<string, Buffer>();
  const rendered: Rendered[] = [];
  await renderEach(
    keys.map((key) => inputs.get(key) as RenderInput),
    async ({ index, artifact, text, files, packed }) => {
      for (const [href, bytes] of files) own.set(href, bytes);
      const named = [text, ...[...files.values()].map(String)].flatMap(hrefsIn).filter((href) => shelf.has(href));
      const key = keys[index] as string;
      const all = [...hrefsGiven(inputs.get(key) as RenderInput), ...files.keys(), ...named];
      rendered.push({ key, artifact, files: [...new Set(all)] });
      if (packed) await batch.add(artifact, packed);
    },
    (index) => !isNeeded(keys[index] as string),
  ).catch(async (error: unknown) => {
    await batch.drop();
    throw error;
  });
  await blobs.write('files', new Map([...own].map(([href, bytes]) => [href.slice(3, 67), bytes])));
  await openFiles(
    blobs,
    portfolioId,
    rendered.flatMap(({ files }) => files),
  );
  await batch.commit();
  return rendered;
}

/** As many as the thread pool of Node compresses and writes beside each other. */
const AT_ONCE = 8;

/** One page of many, rendered. */
interface One {
  readonly index: number;
  readonly artifact: string;
  readonly text: string;
  /** Files that only this page has, by their address. */
  readonly files: ReadonlyMap<string, Buffer>;
  /** As it lies on the disk; `null` where another of them is the same and was packed already. */
  readonly packed: Buffer | null;
}

/** Renders, hashes and compresses; gives each to `keep`. What is the same is compressed once. */
export async function renderEach(
  inputs: readonly RenderInput[],
  keep: (one: One) => Promise<void> | void,
  mayFail: (index: number) => boolean = () => false,
): Promise<void> {
  const packed = new Set<string>();
  await pMap(
    inputs,
    async (input, index) => {
      const files = new Map<string, Buffer>();
      const text = attempt(() => renderHtml(input, files), mayFail(index));
      if (text === null) return;
      const bytes = Buffer.from(text);
      const artifact = sha256(bytes);
      const isNew = !packed.has(artifact);
      packed.add(artifact);
      await keep({ index, artifact, text, files, packed: isNew ? await packPage(bytes) : null });
    },
    { concurrency: AT_ONCE },
  );
}

/** What work gives, or `null` where it throws and that may be. */
export function attempt<T>(work: () => T, mayFail: boolean): T | null {
  try {
    return work();
  } catch (error) {
    if (mayFail) return null;
    throw error;
  }
}
