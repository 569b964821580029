import { wrong } from '../words/faults.js';
import { momentFromJSON } from './moment.js';
import { isRecord, type Fault, type Result } from './result.js';
import type { Fact, FactKind } from './types.js';

/** How one value of a fact is written. Amounts are decimal numbers, days are of ISO 8601, currencies of ISO 4217. */
export type FactForm = 'line' | 'paragraph' | 'moment' | 'day' | 'amount' | 'currency' | 'place' | readonly string[];

interface FactField {
  readonly key: string;
  readonly form: FactForm;
  /** What search engines ask for, or would like to have, before they show the fact as such. */
  readonly need?: 'required' | 'recommended';
}

const AVAILABLE = ['InStock', 'SoldOut', 'PreOrder', 'LimitedAvailability', 'OutOfStock'] as const;

/**
 * What can be stated, by kind; the values of choices are names of schema.org. Required and recommended is what search
 * engines ask for in their published guides to structured data.
 */
export const FACT_FIELDS = {
  event: [
    { key: 'name', form: 'line', need: 'required' },
    { key: 'start', form: 'moment', need: 'required' },
    { key: 'end', form: 'moment', need: 'recommended' },
    { key: 'place', form: 'line', need: 'required' },
    { key: 'address', form: 'paragraph', need: 'required' },
    { key: 'description', form: 'paragraph', need: 'recommended' },
    { key: 'organizer', form: 'line', need: 'recommended' },
    { key: 'status', form: ['EventScheduled', 'EventPostponed', 'EventCancelled', 'EventMovedOnline'] },
    { key: 'price', form: 'amount', need: 'recommended' },
    { key: 'currency', form: 'currency', need: 'recommended' },
    { key: 'availability', form: AVAILABLE },
  ],
  product: [
    { key: 'name', form: 'line', need: 'required' },
    { key: 'price', form: 'amount', need: 'required' },
    { key: 'currency', form: 'currency', need: 'required' },
    { key: 'availability', form: AVAILABLE, need: 'recommended' },
    { key: 'until', form: 'day' },
    { key: 'brand', form: 'line', need: 'recommended' },
    { key: 'description', form: 'paragraph', need: 'recommended' },
  ],
  job: [
    { key: 'name', form: 'line', need: 'required' },
    { key: 'description', form: 'paragraph', need: 'required' },
    { key: 'employer', form: 'line', need: 'required' },
    { key: 'address', form: 'paragraph', need: 'required' },
    { key: 'posted', form: 'day', need: 'required' },
    { key: 'until', form: 'day', need: 'recommended' },
    {
      key: 'employment',
      form: ['FULL_TIME', 'PART_TIME', 'CONTRACTOR', 'TEMPORARY', 'INTERN', 'VOLUNTEER'],
      need: 'recommended',
    },
    { key: 'pay', form: 'amount', need: 'recommended' },
    { key: 'payMost', form: 'amount' },
    { key: 'currency', form: 'currency', need: 'recommended' },
    { key: 'per', form: ['HOUR', 'DAY', 'WEEK', 'MONTH', 'YEAR'], need: 'recommended' },
  ],
  business: [
    { key: 'name', form: 'line', need: 'required' },
    {
      key: 'type',
      form: ['LodgingBusiness', 'FoodEstablishment', 'Store', 'TouristInformationCenter', 'EntertainmentBusiness'],
    },
    { key: 'address', form: 'paragraph', need: 'required' },
    { key: 'phone', form: 'line', need: 'recommended' },
    { key: 'mail', form: 'line' },
    { key: 'hours', form: 'line', need: 'recommended' },
    { key: 'prices', form: 'line' },
    { key: 'coordinates', form: 'place', need: 'recommended' },
  ],
} as const satisfies Record<FactKind, readonly FactField[]>;

export const FACT_KINDS = Object.keys(FACT_FIELDS) as FactKind[];
export const factFields = (kind: FactKind): readonly FactField[] => FACT_FIELDS[kind];

const LONGEST = { line: 200, paragraph: 2_000, place: 80 } as const;
export const longestOf = (form: FactForm): number =>
  typeof form === 'string' && form in LONGEST ? LONGEST[form as keyof typeof LONGEST] : 40;

/** Facts from JSON: each kind once, every value as its field is written. An empty value is left to the page. */
export function factsFromJSON(json: unknown): Result<readonly Fact[]> {
  if (json === undefined || json === null) return { ok: true, value: [] };
  if (!Array.isArray(json)) return { ok: false, faults: [{ path: '', ...wrong('not-a-list') }] };
  const faults: Fault[] = [];
  const seen = new Set<string>();
  const facts = json.slice(0, FACT_KINDS.length + 1).flatMap((one: unknown, index): Fact[] => {
    const kind = isRecord(one) ? FACT_KINDS.find((known) => known === one['kind']) : undefined;
    const values = isRecord(one) ? one['values'] : null;
    if (!kind || !isRecord(values) || seen.has(kind)) {
      faults.push({ path: `[${index}]`, ...wrong('fact-unknown') });
      return [];
    }
    seen.add(kind);
    return [{ kind, values: valuesFromJSON(kind, values, `[${index}].`, faults) }];
  });
  return faults.length ? { ok: false, faults } : { ok: true, value: facts };
}

function valuesFromJSON(kind: FactKind, json: object, path: string, faults: Fault[]): Fact['values'] {
  const read = factFields(kind).flatMap(({ key, form }): [string, Fact['values'][string]][] => {
    const given: unknown = (json as Record<string, unknown>)[key] ?? '';
    if (given === '') return [];
    if (form === 'moment') {
      const moment = momentFromJSON(given);
      if (!moment) faults.push({ path: path + key, ...wrong('moment-missing') });
      return moment ? [[key, moment]] : [];
    }
    // As it was typed: spaces around it are left out where it is published.
    const value = typeof given === 'string' ? given : '';
    const fault = typeof given === 'string' ? faultOf(form, value.trim()) : wrong('not-text');
    if (fault) faults.push({ path: path + key, ...fault });
    return fault || !value.trim() ? [] : [[key, value]];
  });
  return Object.fromEntries(read);
}

const AMOUNT = /^\d{1,9}(\.\d{1,4})?$/;
const CURRENCY = /^[A-Z]{3}$/;

/** What is wrong with a value without the spaces around it; shared values between { } may stand in all but choices. */
function faultOf(form: Exclude<FactForm, 'moment'>, value: string) {
  if (typeof form !== 'string') return form.includes(value) ? null : wrong('option-unknown');
  if (value.length > longestOf(form)) return wrong('at-most-characters', { most: longestOf(form) });
  if (value.includes('{')) return null;
  if (form === 'amount' && !AMOUNT.test(value)) return wrong('fact-amount');
  if (form === 'currency' && !CURRENCY.test(value)) return wrong('fact-currency');
  if (form === 'day' && !isDay(value)) return wrong('fact-day');
  return null;
}

/** Whether it is a day there is, as `2027-05-01`. */
function isDay(value: string): boolean {
  const [year = 0, month = 0, day = 0] = /^\d{4}-\d{2}-\d{2}$/.test(value) ? value.split('-').map(Number) : [];
  const read = new Date(Date.UTC(year, month - 1, day));
  return month > 0 && read.getUTCMonth() === month - 1 && read.getUTCDate() === day;
}
