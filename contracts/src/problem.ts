import { say } from '@domatium/core/words/answers/requests';
/** Every kind of refusal, by its code: the HTTP status it travels with, and its title. Decisions go by the code alone. */
export const PROBLEMS = {
  'not-found': { status: 404, title: say.notFound },
  invalid: { status: 422, title: say.somethingNeedsChanging },
  conflict: { status: 409, title: say.thisCantBeDoneRightNow },
  stale: { status: 412, title: say.changedBySomeoneElse },
  'not-accepted': { status: 422, title: say.thisFileIsntAccepted },
  'font-of-theme': { status: 409, title: say.fontsAreChangedInTheirTheme },
  'nothing-to-restore': { status: 409, title: say.thereIsNothingToRestore },
  'in-use': { status: 409, title: say.itIsUsed },
  'not-allowed': { status: 403, title: say.notAllowed },
  'too-large': { status: 413, title: say.tooLarge },
  'no-room': { status: 413, title: say.noRoomLeft },
  'no-original': { status: 409, title: say.theOriginalIsMissing },
  'too-much-at-once': { status: 429, title: say.tooMuchAtOnce },
  'clock-off': { status: 503, title: say.theServersClockIsOff },
  unreadable: { status: 400, title: say.theRequestCantBeRead },
  'not-supported': { status: 415, title: say.theRequestCantBeRead },
  'too-deep': { status: 422, title: say.tooDeep },
  'too-many-values': { status: 422, title: say.tooMuchAtOnce },
  'database-away': { status: 503, title: say.theDatabaseCantBeReached },
  'disk-full': { status: 507, title: say.cantWriteToDisk },
  internal: { status: 500, title: say.somethingWentWrong },
  'cross-site': { status: 403, title: say.notFromHere },
  'signed-out': { status: 401, title: say.signInFirst },
  'factor-needed': { status: 403, title: say.secondFactorRequired },
  'link-ended': { status: 410, title: say.thisLinkHasExpired },
  'password-needed': { status: 401, title: say.password },
  'readers-busy': { status: 503, title: say.tooManyUploadsAtOnce },
  'too-many-windows': { status: 429, title: say.tooManyWindows },
  'sign-ins-busy': { status: 503, title: say.tooManySignInsAtOnce },
  'link-used': { status: 410, title: say.thisLinkNoLongerWorks },
  'no-mail': { status: 409, title: say.eMailIsntSetUp },
  'too-many-tries': { status: 429, title: say.tooManyTries },
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
