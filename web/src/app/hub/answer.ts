import { Refusal } from './api';
import type { FieldErrors } from './forms';

export type Answer<T> = { readonly value: T } | { readonly errors: FieldErrors };

/** What was answered, or why not, by field; `whole` for what belongs to none. */
export async function tried<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const fields = error.problem.fields ?? [];
    return {
      errors: fields.length
        ? Object.fromEntries(fields.map(({ path, message }) => [path, message]))
        : { whole: error.message },
    };
  }
}

/** Why work was refused, in the words of every field it was refused for; `null` where it was done. */
export async function refusalOf(work: () => Promise<unknown>): Promise<string | null> {
  const answer = await tried(work);
  return 'errors' in answer ? Object.values(answer.errors).join(' ') : null;
}
