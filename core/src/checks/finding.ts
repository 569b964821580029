import type { Block, MetadataText, PageDocument, Robots } from '../document/index.js';
import type { PageId } from '../plan/index.js';
import type { RouteTable } from '../routing/index.js';
import type { Instant, Interval } from '../time/index.js';
import { findingWords, type FindingCode, type FindingParams, type WriteInstant } from '../words/index.js';

/** Something a check noticed: how serious, where, and what to do about it. */
export interface Finding {
  readonly check: string;
  /** What it is, with what its words need: the words themselves are made of both (`core/words`). */
  readonly code: FindingCode;
  readonly params: object;
  readonly severity: 'blocks' | 'worth-fixing';
  readonly message: string;
  /** What the person can do. */
  readonly mend: string;
  /** The block and field it stands in; `null` for the page or the plan as a whole. */
  readonly place:
    | { readonly blockId: string; readonly field: string }
    | { readonly metadata: MetadataText | 'css' | 'elements' | 'robots' | 'canonical' | 'facts' }
    | null;
  /** The page it is about, where it is a link to one. */
  readonly toPage?: PageId;
}

/** What pages show of the stock, over time. */
export interface SharedSight {
  /** What a piece is called, when it shows something, and all that it shows within a time; `null` where there is none. */
  readonly piece: (
    id: number,
    during: Interval,
  ) => { readonly name: string; readonly periods: readonly Interval[]; readonly blocks: readonly Block[] } | null;
  /** What names between { } hold within a time, from each instant at which that changes; the first is its start. */
  readonly values: (
    during: Interval,
  ) => readonly { readonly from: Instant; readonly values: ReadonlyMap<string, string> }[];
}

/** What checks look at: the document, and the plan as the release would make it. */
export interface CheckInput {
  readonly document: PageDocument;
  readonly pageId: PageId;
  /** When this document would be on the air. */
  readonly during: Interval;
  /** Pictures that are too small to be seen; left out where none is. */
  readonly tiny?: ReadonlySet<number>;
  /** Routes with the release, and without it. */
  readonly planned: RouteTable;
  readonly current: RouteTable;
  readonly now: Instant;
  /** What the page is for, and what is asked of search engines further up; left out where that is not known. */
  readonly search?: { readonly role: string; readonly said: Robots | null };
  /** When a page names another one for search engines; left out where that is not known. */
  readonly namesAnother?: (id: PageId) => readonly Interval[];
  /** What it shows of the stock; left out where it shows nothing of it. */
  readonly shared?: SharedSight;
  readonly nameOf: (id: PageId) => string;
  /** How an instant is written for the person who reads the finding. */
  readonly write: (at: Instant) => string;
}

export type Check = (input: CheckInput) => Finding[];
/** A check that needs no plan: it runs in the editor too. */
export type DocumentCheck = (input: Pick<CheckInput, 'document' | 'tiny'>) => Finding[];

/** Documents alone say nothing of instants. */
const UNWRITTEN: WriteInstant = () => '';

/** Something that was found, with its words. */
export function found<Code extends FindingCode>(
  check: string,
  severity: Finding['severity'],
  code: Code,
  params: FindingParams<Code>,
  place: Finding['place'],
  write: WriteInstant = UNWRITTEN,
): Finding {
  const words = findingWords(code, params, write) ?? { message: code, mend: '' };
  return { check, code, params: params as object, severity, ...words, place };
}
