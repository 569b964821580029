import { slugOf } from '../address/index.js';
import { textsOf, picturesOf } from '../document/page-document.js';
import type { PageDocument } from '../fields/types.js';
import { patternFactsOf } from './pattern.js';
import { worded } from './alike.js';

/** Where a phrase that people search for can stand on a page. */
export const PHRASE_PLACES = ['title', 'description', 'heading', 'address', 'opening', 'pictures'] as const;
export type PhrasePlace = (typeof PHRASE_PLACES)[number];

/** So many words of a page are its opening. */
const OPENING = 100;

/** What a page says where a phrase is looked for: as it is read, with its values filled in. */
export interface PhraseTexts {
  /** With what stands around it. */
  readonly title: string;
  readonly description: string;
  readonly path: string;
  readonly filled: (text: string) => string;
}

/** In which places a phrase stands, word by word: case, accents and what is between words don't count. */
export function placesOfPhrase(
  document: PageDocument,
  { title, description, path, filled }: PhraseTexts,
  phrase: string,
): ReadonlySet<PhrasePlace> {
  const asked = worded(phrase).plain;
  if (!asked) return new Set();
  const facts = patternFactsOf(document, { name: '', campaign: null, portfolio: '' });
  const opening = textsOf(document)
    .map(({ value }) => filled(value))
    .join(' ')
    .split(/\s+/)
    .slice(0, OPENING)
    .join(' ');
  const texts: Record<PhrasePlace, string> = {
    ...{ title, description, opening },
    heading: filled(facts['first heading']),
    address: path,
    pictures: picturesOf(document)
      .map(({ value }) => (value.isDecorative ? '' : filled(value.description)))
      .join(' · '),
  };
  const isIn = (place: PhrasePlace) =>
    place === 'address'
      ? `-${worded(path).plain.split(' ').join('-')}-`.includes(`-${slugOf(phrase)}-`)
      : ` ${worded(texts[place]).plain} `.includes(` ${asked} `);
  return new Set(PHRASE_PLACES.filter(isIn));
}
