/** Every kind of refusal, by its code: the HTTP status it travels with, and its title. Decisions go by the code alone. */
export const PROBLEMS = {
  'not-found': { status: 404, title: 'Not found' },
  invalid: { status: 422, title: 'Something needs changing' },
  conflict: { status: 409, title: 'This can’t be done right now' },
  stale: { status: 412, title: 'Changed by someone else' },
  'not-accepted': { status: 422, title: 'This file isn’t accepted' },
  'file-here': { status: 409, title: 'This file already exists' },
  'picture-here': { status: 409, title: 'This picture already exists' },
  'font-of-theme': { status: 409, title: 'Fonts are changed in their theme' },
  'nothing-to-restore': { status: 409, title: 'There is nothing to restore' },
  'in-use': { status: 409, title: 'It is used' },
  'not-allowed': { status: 403, title: 'Not allowed' },
  'too-large': { status: 413, title: 'Too large' },
  'no-room': { status: 413, title: 'No room left' },
  'no-original': { status: 409, title: 'The original is missing' },
  'too-much-at-once': { status: 429, title: 'Too much at once' },
  'clock-off': { status: 503, title: 'The server’s clock is off' },
  unreadable: { status: 400, title: 'The request can’t be read' },
  'not-supported': { status: 415, title: 'The request can’t be read' },
  'too-deep': { status: 422, title: 'Too deep' },
  'too-many-values': { status: 422, title: 'Too much at once' },
  'database-away': { status: 503, title: 'The database can’t be reached' },
  'disk-full': { status: 507, title: 'Can’t write to disk' },
  internal: { status: 500, title: 'Something went wrong' },
  'cross-site': { status: 403, title: 'Not from here' },
  'signed-out': { status: 401, title: 'Sign in first' },
  'factor-needed': { status: 403, title: 'Second factor required' },
  'link-ended': { status: 410, title: 'This link has expired' },
  'password-needed': { status: 401, title: 'Password' },
  'readers-busy': { status: 503, title: 'Too many uploads at once' },
  'too-many-windows': { status: 429, title: 'Too many windows' },
  'sign-ins-busy': { status: 503, title: 'Too many sign-ins at once' },
  'link-used': { status: 410, title: 'This link no longer works' },
  'no-mail': { status: 409, title: 'E-mail isn’t set up' },
  'too-many-tries': { status: 429, title: 'Too many tries' },
} as const satisfies Record<string, { readonly status: number; readonly title: string }>;

export type ProblemCode = keyof typeof PROBLEMS;

const TYPE = 'urn:domatium:problem:';

/** A refusal as it travels: problem details (RFC 9457) with a path for each field that is wrong. */
export interface Problem {
  /** `urn:domatium:problem:` and the code; *about:blank* where the network refused and no server. */
  readonly type: `${typeof TYPE}${ProblemCode}` | 'about:blank';
  readonly status: number;
  readonly title: string;
  /** What, where and what to do, in words. */
  readonly detail: string;
  readonly fields?: readonly {
    readonly path: string;
    readonly message: string;
    /** What it is, and what its words were made of, where that is told apart. */
    readonly code?: string;
    readonly params?: object;
  }[];
  /** What the other side holds, where a change was made from a state that is no longer the newest. */
  readonly current?: unknown;
  /** The request in the log of the server, as a URN. */
  readonly instance?: string;
}

/** A refusal of a kind, as it travels. */
export function problem(code: ProblemCode, detail: string, more: Partial<Problem> = {}): Problem {
  return { type: `${TYPE}${code}`, ...PROBLEMS[code], detail, ...more };
}

/** The kind of a refusal; `null` where the network refused. */
export function codeOf({ type }: Pick<Problem, 'type'>): ProblemCode | null {
  const code = type.startsWith(TYPE) ? type.slice(TYPE.length) : '';
  return code in PROBLEMS ? (code as ProblemCode) : null;
}

export function isProblem(value: unknown): value is Problem {
  return typeof value === 'object' && value !== null && 'status' in value && 'detail' in value;
}
