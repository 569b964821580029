import type { Problem } from '@domatium/contracts';

type Fields = NonNullable<Problem['fields']>;

/** A refusal that the caller can act on. Turned into problem details in one place, `sendProblem`. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly extra: { readonly fields?: Fields; readonly current?: unknown; readonly retryAfter?: number } = {},
  ) {
    super(detail);
  }

  toProblem(): Problem {
    const { retryAfter: _, ...extra } = this.extra;
    return { type: 'about:blank', status: this.status, title: this.title, detail: this.message, ...extra };
  }
}

export class NotFoundError extends ProblemError {
  constructor(what = 'page') {
    super(404, 'Not found', `There is no such ${what} here.`);
  }
}

/** Input that can't be taken, field by field. */
export class InvalidError extends ProblemError {
  constructor(fields: Fields, detail?: string) {
    super(422, 'Something needs changing', detail ?? fields.map(({ message }) => message).join(' '), { fields });
  }
}

/** Somebody else holds what was asked for, or it can't be done any more. */
export class ConflictError extends ProblemError {
  constructor(detail: string, fields: Fields = []) {
    super(409, 'That can’t be done as things are', detail, fields.length ? { fields } : {});
  }
}

/** A change made from a state that is no longer the newest; carries the newest. */
export class StaleError extends ProblemError {
  constructor(detail: string, current: unknown) {
    super(412, 'Changed by someone else meanwhile', detail, { current });
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

/** PostgreSQL's codes for a character that no text of it can hold. */
const UNSTORABLE = new Set(['22021', '22P05']);

/** PostgreSQL's codes for a number that no column of it can hold. */
const OUT_OF_RANGE = new Set(['22003', '22P02']);

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

/** Any error as problem details. What is not a refusal of ours is not explained to the outside. */
export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemError) return error.toProblem();
  if (isUnavailable(error))
    return new ProblemError(
      503,
      'The database can’t be reached',
      'Nothing is lost. Try again in a moment; what you typed is kept.',
    ).toProblem();
  if (isDiskTrouble(error))
    return new ProblemError(
      507,
      'The disk takes nothing',
      'What you sent was not kept, and nothing of it is left. Whoever runs the server has to make room; try again then.',
    ).toProblem();
  const { type, status, code, limit } = error as { type?: string; status?: number; code?: string; limit?: number };
  if (code !== undefined && UNSTORABLE.has(code))
    return new InvalidError([
      { path: 'body', message: 'A text holds a character that can’t be kept (U+0000). Take it out.' },
    ]).toProblem();
  if (code !== undefined && OUT_OF_RANGE.has(code))
    return new InvalidError([
      { path: 'body', message: 'A number is out of the range in which numbers are kept.' },
    ]).toProblem();
  if (type === 'entity.too.large')
    return new ProblemError(
      413,
      'Too large',
      `That is more than can be sent at once: at most ${Math.round((limit ?? 0) / 1024 / 1024)} MB.`,
    ).toProblem();
  if (status !== undefined && status >= 400 && status < 500)
    return new ProblemError(status, 'That can’t be read', 'The request can’t be read. It must be JSON.').toProblem();
  return new ProblemError(
    500,
    'Something went wrong here',
    'The fault is ours; it has been written to the log.',
  ).toProblem();
}
