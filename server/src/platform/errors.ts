import type { Problem, ProblemCode } from '@domatium/contracts';
import { say, type Thing } from '@domatium/core/words/answers/platform';

type Fields = NonNullable<Problem['fields']>;

/** What goes with a refusal besides its words. */
export interface RefusedMore {
  readonly fields?: Fields;
  /** What is stored, where a change was made from a state that is no longer the newest. */
  readonly current?: unknown;
  /** Seconds after which trying again makes sense. */
  readonly retryAfter?: number;
}

/** A refusal that the caller can act on, by its kind; how it travels is the matter of `http`. */
export class Refused extends Error {
  constructor(
    readonly code: ProblemCode,
    detail: string,
    readonly extra: RefusedMore = {},
  ) {
    super(detail);
  }
}

export class NotFoundError extends Refused {
  constructor(what: Thing = 'page') {
    super('not-found', say.thereIsNoSuchHere(what));
  }
}

/** Input that can't be taken, field by field. */
export class InvalidError extends Refused {
  constructor(fields: Fields, detail?: string) {
    super('invalid', detail ?? fields.map(({ message }) => message).join(' '), { fields });
  }
}

/** Somebody else holds what was asked for, or it can't be done any more. */
export class ConflictError extends Refused {
  constructor(detail: string, fields: Fields = []) {
    super('conflict', detail, fields.length ? { fields } : {});
  }
}

/** A change made from a state that is no longer the newest; carries the newest. */
export class StaleError extends Refused {
  constructor(detail: string, current: unknown) {
    super('stale', detail, { current });
  }
}

const UNAVAILABLE = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08001',
  '08003',
  '53300',
  // Read-only, as a standby is, or a server whose disk was remounted.
  '25006',
]);

/** What pg and knex say of a connection that was lost under them; they give no code for it. */
const AWAY_WORDS =
  /Connection terminated|is not queryable|acquiring a connection|Unable to acquire|timeout exceeded when trying to connect|Query read timeout|Transaction query already complete|^aborted$/i;

/** The system's codes for a disk that is full, read-only, broken or gone, and for files that have run out. */
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
/** PostgreSQL's for the same: disk full, out of memory. */
const FULL = new Set(['53100', '53200']);

/** Whether an error says that a disk takes or gives nothing just now. */
export function isDiskTrouble(error: unknown): boolean {
  const { code } = (error ?? {}) as { code?: unknown };
  return typeof code === 'string' && (FULL.has(code) || (error instanceof Error && DISK.has(code)));
}

/** Whether an error says that the database can't be reached just now. */
export function isUnavailable(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as { code?: string };
  const causes = (error as AggregateError).errors as unknown[] | undefined;
  return (
    (code !== undefined && UNAVAILABLE.has(code)) ||
    AWAY_WORDS.test(error.message) ||
    (causes?.some(isUnavailable) ?? false)
  );
}
