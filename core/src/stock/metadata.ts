import { elementKey, headElementsFromJSON } from '../fields/head-elements.js';
import { robotsFromJSON } from '../fields/robots.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import type { HeadElement, Robots } from '../fields/types.js';
import { NOTHING_SAID, type SaidOfPage } from '../metadata/said.js';
import { wrong } from '../words/faults.js';
import { byReach, isCovered, type PagePlace, type RuleFor } from './standing.js';

/**
 * What is said to search engines, and to those who share pages, of a portfolio, of a site, or of a path of a site and what
 * lies below it. `null` leaves it to what is said further up; elements are added to those from there.
 */
export interface SharedMetadata {
  readonly titleBefore: string | null;
  readonly titleAfter: string | null;
  readonly description: string | null;
  readonly siteName: string | null;
  readonly organization: string | null;
  readonly robots: Robots | null;
  readonly elements: readonly HeadElement[];
}
export const NO_METADATA: SharedMetadata = {
  ...{ titleBefore: null, titleAfter: null, description: null, siteName: null, organization: null },
  ...{ robots: null, elements: [] },
};

/** The texts of it, each with the most characters it may have. */
export const SAID_TEXTS = {
  ...{ titleBefore: 80, titleAfter: 80, description: 500, siteName: 80, organization: 120 },
} as const;
export type SaidText = keyof typeof SAID_TEXTS;
const TEXT_KEYS = Object.keys(SAID_TEXTS) as SaidText[];

export function metadataFromJSON(json: unknown): Result<SharedMetadata> {
  if (!isRecord(json)) return { ok: false, faults: [{ path: '', ...wrong('fields-unreadable') }] };
  const faults: Fault[] = [];
  const texts = TEXT_KEYS.map((key) => {
    const value = json[key] ?? null;
    const isRight = value === null || (typeof value === 'string' && value.length <= SAID_TEXTS[key]);
    if (!isRight) faults.push({ path: key, ...wrong('at-most-characters', { most: SAID_TEXTS[key] }) });
    return [key, isRight ? value : null];
  });
  const robots = robotsFromJSON(json['robots']);
  const elements = headElementsFromJSON(json['elements'] ?? []);
  for (const [key, read] of [['robots', robots] as const, ['elements', elements] as const])
    if (!read.ok) faults.push(...read.faults.map((fault) => ({ ...fault, path: joined(key, fault.path) })));
  return !faults.length && robots.ok && elements.ok
    ? {
        ok: true,
        value: {
          ...(Object.fromEntries(texts) as Pick<SharedMetadata, SaidText>),
          robots: robots.value,
          elements: elements.value,
        },
      }
    : { ok: false, faults };
}

const joined = (key: string, path: string) => (path.startsWith('[') || !path ? key + path : `${key}.${path}`);

/** Of which pages it can be said: what covers a page then follows from where it lies. */
export const isMetadataScope = ({ scope }: RuleFor): boolean => ['portfolio', 'site', 'path'].includes(scope);

export interface MetadataRule {
  readonly id: number;
  readonly for: RuleFor;
  readonly metadata: SharedMetadata;
}

/** A value and who said it last; `null` where nobody did. */
export interface SaidBy<T> {
  readonly value: T;
  readonly by: MetadataRule | null;
}

export type HeldMetadata = { readonly [Key in SaidText]: SaidBy<string> } & {
  readonly robots: SaidBy<Robots | null>;
  readonly elements: readonly SaidBy<HeadElement>[];
};

/** What is said of a page where it lies: the most single holds, each value by itself; of elements with one name too. */
export function heldMetadata(rules: readonly MetadataRule[], place: PagePlace): HeldMetadata {
  const heard = rules.filter((rule) => isCovered(rule.for, place)).sort(byReach);
  const held = <Key extends SaidText | 'robots'>(key: Key) => {
    const by = heard.findLast(({ metadata }) => (metadata[key] ?? null) !== null) ?? null;
    return { value: by ? by.metadata[key] : null, by };
  };
  const text = (key: SaidText): SaidBy<string> => {
    const { value, by } = held(key);
    return { value: value ?? '', by };
  };
  const elements = new Map<string, SaidBy<HeadElement>>();
  for (const by of heard) for (const value of by.metadata.elements) elements.set(elementKey(value), { value, by });
  return {
    ...{ titleBefore: text('titleBefore'), titleAfter: text('titleAfter') },
    ...{ description: text('description'), siteName: text('siteName'), organization: text('organization') },
    robots: held('robots'),
    elements: [...elements.values()],
  };
}

/** The same without who said it. */
export const saidOfPage = (held: HeldMetadata): SaidOfPage => ({
  ...NOTHING_SAID,
  ...(Object.fromEntries(TEXT_KEYS.map((key) => [key, held[key].value])) as Pick<SaidOfPage, SaidText>),
  robots: held.robots.value,
  elements: held.elements.map(({ value }) => value),
});

/** The texts of it in which names between { } are filled in. */
export const textsSaid = ({
  titleBefore,
  titleAfter,
  description,
  siteName,
  organization,
  elements,
}: SaidOfPage | SharedMetadata) => [
  ...[titleBefore, titleAfter, description, siteName, organization].flatMap((text) => text ?? []),
  ...elements.flatMap((element) => (element.kind === 'meta' ? [element.content] : [])),
];
