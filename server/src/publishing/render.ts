import { absoluteAddress, type AddressStyle } from '@domatium/core/address';
import { picturesOf, type LinkTarget, type PageDocument } from '@domatium/core/document';
import { canonical, type PageId, type PictureId } from '@domatium/core/plan';
import { contextOf, pageHtml, RENDER_VERSION, type PageFrame, type RenderPicture } from '@domatium/core/render';
import type { Followed } from '@domatium/core/routing';
import { compress, packArtifact, sha256, type BlobStore } from '@domatium/storage';
import pMap from 'p-map';
import { insertRows, rowsOf, type Db } from '../database/context.js';
import type { ThemeFiles } from './files.js';

/** Everything a render depends on. Its hash is the render key, under which the result is found again. */
export interface RenderInput {
  readonly version: typeof RENDER_VERSION;
  readonly document: PageDocument;
  readonly frame: PageFrame;
  /** Where each page that is referred to leads, `null` for nowhere. */
  readonly hrefs: readonly (readonly [PageId, string | null])[];
  readonly pictures: readonly (readonly [PictureId, RenderPicture])[];
}

export interface SiteView {
  readonly name: string;
  readonly theme: ThemeFiles;
  readonly language: string;
  readonly host: string;
  readonly basePath: string;
  readonly isOwnHost: boolean;
}

/** What a page at a place becomes, with links leading where `ends` says. */
export function renderInput(
  document: PageDocument,
  site: SiteView,
  path: string,
  ends: ReadonlyMap<PageId, Followed>,
  pictures: ReadonlyMap<PictureId, RenderPicture>,
  style: AddressStyle,
  isFound: boolean,
): RenderInput {
  const used = [...new Set(picturesOf(document).map(({ value }) => value.pictureId))].flatMap((id) => {
    const picture = pictures.get(id);
    return picture ? [[id, picture] as const] : [];
  });
  const share = used[0]?.[1].variants.at(-1);
  const { stylesheetHref, fontHrefs } = site.theme;
  return {
    version: RENDER_VERSION,
    document,
    frame: {
      language: site.language,
      siteName: site.name,
      homeHref: site.basePath,
      stylesheetHref,
      fontHrefs,
      inlineStyle: null,
      canonical: isFound && !site.isOwnHost ? absoluteAddress(style, site.host, path) : null,
      isIndexable: isFound && !site.isOwnHost,
      shareImage: share ? absoluteAddress(style, site.host, share.src) : null,
    },
    hrefs: [...ends].map(([id, end]) => [id, hrefOf(end, site.host, style)] as const),
    pictures: used,
  };
}

/** A link's address: a path on the same host, an absolute address on another, `null` where it leads nowhere. */
function hrefOf(end: Followed, host: string, style: AddressStyle): string | null {
  if (end.kind === 'outside') return end.url;
  if (end.kind !== 'address') return null;
  return end.host === host ? end.path : absoluteAddress(style, end.host, end.path);
}

export const renderKeyOf = (input: RenderInput) => sha256(canonical(input));

export function renderHtml({ document, frame, hrefs, pictures }: RenderInput): string {
  const leads = new Map(hrefs);
  const shown = new Map(pictures);
  return pageHtml(
    document,
    frame,
    contextOf({
      hrefOf: (target: LinkTarget) => (target.kind === 'outside' ? target.url : (leads.get(target.pageId) ?? null)),
      pictureOf: (id) => shown.get(id) ?? null,
    }),
  );
}

/** Finds or makes the artifacts of many renders; gives each key's artifact. Blobs are on disk before this returns. */
export async function renderAll(
  db: Db,
  blobs: BlobStore,
  inputs: ReadonlyMap<string, RenderInput>,
): Promise<Map<string, string>> {
  const keys = [...inputs.keys()];
  const known = new Map(
    (
      await rowsOf<{ key: string; artifact: string }>(db, 'SELECT key, artifact FROM render WHERE key = ANY(?)', [keys])
    ).map(({ key, artifact }) => [key, artifact]),
  );
  await pMap([...known], async ([key, artifact]) => (await blobs.has('pages', artifact)) || known.delete(key), {
    concurrency: AT_ONCE,
  });
  const missing = keys.filter((key) => !known.has(key));
  const batch = blobs.batch('pages');
  const made = await renderEach(
    missing.map((key) => inputs.get(key) as RenderInput),
    (artifact, packed) => batch.add(artifact, packed),
  );
  await batch.commit();
  missing.forEach((key, index) => known.set(key, made[index] as string));
  await insertRows(
    db,
    'render',
    missing.map((key) => ({ key, artifact: known.get(key) })),
    'ON CONFLICT (key) DO UPDATE SET artifact = excluded.artifact',
  );
  return known;
}

/** As many as the thread pool of Node compresses and writes beside each other. */
const AT_ONCE = 8;

/** Renders, hashes and compresses; gives the artifacts in the order asked. What is the same is compressed and kept once. */
export async function renderEach(
  inputs: readonly RenderInput[],
  keep: (artifact: string, packed: Buffer) => Promise<void> | void,
): Promise<string[]> {
  const kept = new Set<string>();
  return pMap(
    inputs,
    async (input) => {
      const bytes = Buffer.from(renderHtml(input));
      const artifact = sha256(bytes);
      if (!kept.has(artifact)) {
        kept.add(artifact);
        await keep(artifact, packArtifact(await compress(bytes)));
      }
      return artifact;
    },
    { concurrency: AT_ONCE },
  );
}
