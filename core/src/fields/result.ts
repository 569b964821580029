import type { Wrong } from '../words/faults.js';

/** A value, or what is wrong with the input and where. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly faults: readonly Fault[] };

/** What is wrong at one place of an input; `path` as in `blocks[2].items[0].title`. */
export interface Fault extends Wrong {
  readonly path: string;
}

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
