import { documentFromJSON } from '../document/page-document.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import type { Part } from '../fields/types.js';

export type { Part } from '../fields/types.js';
import { wrong } from '../words/faults.js';

/** What stands around pages: made once, used by many. */
export const PART_KINDS = ['header', 'footer', 'band'] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** How a part can be laid out, each with its label, the first of a new one first. */
export const PART_LAYOUTS = {
  header: { row: 'In one row', rows: 'In two rows', centred: 'Centred', over: 'Over the opening picture' },
  footer: { columns: 'In columns', row: 'In one row', centred: 'Centred' },
  band: { information: 'Information', warning: 'Warning', urgent: 'Urgent' },
} as const satisfies Record<PartKind, Record<string, string>>;

/** What else is said of a part of each kind, each choice with its labels, the usual first: that one is not kept. */
export const PART_CHOICES = {
  header: {
    stays: {
      '': 'Scrolls away',
      stays: 'Stays in view',
      lower: 'Stays, lower after the first scroll',
      returns: 'Goes on the way down, comes back on the way up',
    },
    shownAt: { '': 'Everywhere', wide: 'On wide screens', narrow: 'On narrow ones' },
  },
  footer: {
    stays: { '': 'Scrolls away', stays: 'Stays in view' },
    shownAt: { '': 'Everywhere', wide: 'On wide screens', narrow: 'On narrow ones' },
  },
  band: {
    place: { '': 'Above the header', below: 'Below the header', foot: 'At the foot of the window' },
    stays: { '': 'Scrolls away', stays: 'Stays in view' },
    shownAt: { '': 'Everywhere', wide: 'On wide screens', narrow: 'On narrow ones' },
  },
} as const satisfies Record<PartKind, Partial<Record<'place' | 'stays' | 'shownAt', Record<string, string>>>>;

const MOST_BLOCKS = 20;
const MOST_SITES = 10_000;
const METADATA = { title: '', description: '' };

/** A part from JSON: at most 20 blocks, one of the layouts of its kind. */
export function partFromJSON(kind: PartKind, json: unknown): Result<Part> {
  const { layout, blocks } = isRecord(json) ? json : {};
  const read = documentFromJSON({ metadata: METADATA, blocks });
  if (!read.ok) return read;
  const faults: Fault[] = [];
  if (!Object.hasOwn(PART_LAYOUTS[kind], String(layout))) faults.push({ path: 'layout', ...wrong('part-layout') });
  const { length } = read.value.blocks;
  if (!length || length > MOST_BLOCKS) faults.push({ path: 'blocks', ...wrong('part-blocks', { most: MOST_BLOCKS }) });
  const more: Record<string, unknown> = {};
  for (const [key, options] of Object.entries(PART_CHOICES[kind])) {
    const value = isRecord(json) ? (json[key] ?? '') : '';
    if (typeof value !== 'string' || !Object.hasOwn(options, value))
      faults.push({ path: key, ...wrong('part-choice') });
    else if (value) more[key] = value;
  }
  if (kind === 'band' && isRecord(json)) {
    if (json['isClosable'] === true) more['isClosable'] = true;
    const sites = json['sites'] ?? [];
    const isList = Array.isArray(sites) && sites.length <= MOST_SITES && sites.every((id) => Number.isSafeInteger(id));
    if (sites !== 'all' && !isList) faults.push({ path: 'sites', ...wrong('part-choice') });
    else if (sites === 'all' || sites.length) more['sites'] = sites;
  }
  return faults.length
    ? { ok: false, faults }
    : { ok: true, value: { layout: String(layout), blocks: read.value.blocks, ...more } };
}
