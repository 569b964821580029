import { isUnavailable } from '../http/problem.js';

/** The system's codes for a disk that is full, read-only, broken or gone, and for files or memory that have run out. */
const DISK = new Set([
  'ENOSPC',
  'EDQUOT',
  'EROFS',
  'EIO',
  'ENXIO',
  'ENODEV',
  'ENOTDIR',
  'ENOENT',
  'EACCES',
  'EMFILE',
  'ENFILE',
  'ESTALE',
]);
/** PostgreSQL's for the same: disk full, too much memory, read-only. */
const FULL = new Set(['53100', '53200', '25006']);

const codeOf = (error: unknown) => String((error as { code?: unknown } | null)?.code ?? '');

/** Whether an error says that a disk takes or gives nothing just now. */
export function isDiskTrouble(error: unknown): boolean {
  const code = codeOf(error);
  const isCall = (error as { syscall?: unknown } | null)?.syscall !== undefined || error instanceof Error;
  return FULL.has(code) || (isCall && DISK.has(code));
}

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
