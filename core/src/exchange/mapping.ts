import { fold } from '../text/index.js';

/** Words under which people keep what a page has, by field; the first fits best. */
const WORDS = {
  id: ['id', 'page id', 'number'],
  name: ['name', 'page', 'internal name', 'page name'],
  site: ['site', 'host', 'domain', 'website'],
  path: ['path', 'slug', 'address', 'url', 'page path'],
  title: ['title', 'draft title', 'page title', 'meta title', 'headline', 'heading'],
  description: ['description', 'draft description', 'meta description', 'page description'],
  shareTitle: ['shared title', 'draft shared title', 'share title', 'og title'],
  shareDescription: ['shared description', 'draft shared description', 'share description', 'og description'],
  robots: ['robots', 'draft robots', 'meta robots'],
  labels: ['labels', 'label', 'tags', 'tag', 'keywords'],
  campaign: ['campaign', 'programme', 'program', 'project'],
  owner: ['owner', 'responsible', 'who', 'editor'],
  from: ['from', 'live from', 'start', 'starts', 'start date', 'begin', 'go live', 'publish'],
  until: ['until', 'live until', 'end', 'ends', 'end date', 'to', 'off', 'unpublish', 'expires'],
  afterwards: ['afterwards', 'then', 'redirect', 'redirect to', 'after'],
  further: ['further periods', 'periods', 'more periods'],
} as const;
export type MappedField = keyof typeof WORDS;
export const MAPPED_FIELDS = Object.keys(WORDS) as MappedField[];

/** For each column of a head the field it most likely is, each field once; `null` for none. */
export function guessFields(head: readonly string[]): (MappedField | null)[] {
  const guessed: (MappedField | null)[] = head.map(() => null);
  const cells = head.map((cell) => fold(cell).replace(/[_-]+/g, ' '));
  const taken = new Set<MappedField>();
  const rounds = Math.max(...MAPPED_FIELDS.map((field) => WORDS[field].length));
  for (let round = 0; round < rounds; round++)
    for (const field of MAPPED_FIELDS) {
      const word = WORDS[field][round];
      const at =
        word === undefined || taken.has(field)
          ? -1
          : cells.findIndex((cell, index) => cell === word && !guessed[index]);
      if (at < 0) continue;
      guessed[at] = field;
      taken.add(field);
    }
  return guessed;
}
