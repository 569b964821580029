import type { Contact } from '../blocks/contact/schema.js';
import type { Map as MapBlock } from '../blocks/map/schema.js';
import type { Offer } from '../blocks/offer/schema.js';
import { textsOf } from '../document/page-document.js';
import type { Block, FactKind } from '../fields/types.js';
import { placeFrom } from '../geo/index.js';
import { priceFrom } from './price.js';

/** What values of facts are taken from where nobody states them. */
export interface FactSource {
  /** Those of the page's pieces too. */
  readonly blocks: readonly Block[];
  readonly title: string;
  readonly description: string;
  /** Who is behind the page. */
  readonly organization: string;
  /** Fills in the names between { }. */
  readonly fill: (text: string) => string;
}

/** So much of a page's words describes a job. */
const LONGEST_DESCRIPTION = 5_000;

/** What a page says itself of what is stated on it, by the keys of its fields; what it does not say is left out. */
export function saidByPage(kind: FactKind, page: FactSource): Readonly<Record<string, string>> {
  const { title, description, organization, fill } = page;
  const fieldsOf = <T>(type: Block['type']) =>
    page.blocks.find((block) => block.type === type)?.fields as T | undefined;
  const [map, contact, offer] = [fieldsOf<MapBlock>('map'), fieldsOf<Contact>('contact'), fieldsOf<Offer>('offer')];
  const address = fill(map?.address || contact?.address || '');
  const price = offer ? priceFrom(fill(offer.price)) : null;
  const priced = { price: price?.amount ?? '', currency: price?.currency ?? '' };
  const said: Record<FactKind, Record<string, string>> = {
    event: { name: title, description, address, organizer: organization, ...priced },
    product: { name: fill(offer?.heading ?? '') || title, description, brand: organization, ...priced },
    job: { name: title, description: fill(wordsOf(page.blocks)), employer: organization, address },
    business: {
      name: fill(contact?.name ?? '') || organization || title,
      address,
      phone: fill(contact?.phone ?? ''),
      mail: fill(contact?.mail ?? ''),
      coordinates: map && placeFrom(fill(map.place)) ? fill(map.place) : '',
    },
  };
  return Object.fromEntries(Object.entries(said[kind]).filter(([, value]) => value.trim()));
}

/** An address in one line. */
export const oneLine = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim().replace(/,$/, ''))
    .filter(Boolean)
    .join(', ');

function wordsOf(blocks: readonly Block[]): string {
  const told = blocks.filter(({ type }) => ['opening', 'text', 'columns', 'reasons', 'steps'].includes(type));
  const words = textsOf({ metadata: { title: '', description: '' }, blocks: told }).map(({ value }) => value);
  return words.join('\n').slice(0, LONGEST_DESCRIPTION);
}
