import type { Block, Part } from '../fields/types.js';
import type { LinkTarget } from '../fields/link.js';
import type { PageId, PictureId } from '../plan/index.js';
import type { Nav, NavAsked } from '../frame/index.js';
import type { Html } from '../html/index.js';

/** A picture ready to be shown: its size in pixels and the widths there are, smallest first. */
export interface RenderPicture {
  readonly width: number;
  readonly height: number;
  readonly variants: readonly { readonly width: number; readonly src: string; readonly avif?: string }[];
  /** The part of a picture that somebody chose: it is shown in its proportion, whatever the block cuts others to. */
  readonly crop?: object | null;
  /** How it is described, and was before it was replaced. */
  readonly description?: string;
  readonly formerWords?: readonly string[];
}

/** A file that is no picture, by its address. */
export interface RenderFile {
  readonly src: string;
  readonly name: string;
  readonly bytes: number;
  readonly ending: string;
  /** The day it was brought in, `YYYY-MM-DD`; known of films. */
  readonly uploaded?: string;
}

/** What stands around a page: a part, none at all, or, without a header or footer of its own (`null`), the name of its site. */
export interface PartsAround {
  readonly header: Part | 'none' | null;
  readonly footer: Part | 'none' | null;
  readonly bands: readonly Part[];
}

/** What a page is made in: the same on the canvas and for visitors. Everything in it belongs to the render key. */
export interface RenderWorld {
  /** The address of a page, or where it redirects; `null` where that leads nowhere. */
  pageHref(id: PageId): string | null;
  /** The title of a page that is live, `null` of one that is not. */
  titleOf(id: PageId): string | null;
  pictureOf(id: PictureId): RenderPicture | null;
  fileOf(id: number): RenderFile | null;
  /** The blocks of a piece that is used linked, `null` where it holds nothing now. */
  pieceOf(id: number): readonly Block[] | null;
  /** Shared values by their names, as they stand in texts between { }. */
  readonly values: ReadonlyMap<string, string>;
  readonly language: string;
  /** The site, for what stands around its pages: its name and where its home page lies. */
  readonly site: { readonly name: string; readonly home: string | null };
  /** The parts that stand around the page, for whoever renders all of it at once. */
  readonly parts: PartsAround;
  /** Whether a page is live: menus leave out those that are not. */
  isLive(id: PageId): boolean;
  /**
   * The ways through the site around a page, for whoever renders all of it at once; `null` where they are filled in when
   * pages and frames are put together.
   */
  readonly waysAround: { readonly nav: Nav | null; readonly pageId: number | null } | null;
  /** Whether it is shown to the one who makes it: a menu with nothing to show says so instead of standing nowhere. */
  readonly saysEmpty: boolean;
  /** When the page's live period ends, in milliseconds, with the zone it is written in; `null` where it does not. */
  readonly end: { readonly at: number; readonly zone: string } | null;
  /** Whether a moment has come: what counts to it shows what is shown afterwards. */
  isPast(at: number): boolean;
  /**
   * People's own HTML: an address of its own, the text itself where there is none, or, on the canvas, the text for what runs
   * it over the page.
   */
  apart(markup: string): { readonly src: string } | { readonly srcdoc: string } | { readonly held: string };
}

/** A world with nothing in it but what is given. */
export function worldOf(known: Partial<RenderWorld> = {}): RenderWorld {
  return {
    pageHref: () => null,
    titleOf: () => null,
    pictureOf: () => null,
    fileOf: () => null,
    pieceOf: () => null,
    values: new Map(),
    language: 'en',
    site: { name: '', home: null },
    isLive: () => true,
    parts: { header: null, footer: null, bands: [] },
    waysAround: null,
    saysEmpty: false,
    end: null,
    isPast: () => false,
    apart: (srcdoc) => ({ srcdoc }),
    ...known,
  };
}

/** What blocks get: the world, and what is of this one rendering. */
export interface RenderContext extends RenderWorld {
  /** The address a link leads to, or `null` where it leads nowhere: it is then shown as plain text. */
  hrefOf(target: LinkTarget): string | null;
  /** On the canvas the attribute that names the field an element shows; nothing on what visitors get. */
  at(field: string): Html | null;
  /** Blocks within a block, as they stand on a page of their own but for their looks; nothing on them names a field. */
  inner(blocks: readonly Block[], looks: string): Html;
  /** What marks a link to the page one is on, where the same part stands around many pages; filled in when they are put together. */
  current(id: PageId): Html | null;
  /** Where ways through the site come: `inside` holds the marks of `core/frame`; on the canvas `none` is said where there is nothing to show. */
  ways(asked: NavAsked | 'menu', inside: string, none: string): Html;
  /** Hands out whether a picture is the first of the page: that one is fetched at once, the others as they come near. */
  takeFirstPicture(): boolean;
}
