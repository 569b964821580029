import {
  newBlock,
  richTextOf,
  type Block,
  type Fact,
  type FieldValues,
  type PageDocument,
} from '@domatium/core/document';
import type { PageFrame } from '@domatium/core/stock';
import { slugOf } from '@domatium/core/address';
import { PICTURE_DESCRIPTIONS } from './pictures.js';
import { pick, randomFrom, seedOf } from './random.js';
import type { DemoAnswer, DemoIds, DemoLife, DemoPage, DemoTime } from './scenario.js';

/** What one generated page is about; `build` makes it a page with documents. */
export interface Sketch {
  readonly name: string;
  readonly title?: string;
  /** For search engines; the first words of the lead where nothing else is said. */
  readonly description?: string;
  readonly path?: string;
  readonly role?: DemoPage['role'];
  readonly campaign?: string;
  readonly owner?: string;
  readonly kicker: string;
  readonly heading: string;
  readonly lead: string;
  readonly layout?: 'side' | 'over' | 'stacked';
  readonly picture: string | null;
  readonly button?: readonly [label: string, page: string];
  readonly prose?: readonly string[];
  readonly reasons?: readonly [
    heading: string,
    ...items: (readonly [title: string, text: string, picture?: string | null, page?: string])[],
  ];
  readonly quote?: readonly [text: string, who: string, role: string];
  readonly show?: readonly [picture: string, caption: string];
  /** A call to action that asks for an e-mail address. */
  readonly news?: readonly [heading: string, text: string, label: string];
  readonly ask?: readonly [heading: string, text: string, label: string, page: string];
  /** Buttons that lead to documents. */
  readonly papers?: readonly (readonly [label: string, paper: string])[];
  /** Pages by their names, of the same site, as a list by reference. */
  readonly hub?: readonly string[];
  /** A piece of the stock, linked, at the end. */
  readonly piece?: string;
  /** A later revision says this instead. */
  readonly later?: Partial<Sketch>;
  /** What stands around it, where it chooses itself. */
  readonly frame?: PageFrame;
  /** What it is about, for machines. */
  readonly facts?: readonly Fact[];
  /** It is for those who are sent there, not for search engines. */
  readonly isUnsearched?: true;
  readonly lives?: readonly DemoLife[];
  readonly visits?: number;
  readonly drift?: number;
  readonly moves?: DemoPage['moves'];
  readonly made?: number;
}

export const at = (day: number, time = '09:00'): DemoTime => ({ day, time });
export const to = (page: string, status: 301 | 302 = 302): DemoAnswer => ({ kind: 'redirect', to: page, status });
export const GONE: DemoAnswer = { kind: 'gone' };
export const NOT_FOUND: DemoAnswer = { kind: 'not-found' };

/** A stretch on the air; decided three days before unless said otherwise. */
export function life(
  from: number,
  until: number | null,
  afterwards: DemoAnswer | null = until === null ? null : NOT_FOUND,
  options: { time?: string; end?: string; decided?: number; revision?: number } = {},
): DemoLife {
  return {
    from: at(from, options.time),
    until: until === null ? null : at(until, options.end ?? '00:00'),
    afterwards,
    revision: options.revision ?? 0,
    decided: at(options.decided ?? Math.min(from - 3, -1), '10:12'),
  };
}

const OWNERS = [
  'ingrid.vale@marrowick.example',
  'tomas.renn@marrowick.example',
  'maren.holt@marrowick.example',
] as const;

/** A home page is older than what it leads to: it goes out again once that is there. */
function releasedAgain(lives: readonly DemoLife[]): readonly DemoLife[] {
  const [first] = lives;
  if (lives.length !== 1 || !first || first.until !== null || first.from.day > -60) return lives;
  return [first, life(-20, null, null, { time: '08:00', decided: -21, revision: 1 })];
}

/** A page of a site from a sketch. */
export function build(site: string, sketch: Sketch): DemoPage {
  const key = `${site}/${sketch.name}`;
  const random = randomFrom(seedOf(key));
  const own = sketch.lives ?? [life(-500 + Math.floor(random() * 300), null)];
  const lives = sketch.role === 'home' ? releasedAgain(own) : own;
  const first = Math.min(...lives.map(({ decided }) => decided.day), 0);
  return {
    key,
    site,
    name: sketch.name,
    role: sketch.role ?? 'ordinary',
    campaign: sketch.campaign ?? null,
    lives,
    path: sketch.path ?? `/${slugOf(sketch.name)}`,
    owner: sketch.owner ?? pick(random, OWNERS),
    made: at(sketch.made ?? first - 4, '13:40'),
    documents: [sketch, ...(sketch.later || lives !== own ? [{ ...sketch, ...sketch.later }] : [])].map(
      (one) => (ids: DemoIds) => documentOf(site, one, ids),
    ),
    visits: sketch.visits ?? Math.round(2 + random() ** 3 * 90),
    drift: sketch.drift ?? (random() - 0.5) * 0.02,
    moves: sketch.moves ?? [],
  };
}

