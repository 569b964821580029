import {
  EMPTY_DOCUMENT,
  filledTarget,
  filledTextsOf,
  METADATA_TEXTS,
  linksOf,
  piecesOf,
  textsOf,
  typedOf,
  type PageDocument,
} from '../document/index.js';
import { endOf, type Instant, type Interval } from '../time/index.js';
import { FIRST_CONTENT, namesIn } from '../text/index.js';
import { found, type CheckInput, type Finding } from './finding.js';

type Place = NonNullable<Finding['place']>;

/** The names between { } that a document's texts ask for, each with the first place it stands in. */
export function namesOf(document: PageDocument): { readonly name: string; readonly place: Place }[] {
  const places = new Map<string, Place>();
  const note = (text: string, place: Place) => {
    for (const name of namesIn(text)) if (!places.has(name)) places.set(name, place);
  };
  for (const key of METADATA_TEXTS) note(document.metadata[key] ?? '', { metadata: key });
  for (const element of document.metadata.elements ?? [])
    if (element.kind === 'meta') note(element.content, { metadata: 'elements' });
  for (const { values } of document.metadata.facts ?? [])
    for (const value of Object.values(values)) if (typeof value === 'string') note(value, { metadata: 'facts' });
  const { canonical } = document.metadata;
  if (canonical) note(typedOf(canonical) ?? '', { metadata: 'canonical' });
  for (const { value, blockId, field, isCode } of filledTextsOf(document)) if (!isCode) note(value, { blockId, field });
  return [...places].map(([name, place]) => ({ name, place }));
}

/** The first instant of a time that no period holds; `null` where they hold all of it. */
export function firstGap(periods: readonly Interval[], { from, until }: Interval): Instant | null {
  const end = endOf({ from, until });
  let at: number = from;
  for (const period of [...periods].sort((a, b) => a.from - b.from))
    if (period.from <= at && endOf(period) > at) at = endOf(period);
  return at < end ? (at as Instant) : null;
}

/**
 * A piece that shows nothing when the page goes live, and a name between { } that stands for nothing then, block: visitors
 * would miss the one and read the braces of the other. So does a link that leads nowhere as its names are filled in. What
 * comes to be so later is worth fixing.
 */
export function shared({
  document,
  during,
  shared: sight,
  write,
}: Pick<CheckInput, 'document' | 'during' | 'shared' | 'write'>): Finding[] {
  if (!sight) return [];
  const stretches = sight.values(during);
  const pieces = piecesOf(document).flatMap(({ value, blockId, field }) => {
    const piece = sight.piece(value, during);
    const at = piece ? firstGap(piece.periods, during) : during.from;
    if (at === null) return [];
    const params = { piece: piece?.name ?? null, itemId: value, at: at === during.from ? null : at };
    return [found('shared', severityOf(at, during), 'piece-not-out', params, { blockId, field }, write)];
  });
  const asked = [
    ...namesOf(document),
    ...piecesOf(document).flatMap(({ value, blockId, field }) =>
      namesOf({ ...EMPTY_DOCUMENT, blocks: sight.piece(value, during)?.blocks ?? [] }).map(({ name }) => ({
        name,
        place: { blockId, field },
      })),
    ),
  ];
  const names = asked.flatMap(({ name, place }, index) => {
    if (asked.findIndex((one) => one.name === name) < index) return [];
    const at = stretches.find(({ values }) => !values.has(name))?.from;
    if (at === undefined) return [];
    const params = { name, at: at === during.from ? null : at };
    return [found('shared', severityOf(at, during), 'value-unknown', params, place, write)];
  });
  const links = linksOf(document).flatMap(({ value, blockId, field }) => {
    const typed = typedOf(value) ?? '';
    const isWhole = ({ values }: (typeof stretches)[number]) => namesIn(typed).every((name) => values.has(name));
    const at = stretches.find((one) => isWhole(one) && filledTarget(value, one.values) === null)?.from;
    if (at === undefined) return [];
    const params = { typed, at: at === during.from ? null : at };
    return [found('shared', severityOf(at, during), 'link-unfilled', params, { blockId, field }, write)];
  });
  const first = piecesOf(document).flatMap(({ value, blockId, field }) => {
    const piece = sight.piece(value, during);
    const texts = textsOf({ ...EMPTY_DOCUMENT, blocks: piece?.blocks ?? [] });
    const [text] = texts.flatMap((one) => FIRST_CONTENT.exec(one.value)?.[0].slice(1, -1) ?? []);
    if (text === undefined || !piece) return [];
    return [found('placeholder', 'blocks', 'piece-first-content', { piece: piece.name, text }, { blockId, field })];
  });
  return [...pieces, ...names, ...links, ...first];
}

const severityOf = (at: Instant, { from }: Interval): Finding['severity'] => (at === from ? 'blocks' : 'worth-fixing');
