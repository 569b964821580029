import { robotsFromJSON } from '../fields/robots.js';
import { METADATA_TEXTS, type Metadata, type MetadataText, type Robots } from '../fields/types.js';
import { robotsContent } from '../metadata/robots.js';
import { canonical } from '../plan/index.js';

/** What a list says of a page's settings, a cell each: its texts, and what it asks of search engines. */
export const SETTINGS = [...METADATA_TEXTS, 'robots'] as const;
export type Setting = (typeof SETTINGS)[number];
export type SettingCells = Readonly<Record<Setting, string>>;

/** Stands in a cell for nothing; an empty cell leaves what is there. */
const NOTHING = '-';
/** What asks for the usual, whatever is set further up (the directive `all` of the robots meta tag). */
const USUAL = 'all';

/** Settings as cells; empty for what a page does not say. */
export const settingCells = (metadata: Metadata): SettingCells =>
  Object.fromEntries(
    SETTINGS.map((key) => [
      key,
      key !== 'robots' ? (metadata[key] ?? '') : metadata.robots ? robotsContent(metadata.robots) || USUAL : '',
    ]),
  ) as SettingCells;

export interface ReadSettings {
  readonly metadata: Metadata;
  readonly changed: readonly Setting[];
  /** What can't be read, or is too long. */
  readonly wrong: readonly Setting[];
}

/** Metadata with what cells say; empty cells leave it, and what reads the same is not changed. */
export function withSettings(
  metadata: Metadata,
  cells: SettingCells,
  { zone, most }: { readonly zone: string; readonly most: Readonly<Record<MetadataText, number>> },
): ReadSettings {
  const [changed, wrong]: [Setting[], Setting[]] = [[], []];
  let now = metadata;
  for (const key of METADATA_TEXTS) {
    // Programs for tables are kept from reading a text as a formula by a stroke before it.
    const typed = cells[key].replace(/^'(?=[=+\-@])/, '');
    if (!typed || typed === (metadata[key] ?? '').trim()) continue;
    const isBare = key === 'title' || key === 'description';
    if (typed.length > most[key] || (typed === NOTHING && key === 'title')) wrong.push(key);
    else {
      const { [key]: _, ...rest } = now;
      const value = typed === NOTHING ? '' : typed;
      if (value === (metadata[key] ?? '')) continue;
      now = (value || isBare ? { ...rest, [key]: value } : rest) as Metadata;
      changed.push(key);
    }
  }
  const { robots: own = null, ...rest } = now;
  const robots = cells.robots.trim() ? readRobots(cells.robots, zone) : own;
  if (robots === undefined) wrong.push('robots');
  else if (same(robots) !== same(own)) {
    now = robots ? { ...rest, robots } : rest;
    changed.push('robots');
  }
  return { metadata: now, changed, wrong };
}

const same = (robots: Robots | null): string => (robots ? robotsContent(robots) || USUAL : canonical(null));

/** Directives of the robots meta tag; `undefined` where one can't be read, `null` for what is set further up. */
function readRobots(text: string, zone: string): Robots | null | undefined {
  const typed = text.trim().toLowerCase();
  if (typed === NOTHING) return null;
  if (typed === USUAL) return {};
  const json: Record<string, unknown> = {};
  for (const directive of typed.split(',').map((one) => one.trim())) {
    const [, name = '', value = ''] = /^([a-z_-]+)\s*(?::\s*(.+))?$/.exec(directive) ?? [];
    if (name === 'none') Object.assign(json, { noindex: true, nofollow: true });
    else if (['noindex', 'nofollow', 'noarchive'].includes(name) && !value) json[name] = true;
    else if (name === 'max-snippet' && /^\d+$/.test(value)) json['maxSnippet'] = Number(value);
    else if (name === 'max-image-preview') json['maxImagePreview'] = value;
    else if (name === 'unavailable_after' && !Number.isNaN(Date.parse(value)))
      json['unavailableAfter'] = { at: Date.parse(value), zone };
    else return undefined;
  }
  const read = robotsFromJSON(json);
  return read.ok ? read.value : undefined;
}