/** How sites lay out what many pages have, each in its own manner. */
const MANNERS: Readonly<Record<string, { readonly quote?: string; readonly reasons?: string; readonly ask?: string }>> =
  {
    lantern: { quote: 'large' },
    tide: { quote: 'ruled', ask: 'framed' },
    sail: { reasons: 'rows', ask: 'tint' },
    smoke: { quote: 'large', ask: 'framed' },
    orchard: { quote: 'ruled', reasons: 'ruled' },
  };

function documentOf(site: string, sketch: Sketch, ids: DemoIds): PageDocument {
  const blocks: Block[] = [];
  const manner = MANNERS[site] ?? {};
  const add = (type: Block['type'], fields: FieldValues) => void blocks.push(newBlock(type, ids.block(), fields));
  const picture = (key: string | null | undefined) =>
    key ? { pictureId: ids.picture(key) as never, description: describe(key), isDecorative: false } : null;
  const button = (label: string, page: string) => {
    const id = ids.page(page.includes('/') ? page : `${site}/${page}`);
    return id === null ? null : { label, target: { kind: 'page' as const, pageId: id as never } };
  };
  add('opening', {
    layout: sketch.layout ?? 'side',
    kicker: sketch.kicker,
    heading: sketch.heading,
    text: sketch.lead,
    picture: picture(sketch.picture),
    button: sketch.button ? button(...sketch.button) : null,
  });
  if (sketch.reasons) {
    const [heading, ...items] = sketch.reasons;
    add('reasons', {
      layout: manner.reasons ?? 'grid',
      heading,
      items: items.map(([title, text, shown, leads]) => ({
        ...{ title, text, picture: picture(shown) },
        link: leads ? button(leads.split('/').at(-1) ?? '', leads) : null,
      })),
    });
  }
  if (sketch.prose) add('text', { body: richTextOf(...sketch.prose) });
  if (sketch.show) add('picture', { picture: picture(sketch.show[0]), caption: sketch.show[1], width: 'page' });
  if (sketch.papers)
    add('buttonRow', {
      items: sketch.papers.map(([label, key]) => ({
        button: { label, target: { kind: 'file', fileId: ids.paper(key) } },
      })),
    });
  if (sketch.quote)
    add('quote', {
      layout: manner.quote ?? 'tint',
      text: sketch.quote[0],
      who: sketch.quote[1],
      role: sketch.quote[2],
    });
  if (sketch.news)
    add('callToAction', {
      heading: sketch.news[0],
      text: sketch.news[1],
      asks: 'email',
      askLabel: '',
      button: { label: sketch.news[2], target: { kind: 'outside', url: ids.listService() } },
    });
  if (sketch.hub)
    add('pageList', {
      heading: '',
      items: sketch.hub.flatMap((name) => {
        const id = ids.page(`${site}/${name}`);
        return id === null ? [] : [{ page: { id }, words: '' }];
      }),
    });
  if (sketch.ask)
    add('callToAction', {
      layout: manner.ask ?? 'deep',
      heading: sketch.ask[0],
      text: sketch.ask[1],
      button: button(sketch.ask[2], sketch.ask[3]),
    });
  const piece = sketch.piece ? ids.piece(sketch.piece) : null;
  if (piece !== null) add('piece', { piece: { id: piece } });
  return {
    metadata: {
      ...(sketch.frame ? { frame: sketch.frame } : {}),
      ...(sketch.path === '/' ? { titleAlone: true as const } : {}),
      ...(sketch.isUnsearched ? { robots: { noindex: true as const } } : {}),
      ...(sketch.facts ? { facts: sketch.facts } : {}),
      title: sketch.title ?? sketch.name,
      description: sketch.description ?? sketch.lead.split('\n')[0]?.slice(0, 150) ?? '',
    },
    blocks,
  };
}

const describe = (key: string) => PICTURE_DESCRIPTIONS.get(key) ?? '';
