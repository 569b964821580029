import { isDiskTrouble, isUnavailable } from '../errors.js';

/**
 * Whether an error comes from a database or a disk, and says nothing of what was being done. Whatever else throws has
 * computed with what it was given: it will throw again.
 */
export function isTrouble(error: unknown): boolean {
  return (
    isDiskTrouble(error) ||
    isUnavailable(error) ||
    (error instanceof Error && ('severity' in error || 'syscall' in error || error.name === 'KnexTimeoutError'))
  );
}
