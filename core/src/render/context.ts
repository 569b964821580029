import type { LinkTarget } from '../document/link.js';
import type { Html } from './html.js';
import type { PictureId } from '../plan/index.js';

/** A picture ready to be shown: its size in pixels and the widths there are, smallest first. */
export interface RenderPicture {
  readonly width: number;
  readonly height: number;
  readonly variants: readonly { readonly width: number; readonly src: string }[];
}

/** What blocks need to know of the world. Everything in it belongs to the render key. */
export interface RenderContext {
  /** The address a link leads to, or `null` where it leads nowhere: it is then shown as plain text. */
  hrefOf(target: LinkTarget): string | null;
  pictureOf(id: PictureId): RenderPicture | null;
  /** On the canvas the attribute that names the field an element shows; nothing on what visitors get. */
  at(field: string): Html | null;
  /** Hands out whether a picture is the first of the page: that one is fetched at once, the others as they come near. */
  takeFirstPicture(): boolean;
}

/** What a context is made of: the same on the canvas and for visitors. */
export type RenderWorld = Pick<RenderContext, 'hrefOf' | 'pictureOf'>;
