import {
  generate,
  lexer,
  parse,
  walk,
  type CssNode,
  type Declaration,
  type List,
  type ListItem,
  type Rule,
  type SelectorList,
} from 'css-tree';
import { wrong, type Wrong } from '../words/faults.js';

/** Something wrong in own CSS, at a line and column that count from 1. */
export interface CssFault extends Wrong {
  readonly line: number;
  readonly column: number;
  readonly severity: 'blocks' | 'worth-fixing';
}

export interface OwnCss {
  /** What pages get: every selector below `main`, so that nothing outside of the page's content is reached. */
  readonly css: string;
  readonly faults: readonly CssFault[];
  /** What of the stylesheet below it gives way: a selector with the properties it loses. */
  readonly overrides: readonly { readonly selector: string; readonly properties: readonly string[] }[];
}

const EMPTY: OwnCss = { css: '', faults: [], overrides: [] };
/** What may stand in own CSS beside rules; the rest would fetch, or reach beyond the page. */
const AT_RULES = new Set(['media', 'supports', 'container', 'keyframes', 'layer']);
const WHOLE = /^(?:\*|html|body|main|:root|section|main>section|main section|\.page)$/;

/** Blocks, brackets and functions in one another; what is deeper is no CSS that anybody writes, and fells whoever reads it. */
const DEEPEST = 50;

/** The line at which a text is nested too deep, or `null`. */
function tooDeepAt(text: string): number | null {
  let depth = 0;
  for (let at = 0; at < text.length; at++) {
    const char = text[at];
    if (char === '{' || char === '(' || char === '[') depth++;
    else if (char === '}' || char === ')' || char === ']') depth = Math.max(0, depth - 1);
    if (depth > DEEPEST) return text.slice(0, at).split('\n').length;
  }
  return null;
}

/** Reads own CSS, scopes it, and says what is wrong with it and what of `below` it overrides. */
export function readOwnCss(text: string, below = ''): OwnCss {
  if (!text.trim()) return EMPTY;
  const line = tooDeepAt(text);
  if (line !== null) {
    return { ...EMPTY, faults: [{ line, column: 1, severity: 'blocks', ...wrong('css-too-deep', { most: DEEPEST }) }] };
  }
  const faults: CssFault[] = [];
  const tree = parse(text, {
    positions: true,
    onParseError: (error) => {
      const { line = 1, column = 1 } = error as unknown as { line?: number; column?: number };
      faults.push({
        line,
        column,
        severity: 'worth-fixing',
        ...wrong('css-unreadable', { why: error.message }),
      });
    },
  });
  const at = (node: CssNode) => ({ line: node.loc?.start.line ?? 1, column: node.loc?.start.column ?? 1 });
  const changed = new Map<string, Set<string>>();
  let keyframes = 0;
  walk(tree, {
    enter(node: CssNode, item: ListItem<CssNode>, list: List<CssNode>) {
      if (node.type === 'Atrule') {
        if (node.name.toLowerCase().endsWith('keyframes')) keyframes++;
        if (!AT_RULES.has(node.name.toLowerCase().replace(/^-\w+-/, ''))) {
          faults.push({
            ...at(node),
            severity: 'worth-fixing',
            ...wrong('css-at-rule', { rule: node.name }),
          });
          list?.remove(item);
        }
      }
      if (node.type === 'Declaration') {
        const value = unreadableValue(node);
        if (value !== null)
          faults.push({
            ...at(node),
            severity: 'worth-fixing',
            ...wrong('css-value', { property: node.property, value }),
          });
      }
      if (node.type === 'Url' && !/^(data:|#)/.test(node.value)) {
        faults.push({
          ...at(node),
          severity: 'worth-fixing',
          ...wrong('css-address'),
        });
      }
      if (node.type !== 'Rule' || keyframes || node.prelude.type !== 'SelectorList') return;
      const properties = propertiesOf(node);
      const selectors = node.prelude.children.toArray().map((one: CssNode) => generate(one));
      if (hidesAll(selectors, properties))
        faults.push({
          ...at(node),
          severity: 'blocks',
          ...wrong('css-hides-all', { selectors: selectors.join(', ') }),
        });
      const hides = selectors.find((one) => /(^|[\s>+~])h1(?![\w-])[^\s>+~]*$/.test(one));
      if (hides && isHidden(properties))
        faults.push({ ...at(node), severity: 'worth-fixing', ...wrong('css-hides-heading', { selector: hides }) });
      const [ink, ground] = [
        properties.get('color'),
        properties.get('background-color') ?? properties.get('background'),
      ];
      if (ink && ink === ground && !/^(inherit|initial|unset|revert)$/.test(ink))
        faults.push({
          ...at(node),
          severity: 'worth-fixing',
          ...wrong('css-unseen', { selector: selectors.join(', ') }),
        });
      for (const selector of selectors) {
        const names = changed.get(selector) ?? new Set();
        for (const name of properties.keys()) names.add(name);
        changed.set(selector, names);
      }
    },
    leave(node: CssNode) {
      if (node.type === 'Atrule' && node.name.toLowerCase().endsWith('keyframes')) keyframes--;
      if (node.type === 'Rule' && !keyframes && node.prelude.type === 'SelectorList') scope(node.prelude);
    },
  });
  return { css: closesNothing(generate(tree)), faults, overrides: overridesOf(changed, below) };
}

/** The same CSS without a sequence that would close the element it stands in; in a string, `<\/` reads as `</`. */
const closesNothing = (css: string): string => css.replaceAll('</', '<\\/');

const MOST_KEPT = 64;
const kept = new Map<string, string>();

/** What pages get of own CSS: read once where many pages have the same, and while a page is typed on. */
export function scopedCss(text: string): string {
  const known = kept.get(text);
  if (known !== undefined) return known;
  const { css } = readOwnCss(text);
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value ?? '');
  kept.set(text, css);
  return css;
}

