import { isRecord, type Fault, type Result } from '../fields/result.js';

/** A value that many texts share, by its name: `{opening hours}` in a text becomes what it holds. */
export interface SharedValue {
  readonly name: string;
  readonly value: string;
}

export const MAX_VALUES = 500;
const NAME = /^[\p{L}\p{N}][\p{L}\p{N} .-]{0,39}$/u;
const PLACE = /\{([^{}\n]{1,60})\}/g;

/** Names that Domatium fills in by itself. */
export const OWN_VALUES = ['year', 'site name'] as const;

/** Those values, of a year and a site. */
export const yearValues = (year: number, siteName: string): readonly SharedValue[] => [
  { name: 'year', value: String(year) },
  { name: 'site name', value: siteName },
];

const keyOf = (name: string) => name.trim().toLowerCase().replace(/\s+/g, ' ');

/** A text with the names between { } replaced by what they hold; names that nobody knows stay as they are. */
export function fillText(text: string, values: ReadonlyMap<string, string>): string {
  return text.includes('{') ? text.replace(PLACE, (whole, name: string) => values.get(keyOf(name)) ?? whole) : text;
}

/** The names a text asks for, each once. */
export function namesIn(text: string): string[] {
  return text.includes('{') ? [...new Set([...text.matchAll(PLACE)].map(([, name = '']) => keyOf(name)))] : [];
}

/** Values over each other by name: those of a site over those of its portfolio. */
export function valueMap(...layers: readonly (readonly SharedValue[])[]): Map<string, string> {
  return new Map(layers.flat().map(({ name, value }) => [keyOf(name), value]));
}

/** Values from JSON: at most 500, each name once. */
export function valuesFromJSON(json: unknown): Result<readonly SharedValue[]> {
  if (!Array.isArray(json) || json.length > MAX_VALUES)
    return { ok: false, faults: [{ path: 'values', message: `At most ${MAX_VALUES} values.` }] };
  const faults: Fault[] = [];
  const seen = new Set<string>();
  const values = json.map((one: unknown, index): SharedValue => {
    const { name, value } = isRecord(one) ? one : {};
    const path = `values[${index}]`;
    const asked = typeof name === 'string' ? name.trim() : '';
    if (!NAME.test(asked))
      faults.push({ path: `${path}.name`, message: 'Use letters, digits and spaces, at most 40.' });
    else if (seen.has(keyOf(asked)))
      faults.push({ path: `${path}.name`, message: 'A value with this name already exists.' });
    else if ((OWN_VALUES as readonly string[]).includes(keyOf(asked)))
      faults.push({ path: `${path}.name`, message: `{${asked}} is filled in by itself.` });
    seen.add(keyOf(asked));
    if (typeof value !== 'string' || value.length > 1000)
      faults.push({ path: `${path}.value`, message: 'A value has at most 1,000 characters.' });
    return { name: asked, value: String(value) };
  });
  return faults.length ? { ok: false, faults } : { ok: true, value: values };
}
