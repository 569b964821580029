/** A refusal as it travels: problem details (RFC 9457) with a path for each field that is wrong. */
export interface Problem {
  readonly type: 'about:blank';
  readonly status: number;
  readonly title: string;
  /** What, where and what to do, in words. */
  readonly detail: string;
  readonly fields?: readonly { readonly path: string; readonly message: string }[];
  /** What the other side holds, where a change was made from a state that is no longer the newest. */
  readonly current?: unknown;
  /** The request in the log of the server, as a URN. */
  readonly instance?: string;
}

export function isProblem(value: unknown): value is Problem {
  return typeof value === 'object' && value !== null && 'status' in value && 'detail' in value;
}
