import { nameKey } from '../text/names.js';
import { wrong } from '../words/faults.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';

/** A value that many texts share, by its name: `{opening hours}` in a text becomes what it holds. */
export interface SharedValue {
  readonly name: string;
  readonly value: string;
}

export const MAX_VALUES = 500;
const LONGEST_VALUE = 1000;
const NAME = /^[\p{L}\p{N}][\p{L}\p{N} .-]{0,39}$/u;

/** Names that Domatium fills in by itself. */
export const OWN_VALUES = ['year', 'site name'] as const;

/** Those values, of a year and a site. */
export const yearValues = (year: number, siteName: string): readonly SharedValue[] => [
  { name: 'year', value: String(year) },
  { name: 'site name', value: siteName },
];

/** Values over each other by name: those of a site over those of its portfolio. */
export function valueMap(...layers: readonly (readonly SharedValue[])[]): Map<string, string> {
  return new Map(layers.flat().map(({ name, value }) => [nameKey(name), value]));
}

/** Values from JSON: at most 500, each name once. */
export function valuesFromJSON(json: unknown): Result<readonly SharedValue[]> {
  if (!Array.isArray(json) || json.length > MAX_VALUES)
    return { ok: false, faults: [{ path: 'values', ...wrong('too-many-values', { most: MAX_VALUES }) }] };
  const faults: Fault[] = [];
  const seen = new Set<string>();
  const values = json.map((one: unknown, index): SharedValue => {
    const { name, value } = isRecord(one) ? one : {};
    const path = `values[${index}]`;
    const asked = typeof name === 'string' ? name.trim() : '';
    if (!NAME.test(asked)) faults.push({ path: `${path}.name`, ...wrong('value-name', { most: 40 }) });
    else if (seen.has(nameKey(asked))) faults.push({ path: `${path}.name`, ...wrong('value-twice') });
    else if ((OWN_VALUES as readonly string[]).includes(nameKey(asked)))
      faults.push({ path: `${path}.name`, ...wrong('value-own', { name: asked }) });
    seen.add(nameKey(asked));
    if (typeof value !== 'string' || value.length > LONGEST_VALUE)
      faults.push({ path: `${path}.value`, ...wrong('value-too-long', { most: LONGEST_VALUE }) });
    return { name: asked, value: String(value) };
  });
  return faults.length ? { ok: false, faults } : { ok: true, value: values };
}
