import type {
  Event,
  FAQPage,
  Graph,
  JobPosting,
  LocalBusiness,
  Offer,
  Organization,
  Place,
  Product,
  Thing,
  VideoObject,
  WebPage,
  WebSite,
} from 'schema-dts';
import type { Questions } from '../blocks/questions/schema.js';
import type { Video } from '../blocks/video/schema.js';
import type { Moment } from '../fields/moment.js';
import { plainTextOf } from '../fields/rich-text.js';
import type { Fact, FactKind } from '../fields/types.js';
import { placeFrom } from '../geo/index.js';
import { instant, isoOf } from '../time/index.js';
import { gapsOf } from './gaps.js';
import { oneLine, saidByPage, type FactSource } from './from-page.js';

/** What is published of a page for machines is made of this. Title, description and who is behind it are filled in. */
export interface Stated extends FactSource {
  /** Its absolute address. */
  readonly address: string;
  readonly language: string;
  readonly siteName: string;
  /** The absolute address of the site's home page, and of the picture that is shown where the page is shared. */
  readonly home: string;
  readonly picture: string | null;
  readonly facts: readonly Fact[];
  /** Absolute addresses of pictures and of films, with the day a film was brought in. */
  readonly pictureOf: (id: number) => string | null;
  readonly filmOf: (id: number) => { readonly src: string; readonly uploaded: string | null } | null;
}

/**
 * What a page states, with the terms of schema.org: itself, the site and who is behind it, its questions, its films, and
 * what a person states of it. A fact that lacks what search engines ask for is left out: half of one helps nobody.
 */
export function structuredData(page: Stated): Graph {
  const things: Thing[] = [organizationOf(page), siteOf(page), pageOf(page), ...filmsOf(page)];
  return {
    '@context': 'https://schema.org',
    '@graph': [...things, ...page.facts.flatMap((fact) => factOf(fact, page))],
  };
}

