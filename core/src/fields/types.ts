import type { BlockType } from './names.js';
import type { PictureId } from '../plan/index.js';
import type { Canonical } from './canonical.js';
import type { FieldValues } from './fields.js';
import type { Moment } from './moment.js';

/** One block of a page. `id` is made by whoever adds it and never changes. */
export interface Block {
  readonly id: string;
  readonly type: BlockType;
  readonly fields: FieldValues;
  /** The version of its type's fields that it was written with; 1 where it says nothing. It is upgraded as it is read. */
  readonly version?: number;
}

/** One of the parts of the stock, the name of the site, nothing at all, or what is said further up. */
export type PartChoice = number | 'name' | 'none' | null;

/** What is to stand around pages. */
export interface PageFrame {
  readonly header: PartChoice;
  readonly footer: PartChoice;
  /** Bands in their order, from the top; `null` for what is said further up. */
  readonly bands: readonly number[] | null;
}

/**
 * What a page asks of search engines where it is not the usual: to be found, its links followed, shown in any length. The
 * names are those of the robots meta tag.
 */
export interface Robots {
  readonly noindex?: true;
  readonly nofollow?: true;
  readonly noarchive?: true;
  /** The most characters of its text that are shown below a result; 0 for none. */
  readonly maxSnippet?: number;
  /** How large its pictures are shown at most. */
  readonly maxImagePreview?: 'none' | 'standard' | 'large';
  /** From when on it is not to be found any more. */
  readonly unavailableAfter?: Moment;
}

/** A further element of a page's head: what it says of itself by a name, or where something that belongs to it lies. */
export type HeadElement =
  | { readonly kind: 'meta'; readonly name: string; readonly content: string }
  | { readonly kind: 'link'; readonly rel: string; readonly href: string };

export type FactKind = 'event' | 'product' | 'job' | 'business';
/**
 * What the page is about, stated for machines; values by the keys of `FACT_FIELDS`. What is left out is taken from the
 * page.
 */
export interface Fact {
  readonly kind: FactKind;
  readonly values: Readonly<Record<string, string | Moment>>;
}

/** The texts of a page beside its blocks. */
export const METADATA_TEXTS = ['title', 'description', 'shareTitle', 'shareDescription'] as const;
export type MetadataText = (typeof METADATA_TEXTS)[number];

export interface Metadata {
  readonly title: string;
  readonly description: string;
  /** What it is called, and how it is described, where it is shared; its title and description where it says nothing. */
  readonly shareTitle?: string;
  readonly shareDescription?: string;
  /** Its title stands alone, whatever is said to stand before and after titles. */
  readonly titleAlone?: true;
  /** Instead of all that is said further up; an empty one asks for the usual. */
  readonly robots?: Robots;
  /** Beside those that are said further up; of the same name they come before those. */
  readonly elements?: readonly HeadElement[];
  /** Where the same content is to be found instead; the page stands for itself where it says nothing. */
  readonly canonical?: Canonical;
  /** What it is about, each kind once. */
  readonly facts?: readonly Fact[];
  /** What people are to find it by; said to nobody outside. */
  readonly phrases?: readonly string[];
  /** The picture shown where the page is shared; the first of the page where it says nothing. */
  readonly sharePictureId?: PictureId;
  /** The picture its small icon is made of; that of its site where it says nothing. */
  readonly iconPictureId?: PictureId;
  /** The language it is written in, as a BCP 47 tag; that of its site where it says nothing. */
  readonly language?: string;
  /** The page's own CSS. */
  readonly css?: string;
  /** What stands around it, where it chooses itself. */
  readonly frame?: PageFrame;
}

/** A page's content. Immutable; it changes through `applyEdit`. */
export interface PageDocument {
  readonly metadata: Metadata;
  readonly blocks: readonly Block[];
  /** Blocks that found no place when the page took another start: kept with the draft, shown to nobody. */
  readonly tray?: readonly Block[];
}

/** A header, a footer or a notice band: its layout, or its tone, and its blocks. What is as usual is not kept. */
export interface Part {
  readonly layout: string;
  readonly blocks: readonly Block[];
  /** Where a band stands; above the header where it says nothing. */
  readonly place?: 'below' | 'foot';
  /** A band that visitors can close, for themselves, until it changes. */
  readonly isClosable?: true;
  /** What becomes of it while one scrolls; it scrolls away where it says nothing. */
  readonly stays?: 'stays' | 'lower' | 'returns';
  readonly shownAt?: 'wide' | 'narrow';
  /** Sites on which a band stands by itself, beside what is said there; not around pages that want no bands. */
  readonly sites?: 'all' | readonly number[];
}