/** A value that no browser takes for its property; `null` where one may, also for what is not known here. */
function unreadableValue(node: Declaration): string | null {
  const value = generate(node.value);
  // Values that are filled in later, and what is newer than the lexer, can't be judged.
  if (node.value.type !== 'Value' || /\b(?:var|env|attr|if|calc-size|light-dark|contrast-color)\(/.test(value))
    return null;
  const { error } = lexer.matchProperty(node.property, node.value);
  return error?.name === 'SyntaxMatchError' ? value : null;
}

function propertiesOf(rule: Rule): Map<string, string> {
  const found = new Map<string, string>();
  rule.block.children.forEach((child) => {
    if (child.type === 'Declaration' && unreadableValue(child) === null)
      found.set(child.property.toLowerCase(), generate(child.value).toLowerCase());
  });
  return found;
}

const isHidden = (properties: ReadonlyMap<string, string>): boolean =>
  properties.get('display') === 'none' ||
  properties.get('visibility') === 'hidden' ||
  properties.get('content-visibility') === 'hidden' ||
  Number(properties.get('opacity') ?? 1) === 0;

function hidesAll(selectors: readonly string[], properties: ReadonlyMap<string, string>): boolean {
  return isHidden(properties) && selectors.some((selector) => WHOLE.test(selector));
}

/** A selector below `main`: nothing outside of the page’s content is reached. */
const scopedSelector = (text: string) =>
  WHOLE.test(text) && !/section/.test(text) ? 'main' : `main ${text.replace(/^main\s+/, '')}`;

function scope(selectors: SelectorList): void {
  selectors.children.forEach((selector, item, list) => {
    list.replace(item, list.createItem(parse(scopedSelector(generate(selector)), { context: 'selector' })));
  });
}

/** How much a selector weighs against others (Selectors 4, 17): ids, then classes and their like, then types. */
function weightOf(node: CssNode): number {
  switch (node.type) {
    case 'SelectorList':
      return Math.max(0, ...node.children.toArray().map(weightOf));
    case 'Selector':
      return node.children.toArray().reduce((sum, part) => sum + weightOf(part), 0);
    case 'IdSelector':
      return 1_000_000;
    case 'ClassSelector':
    case 'AttributeSelector':
      return 1_000;
    case 'PseudoClassSelector':
      if (node.name === 'where') return 0;
      return ['is', 'not', 'has'].includes(node.name) && node.children
        ? node.children.toArray().reduce((sum, part) => sum + weightOf(part), 0)
        : 1_000;
    case 'PseudoElementSelector':
      return 1;
    case 'TypeSelector':
      return node.name === '*' ? 0 : 1;
    default:
      return 0;
  }
}

/** Selectors of a stylesheet that end alike, set the same properties, and weigh no more: those behind win then. */
function overridesOf(changed: ReadonlyMap<string, ReadonlySet<string>>, below: string): OwnCss['overrides'] {
  if (!below) return [];
  const found = new Map<string, Set<string>>();
  const endOf = (selector: string) => /([.#]?[\w-]+)(?::[\w-]+(?:\([^)]*\))?)*$/.exec(selector)?.[1] ?? selector;
  const ends = [...changed].map(([selector, properties]) => ({
    end: endOf(selector),
    weight: weightOf(parse(scopedSelector(selector), { context: 'selector' })),
    properties,
  }));
  walk(parse(below), (node) => {
    if (node.type !== 'Rule' || node.prelude.type !== 'SelectorList') return;
    const own = propertiesOf(node);
    node.prelude.children.forEach((one) => {
      const selector = generate(one);
      for (const { end, weight, properties } of ends)
        if (end === endOf(selector) && weight >= weightOf(one))
          for (const property of properties)
            if (own.has(property)) found.set(selector, (found.get(selector) ?? new Set()).add(property));
    });
  });
  return [...found].map(([selector, properties]) => ({ selector, properties: [...properties] }));
}
