import { blockTypes } from '../blocks/registry.js';
import type { Block, MetadataText, PageDocument } from '../fields/types.js';
import type { Fault, Result } from '../fields/result.js';
import { plainTextOf, type RichText } from '../fields/rich-text.js';
import { cutAtWord, fillText, nameKey } from '../text/index.js';
import { wrong } from '../words/faults.js';

/** What can stand between { }: the name of something a page or its portfolio has, at most so long, or words. */
export type PatternTerm =
  | { readonly kind: 'name'; readonly name: string; readonly most: number | null }
  | { readonly kind: 'words'; readonly words: string };
/** Words as they are, and places: the first of its terms that is something holds. */
export type Pattern = readonly (string | readonly PatternTerm[])[];

export const MAX_PATTERN = 600;
/** The longest a name can be asked to come to. */
export const MOST_OF_NAME = 500;

/** What patterns can ask for of a page and its portfolio, beside shared values. */
export const PATTERN_NAMES = [
  'page name',
  'page title',
  'page description',
  'first heading',
  'first paragraph',
  'offer name',
  'offer price',
  'campaign',
  'portfolio',
] as const;
export type PatternName = (typeof PATTERN_NAMES)[number];
export const isPatternName = (name: string): name is PatternName => (PATTERN_NAMES as readonly string[]).includes(name);