/** As it may stand in a script element: nothing in it ends the element or begins a comment (HTML standard, 4.12.1.3). */
export const jsonLd = (graph: Graph): string =>
  JSON.stringify(graph).replace(
    /[<>&\u2028\u2029]/g,
    (char) => `\\u${char.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );

const idOf = (home: string, what: 'site' | 'organization') => `${home}#${what}`;

const organizationOf = ({ home, organization }: Stated): Organization => ({
  '@type': 'Organization',
  '@id': idOf(home, 'organization'),
  name: organization,
  url: home,
});

const siteOf = ({ home, siteName, language }: Stated): WebSite => ({
  '@type': 'WebSite',
  '@id': idOf(home, 'site'),
  name: siteName,
  url: home,
  inLanguage: language,
  publisher: { '@id': idOf(home, 'organization') },
});

function pageOf(page: Stated): WebPage | FAQPage {
  const { address, title, description, language, home, picture } = page;
  const questions = questionsOf(page);
  const about = {
    '@id': `${address}#page`,
    url: address,
    name: title,
    ...(description ? { description } : {}),
    inLanguage: language,
    isPartOf: { '@id': idOf(home, 'site') },
    ...(picture ? { primaryImageOfPage: { '@type': 'ImageObject' as const, url: picture } } : {}),
  };
  return questions.length ? { '@type': 'FAQPage', ...about, mainEntity: questions } : { '@type': 'WebPage', ...about };
}

/** Questions of the page that have an answer. */
const questionsOf = ({ blocks, fill }: Stated) =>
  blocks
    .filter(({ type }) => type === 'questions')
    .flatMap(({ fields }) => (fields as unknown as Questions).items)
    .map(({ question, answer }) => ({ name: fill(question).trim(), text: fill(plainTextOf(answer)).trim() }))
    .filter(({ name, text }) => name && text)
    .map(({ name, text }) => ({
      '@type': 'Question' as const,
      name,
      acceptedAnswer: { '@type': 'Answer' as const, text },
    }));

/** Films of ours with a first picture: without one they are not shown as such. */
function filmsOf({ blocks, title, fill, description, pictureOf, filmOf }: Stated): VideoObject[] {
  return blocks.flatMap(({ type, fields }): VideoObject[] => {
    if (type !== 'video') return [];
    const { heading, caption, picture, file } = fields as unknown as Video;
    const film = file && filmOf(file.id);
    const thumbnail = picture && pictureOf(picture.pictureId);
    if (!film || !thumbnail) return [];
    const words = fill(caption) || description;
    return [
      {
        '@type': 'VideoObject',
        name: fill(heading) || title,
        ...(words ? { description: words } : {}),
        thumbnailUrl: thumbnail,
        contentUrl: film.src,
        ...(film.uploaded ? { uploadDate: film.uploaded } : {}),
      },
    ];
  });
}

/** One value of a fact as it is published: that of the person, else that of the page; empty where there is none. */
type Values = (key: string) => string;

function factOf(fact: Fact, page: Stated): Thing[] {
  const said = saidByPage(fact.kind, page);
  if (gapsOf(fact, said).required.length) return [];
  const value: Values = (key) => {
    const own = fact.values[key];
    return typeof own === 'object' ? momentOf(own) : (own === undefined ? (said[key] ?? '') : page.fill(own)).trim();
  };
  return [MAKE[fact.kind](value, page)];
}

const momentOf = ({ at, zone }: Moment) => isoOf(instant(at), zone);

const MAKE: Readonly<Record<FactKind, (value: Values, page: Stated) => Thing>> = {
  event: (value, page): Event => ({
    '@type': 'Event',
    name: value('name'),
    ...given(value, { description: 'description', startDate: 'start', endDate: 'end' }),
    ...(value('status') ? { eventStatus: value('status') as 'EventScheduled' } : {}),
    location: placeOf(value, value('place')),
    ...(value('organizer') ? { organizer: { '@type': 'Organization', name: value('organizer') } } : {}),
    ...(value('price') && value('currency') ? { offers: offerOf(value, page) } : {}),
    ...pictured(page),
    url: page.address,
  }),
  product: (value, page): Product => ({
    '@type': 'Product',
    name: value('name'),
    ...given(value, { description: 'description' }),
    ...(value('brand') ? { brand: { '@type': 'Brand', name: value('brand') } } : {}),
    ...pictured(page),
    offers: offerOf(value, page),
  }),
  job: (value, page): JobPosting => ({
    '@type': 'JobPosting',
    title: value('name'),
    description: value('description'),
    datePosted: value('posted'),
    ...given(value, { validThrough: 'until', employmentType: 'employment' }),
    hiringOrganization: { '@type': 'Organization', name: value('employer') },
    jobLocation: placeOf(value),
    ...payOf(value),
    url: page.address,
  }),
  business: (value, page): LocalBusiness => ({
    '@type': (value('type') || 'LocalBusiness') as 'LocalBusiness',
    name: value('name'),
    address: oneLine(value('address')),
    ...given(value, { telephone: 'phone', email: 'mail', openingHours: 'hours', priceRange: 'prices' }),
    ...coordinatesOf(value('coordinates')),
    ...pictured(page),
    url: page.address,
  }),
};

/** Properties whose values are there, by their names. */
const given = <Name extends string>(value: Values, names: Readonly<Record<Name, string>>) =>
  Object.fromEntries(
    Object.entries<string>(names).flatMap(([name, key]) => (value(key) ? [[name, value(key)]] : [])),
  ) as Partial<Record<Name, string>>;

const pictured = ({ picture }: Stated) => (picture ? { image: picture } : {});

const placeOf = (value: Values, name = ''): Place => ({
  '@type': 'Place',
  ...(name ? { name } : {}),
  address: oneLine(value('address')),
});

const offerOf = (value: Values, { address }: Stated): Offer => ({
  '@type': 'Offer',
  price: value('price'),
  priceCurrency: value('currency'),
  ...(value('availability') ? { availability: value('availability') as 'InStock' } : {}),
  ...given(value, { priceValidUntil: 'until' }),
  url: address,
});

function payOf(value: Values) {
  const [pay, most, currency, per] = ['pay', 'payMost', 'currency', 'per'].map(value) as [
    string,
    string,
    string,
    string,
  ];
  if (!pay || !currency || !per) return {};
  const amount = most ? { minValue: Number(pay), maxValue: Number(most) } : { value: Number(pay) };
  return {
    baseSalary: {
      '@type': 'MonetaryAmount' as const,
      currency,
      value: { '@type': 'QuantitativeValue' as const, ...amount, unitText: per },
    },
  };
}

function coordinatesOf(text: string) {
  const place = placeFrom(text);
  return place
    ? { geo: { '@type': 'GeoCoordinates' as const, latitude: place.latitude, longitude: place.longitude } }
    : {};
}
