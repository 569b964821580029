import type { FieldDefinition, FieldValues } from '../fields/fields.js';
import type { Form } from '../forms/index.js';
import type { FindingCode } from '../words/index.js';
import type { Html } from '../html/index.js';
import type { RenderContext } from '../markup/context.js';

/** What a block does for the reader. */
export type BlockGroup = 'Open' | 'Explain' | 'Show' | 'Prove' | 'Answer' | 'Ask' | 'Close';

/** Ink, the moss of what one presses, a soft grey, or the paper itself. */
export type GlyphTone = 'ink' | 'moss' | 'soft' | 'paper';

/** Something wrong with a block, at one of its fields. */
export interface BlockFinding {
  readonly severity: 'blocks' | 'worth-fixing';
  /** Its words stand in `core/words`. */
  readonly code: Extract<FindingCode, `${'frame' | 'countdown' | 'own-html' | 'map' | 'film'}-${string}`>;
  readonly field: string;
  /** What its words need. */
  readonly params?: object;
}

/** What one type of block holds and says. `Values` are its fields as `fields` defines them. */
export interface BlockDefinition<Values extends object = FieldValues> {
  readonly label: string;
  readonly group: BlockGroup;
  readonly fields: readonly FieldDefinition[];
  /** A small drawing of it, 42 by 26, as paths by what they are drawn with. */
  readonly glyph: readonly (readonly [tone: GlyphTone, path: string])[];
  /**
   * How the fields of one that was written before become what they are now: the first makes version 2 of version 1, and
   * so on. A field that is only added needs none.
   */
  readonly upgrades?: readonly ((fields: FieldValues) => FieldValues)[];
  /** What a new one holds beside blanks. Texts in ‹ › ask to be replaced; a check finds those that were not. */
  readonly example?: Partial<Values>;
  /** How many first headings (`h1`) it puts on a page. */
  readonly firstHeadings: 0 | 1;
  /** The words that tell one block of this type from another in the outline. */
  summary(values: Values): string;
  /** Whether one shows when the page's live period ends. */
  asksEnd?(values: Values): boolean;
  /** The form of one that asks visitors for something; `null` of one that does not. */
  form?(values: Values): Form | null;
  /** What is worth knowing of one in the margin: what it loads from elsewhere. */
  notes?(values: Values): string[];
  /** What is wrong with one, beyond what is checked of every text, link and picture. */
  findings?(values: Values): BlockFinding[];
}

/** What one type of block looks like. */
export interface BlockView<Values extends object = FieldValues> {
  render(values: Values, context: RenderContext): Html;
  /** A script for those pages that have one; it must be right without. */
  readonly script?: string;
  /** Its rules, using the custom properties of the theme only. */
  readonly style: string;
}

/** A definition as the registry holds it: values come from `valuesFromJSON`, so their shape is the definition's own. */
export function defineBlock<Values extends object>(definition: BlockDefinition<Values>): BlockDefinition {
  return definition as unknown as BlockDefinition;
}

/** A view as the registry holds it. */
export function viewOf<Values extends object>(view: BlockView<Values>): BlockView {
  return view as unknown as BlockView;
}
