import type { Block, PageDocument } from '@domatium/core/document';
import type { PageId, PictureId } from '@domatium/core/plan';
import type { SaidOfPage, ShareImage } from '@domatium/core/metadata';
import type {
  PageHead,
  PageIcons,
  RENDER_VERSION,
  RenderFile,
  RenderPicture,
  RenderWorld,
} from '@domatium/core/render';
import type { Followed } from '@domatium/core/routing';

/** Everything a render depends on. Its hash is the render key, under which the result is found again. */
export interface RenderInput {
  readonly version: typeof RENDER_VERSION;
  readonly document: PageDocument;
  readonly head: Omit<PageHead, 'ownStyleHref'>;
  /** Where each page that is referred to leads, `null` for nowhere. */
  readonly hrefs: readonly (readonly [PageId, string | null])[];
  /** Titles of the pages it lists that are live. */
  readonly titles: readonly (readonly [PageId, string])[];
  readonly pictures: readonly (readonly [PictureId, RenderPicture])[];
  readonly files: readonly (readonly [number, RenderFile])[];
  readonly pieces: readonly (readonly [number, readonly Block[]])[];
  readonly values: readonly (readonly [string, string])[];
  readonly end: RenderWorld['end'];
  /** The moments it counts to that have come. */
  readonly past: readonly number[];
  /** It names another page for search engines. */
  readonly isElsewhere?: true;
}

/** What stays the same while a portfolio is published. */
export interface Shelves {
  readonly pictures: ReadonlyMap<PictureId, RenderPicture>;
  /** Pictures in the form in which they are shared, by the picture they were made of. */
  readonly shares: ReadonlyMap<PictureId, ShareImage>;
  /** Small icons, by the picture they were made of. */
  readonly icons: ReadonlyMap<PictureId, PageIcons | null>;
  readonly files: ReadonlyMap<number, RenderFile>;
}

/** Where a page lies. */
export interface SiteView {
  readonly siteId: number;
  readonly host: string;
  readonly basePath: string;
  readonly isOwnHost: boolean;
}

/** What a page shows that changes with time, and not with the page itself. */
export interface Surroundings {
  readonly ends: readonly (readonly [PageId, Followed])[];
  readonly titles: readonly (readonly [PageId, string])[];
  /** What a page shows itself of what its site is; the rest is in its frame. */
  readonly site: { readonly language: string; readonly shareId: PictureId | null; readonly title: string };
  readonly pieces: readonly (readonly [number, readonly Block[]])[];
  readonly values: readonly (readonly [string, string])[];
  readonly end: RenderWorld['end'];
  readonly past: readonly number[];
  /** What is said of it further up to search engines and where it is shared. */
  readonly said: SaidOfPage;
}
