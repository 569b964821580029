import { existsSync } from 'node:fs';
import type { PortfolioId } from '@domatium/core/plan';
import { unpackPage, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import pMap from 'p-map';
import { rowsOf } from '../../platform/database/context.js';
import type { RenderInput, Shelves } from './input.js';
import * as store from './store.js';

const HREF = /\/-\/([0-9a-f]{64})\.([a-z0-9]{2,5})/g;
const AT_ONCE = 8;
/** What all pages of a theme share is packed before anybody asks; other texts when they are asked for. */
const PACKED: ReadonlySet<string> = new Set(['css', 'js']);

/** Addresses of files in a text. */
export const hrefsIn = (text: string) => [...text.matchAll(HREF)].map(([href]) => href);

/** Every file of a portfolio's shelves, by its address: what its pages may open by naming it in their own HTML or CSS. */
export function shelfHrefs({ pictures, shares, icons, files }: Shelves): Set<string> {
  return new Set([
    ...[...pictures.values()].flatMap(({ variants }) =>
      variants.flatMap(({ src, avif }) => (avif ? [src, avif] : [src])),
    ),
    ...[...shares.values()].map(({ src }) => src),
    ...[...icons.values()].flatMap((one) => (one ? [one.small, one.large] : [])),
    ...[...files.values()].map(({ src }) => src),
  ]);
}

/** The files a page is given by what it is made of: those of its blocks, its pictures and documents. */
export function hrefsGiven({ head, pictures, files }: RenderInput): string[] {
  return hrefsIn(JSON.stringify([head, pictures.map(([, picture]) => picture), files.map(([, { src }]) => src)]));
}

/** Addresses of every file that a stored page names, itself or through its own CSS and HTML. */
export async function filesAskedFor(blobs: BlobStore, artifact: string): Promise<string[]> {
  const packed = await blobs.read('pages', artifact);
  if (!packed) return [];
  const hrefs = hrefsIn(unpackPage(packed).toString());
  const inner: string[] = [];
  for (const href of hrefs.filter((one) => /\.(css|html)$/.test(one)))
    inner.push(...hrefsIn(String((await blobs.read('files', href.slice(3, 67))) ?? '')));
  return [...new Set([...hrefs, ...inner])];
}

/** Opens files to the visitors of a portfolio, each as what it is; stylesheets and scripts are packed for them before. */
export async function openFiles(blobs: BlobStore, portfolioId: PortfolioId, hrefs: Iterable<string>): Promise<void> {
  const parts = [...new Set(hrefs)].flatMap((href) => [...href.matchAll(HREF)]);
  const open = async ([, hash = '', ending = '']: RegExpExecArray) => {
    if (PACKED.has(ending)) await blobs.pack(hash);
    await blobs.openTo(portfolioId, hash, ending);
  };
  await pMap(parts, open, { concurrency: AT_ONCE });
}

/**
 * Opens the files of all that is published, once, on a disk that was written before files were opened one by one. What
 * ends as text (CSS, script, HTML) is opened where it is none of the files people brought in.
 */
export async function openPublished(database: Knex, blobs: BlobStore): Promise<void> {
  const rows = await rowsOf<{ portfolio_id: PortfolioId; artifact: string }>(
    database,
    'SELECT DISTINCT portfolio_id, artifact FROM route WHERE artifact IS NOT NULL',
  );
  if (!rows.length || existsSync(blobs.openFolder)) return;
  const brought = new Set(
    (await rowsOf<{ hash: string }>(database, 'SELECT DISTINCT hash FROM stored_file')).map(({ hash }) => hash),
  );
  const shelves = new Map<PortfolioId, Set<string>>();
  for (const { portfolio_id: id, artifact } of rows) {
    const shelf = shelves.get(id) ?? shelfHrefs(await store.shelvesOf(database, id));
    shelves.set(id, shelf);
    const isOurs = (href: string) =>
      shelf.has(href) || (/\.(css|js|html|woff2)$/.test(href) && !brought.has(href.slice(3, 67)));
    await openFiles(blobs, id, (await filesAskedFor(blobs, artifact)).filter(isOurs));
  }
}