const PLACE = /\{((?:[^{}"\n]|"[^"\n]*")*)\}/g;

/**
 * A pattern from what was typed: words with places between { }. In a place stand names and words in quotes, the first that
 * is something before the others: `{offer price|"Prices"}`; a name can be cut at the end of a word: `{first paragraph:150}`.
 */
export function readPattern(typed: string): Result<Pattern> {
  const faults: Fault[] = [];
  const parts: (string | readonly PatternTerm[])[] = [];
  let last = 0;
  for (const match of typed.matchAll(PLACE)) {
    parts.push(typed.slice(last, match.index), termsOf(match[1] ?? '', faults));
    last = match.index + match[0].length;
  }
  parts.push(typed.slice(last));
  const words = parts.filter((part) => typeof part === 'string');
  if (words.some((part) => /[{}]/.test(part))) faults.push({ path: '', ...wrong('pattern-braces') });
  if (!typed.trim()) faults.push({ path: '', ...wrong('pattern-empty') });
  if (typed.length > MAX_PATTERN)
    faults.push({ path: '', ...wrong('text-too-long', { length: typed.length, most: MAX_PATTERN }) });
  return faults.length ? { ok: false, faults } : { ok: true, value: parts.filter((part) => part !== '') };
}

/** A `|` outside of quotes, which are in pairs. */
const OR = /\|(?=(?:[^"]*"[^"]*")*[^"]*$)/;

function termsOf(typed: string, faults: Fault[]): PatternTerm[] {
  return typed.split(OR).flatMap((piece): PatternTerm[] => {
    const words = /^\s*"([^"]*)"\s*$/.exec(piece);
    if (words) return [{ kind: 'words', words: words[1] ?? '' }];
    const [, name, most] = /^\s*([^":]+?)\s*(?::\s*(\d+)\s*)?$/.exec(piece) ?? [];
    if (!name?.trim()) faults.push({ path: '', ...wrong('pattern-place', { place: `{${typed}}` }) });
    else if (most !== undefined && (Number(most) < 1 || Number(most) > MOST_OF_NAME))
      faults.push({ path: '', ...wrong('not-a-number', { least: 1, most: MOST_OF_NAME }) });
    else return [{ kind: 'name', name: nameKey(name), most: most === undefined ? null : Number(most) }];
    return [];
  });
}

/** The names a pattern asks for, each once. */
export const namesOfPattern = (pattern: Pattern): string[] => [
  ...new Set(
    pattern.flatMap((part) =>
      typeof part === 'string' ? [] : part.flatMap((term) => (term.kind === 'name' ? [term.name] : [])),
    ),
  ),
];

/** What a text says itself, which it can't be made of. */
const ITSELF: Partial<Record<MetadataText, PatternName>> = { title: 'page title', description: 'page description' };

/** Why a pattern can't be what some text is made of: names that nobody knows, or the text itself; `null` where it can. */
export function patternFault(pattern: Pattern, of: MetadataText, values: ReadonlySet<string>): Fault | null {
  const names = namesOfPattern(pattern);
  const itself = ITSELF[of];
  if (itself && names.includes(itself)) return { path: '', ...wrong('pattern-itself', { name: itself }) };
  const unknown = names.filter((name) => !isPatternName(name) && !values.has(name));
  return unknown.length ? { path: '', ...wrong('pattern-unknown', { names: unknown }) } : null;
}

/** What is known of a page for its patterns; empty for what it does not have. */
export type PatternFacts = Readonly<Record<PatternName, string>>;

/** What a page has of what patterns can ask for; first content that asks to be replaced is nothing yet. */
export function patternFactsOf(
  document: PageDocument,
  around: { readonly name: string; readonly campaign: string | null; readonly portfolio: string },
): PatternFacts {
  const told = (text: unknown) => (typeof text !== 'string' || /‹/.test(text) ? '' : text.replace(/\s+/g, ' ').trim());
  const offer = document.blocks.find(({ type }) => type === 'offer');
  const line = (block: Block | undefined, key: string) => told(block?.fields[key]);
  const heading = document.blocks.find(({ type, fields }) => blockTypes[type].firstHeadings && fields['heading']);
  return {
    ...{ 'page name': around.name, 'page title': told(document.metadata.title) },
    'page description': told(document.metadata.description),
    'first heading': line(heading, 'heading'),
    'first paragraph': told(firstParagraphOf(document)),
    ...{ 'offer name': line(offer, 'heading'), 'offer price': line(offer, 'price') },
    ...{ campaign: around.campaign ?? '', portfolio: around.portfolio },
  };
}

/** The first text of a page that is more than a heading or a label. */
function firstParagraphOf({ blocks }: PageDocument): string {
  for (const { type, fields } of blocks)
    for (const field of blockTypes[type].fields) {
      const value = fields[field.key];
      const text =
        field.kind === 'rich'
          ? plainTextOf(value as RichText)
              .trim()
              .split('\n')[0]
          : field.kind === 'paragraph'
            ? (value as string)
            : '';
      if (text?.trim()) return text;
    }
  return '';
}

/** A text that a pattern gives: as it is kept, with the names of shared values in it, and as it is read. */
export interface PatternText {
  readonly kept: string;
  readonly read: string;
}

/**
 * What a pattern gives for a page; `null` with the place that is nothing there. A shared value stays a name, so that it
 * follows the value; where it is cut, or the whole is, the words stand for it.
 */
export function fillPattern(
  pattern: Pattern,
  facts: PatternFacts,
  values: ReadonlyMap<string, string>,
  most: number | null = null,
): PatternText | { readonly missing: string } {
  const filled = (text: string) => fillText(text, values);
  let [kept, read] = ['', ''];
  for (const part of pattern) {
    const found = typeof part === 'string' ? { kept: part, read: part } : firstOf(part, facts, values);
    if (!found) return { missing: placeWords(part as readonly PatternTerm[]) };
    kept += found.kept;
    read += found.read;
  }
  [kept, read] = [kept, filled(read)].map((text) => text.replace(/\s+/g, ' ').trim()) as [string, string];
  const cut = most === null ? read : cutAtWord(read, most);
  return cut === read ? { kept, read } : { kept: cut, read: cut };
}

function firstOf(
  terms: readonly PatternTerm[],
  facts: PatternFacts,
  values: ReadonlyMap<string, string>,
): PatternText | null {
  for (const term of terms) {
    if (term.kind === 'words') return { kept: term.words, read: term.words };
    const { name, most } = term;
    const isValue = values.has(name);
    const kept = isValue ? `{${name}}` : isPatternName(name) ? facts[name] : '';
    const read = fillText(kept, values).trim();
    if (!read) continue;
    const cut = most === null ? read : cutAtWord(read, most);
    return cut === read ? { kept, read } : { kept: cut, read: cut };
  }
  return null;
}

const placeWords = (terms: readonly PatternTerm[]): string =>
  `{${terms.map((term) => (term.kind === 'words' ? `"${term.words}"` : term.name)).join('|')}}`;
