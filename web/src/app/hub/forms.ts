import { ValidationError, type Schema } from 'yup';

/** What is wrong, by field; empty where all is well. */
export type FieldErrors = Readonly<Record<string, string>>;

/** Validates values with a schema of the contracts: the same rules, and the same words, as the server's. */
export function errorsOf(schema: Schema, value: unknown): FieldErrors {
  try {
    schema.validateSync(value, { abortEarly: false });
    return {} as FieldErrors;
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const inner = error.inner.length ? error.inner : [error];
    return Object.fromEntries(inner.map(({ path, message }): [string, string] => [path ?? '', message]).reverse());
  }
}
