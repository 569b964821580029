import type { Block, PageDocument } from '@domatium/core/document';
import type { PageId, PictureId } from '@domatium/core/plan';
import type { ShareImage } from '@domatium/core/metadata';
import type { PageFrame, RENDER_VERSION, RenderFile, RenderPicture, RenderWorld } from '@domatium/core/render';
import type { Followed } from '@domatium/core/routing';
import type { SiteProfile } from '@domatium/core/stock';
import type { Theme } from '@domatium/core/theme';

/** Everything a render depends on. Its hash is the render key, under which the result is found again. */
export interface RenderInput {
  readonly version: typeof RENDER_VERSION;
  readonly document: PageDocument;
  readonly frame: Omit<PageFrame, 'ownStyleHref'>;
  /** Where each page that is referred to leads, `null` for nowhere. */
  readonly hrefs: readonly (readonly [PageId, string | null])[];
  /** Titles of the pages it lists that are live. */
  readonly titles: readonly (readonly [PageId, string])[];
  readonly pictures: readonly (readonly [PictureId, RenderPicture])[];
  readonly files: readonly (readonly [number, RenderFile])[];
  readonly pieces: readonly (readonly [number, readonly Block[]])[];
  readonly values: readonly (readonly [string, string])[];
  /** Own CSS of the site. */
  readonly siteCss: string;
  readonly end: RenderWorld['end'];
  /** The moments it counts to that have come. */
  readonly past: readonly number[];
}

/** What stays the same while a portfolio is published. */
export interface Shelves {
  readonly pictures: ReadonlyMap<PictureId, RenderPicture>;
  /** Pictures in the form in which they are shared, by the picture they were made of. */
  readonly shares: ReadonlyMap<PictureId, ShareImage>;
  /** Small icons, by the picture they were made of. */
  readonly icons: ReadonlyMap<PictureId, PageFrame['icons']>;
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
  /** What the site is. */
  readonly profile: SiteProfile;
  readonly theme: Theme;
  readonly pieces: readonly (readonly [number, readonly Block[]])[];
  readonly values: readonly (readonly [string, string])[];
  readonly siteCss: string;
  readonly end: RenderWorld['end'];
  readonly past: readonly number[];
}
