import { Injectable, signal } from '@angular/core';
import {
  api,
  codeOf,
  isProblem,
  type BodyOf,
  type Endpoint,
  type ParamsOf,
  type Problem,
  type ProblemCode,
  type QueryOf,
  type ResponseOf,
} from '@domatium/contracts';

/** A refusal of the server, or of the network, as the interface handles it. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  get status(): number {
    return this.problem.status;
  }
  /** Which refusal it is; `null` where the network refused. */
  get code(): ProblemCode | null {
    return codeOf(this.problem);
  }
  /** The message at a field, or `null`. */
  at(path: string): string | null {
    return this.problem.fields?.find((field) => field.path === path)?.message ?? null;
  }
  /** Whether trying again later may go through: the other side was not there. */
  get isPassing(): boolean {
    return this.status === 0 || this.status === 503 || this.status === 502;
  }
}

type Input<E> = (ParamsOf<E> extends undefined ? object : { params: ParamsOf<E> }) &
  (QueryOf<E> extends undefined ? object : { query: QueryOf<E> }) &
  (BodyOf<E> extends undefined ? object : { body: unknown });

/** What long work brings along: a way to cancel it, and the name its progress is told under. */
export interface CallOptions {
  readonly signal?: AbortSignal;
  readonly work?: string;
}

/** The person cancelled; whether anything was decided before is asked separately. */
export class Cancelled extends Error {}

const OFFLINE: Problem = {
  type: 'about:blank',
  status: 0,
  title: 'No connection',
  detail: 'Domatium can’t be reached right now. Your text is kept; try again in a moment.',
};

/** The typed client: endpoints come from the contracts, so a call that does not fit them does not compile. */
@Injectable({ providedIn: 'root' })
export class Api {
  /** The session's own token, sent with everything that changes something. */
  readonly csrf = signal<string | null>(null);

  async call<E extends Endpoint<never, never, never, unknown> | Endpoint>(
    endpoint: E,
    input: Input<E>,
    options: CallOptions = {},
  ): Promise<ResponseOf<E>> {
    const response = await this.fetch(endpoint, input, options);
    const answer: unknown = await response.json().catch(() => null);
    if (!response.ok) throw new Refusal(isProblem(answer) ? answer : { ...OFFLINE, status: response.status });
    return answer as ResponseOf<E>;
  }

  /** Sends a file as the bytes it has; `onShare` is told how much of it has gone (0 to 1). */
  send<E extends Endpoint<never, never, never, unknown> | Endpoint>(
    endpoint: E,
    input: Input<E>,
    bytes: Blob,
    onShare: (share: number) => void = () => undefined,
    signal?: AbortSignal,
  ): Promise<ResponseOf<E>> {
    return new Promise((done, fail) => {
      // `fetch` does not say how far an upload has come.
      const request = new XMLHttpRequest();
      request.open(endpoint.method, addressOf(endpoint, input));
      request.setRequestHeader('Accept', 'application/json');
      request.setRequestHeader('Content-Type', 'application/octet-stream');
      request.setRequestHeader('X-Csrf-Token', this.csrf() ?? '');
      request.upload.onprogress = ({ loaded, total }) => onShare(total ? loaded / total : 0);
      request.onerror = () => fail(new Refusal(OFFLINE));
      request.onabort = () => fail(new Cancelled());
      request.onload = () => {
        const answer = jsonOf(request.responseText);
        if (request.status >= 200 && request.status < 300) done(answer as ResponseOf<E>);
        else fail(new Refusal(isProblem(answer) ? answer : { ...OFFLINE, status: request.status }));
      };
      signal?.addEventListener('abort', () => request.abort());
      request.send(bytes);
    });
  }

  /** The answer as the text it came as, for what is large and read elsewhere. */
  async text<E extends Endpoint<never, never, never, unknown> | Endpoint>(
    endpoint: E,
    input: Input<E>,
  ): Promise<string> {
    const response = await this.fetch(endpoint, input, {});
    const text = await response.text().catch(() => '');
    if (response.ok && text) return text;
    const answer = jsonOf(text);
    throw new Refusal(isProblem(answer) ? answer : { ...OFFLINE, status: response.ok ? 0 : response.status });
  }

  private async fetch(endpoint: Endpoint, input: object, { signal, work }: CallOptions): Promise<Response> {
    const { body } = input as { body?: unknown };
    const headers: Record<string, string> = { Accept: 'application/json' };
    if (body !== undefined) headers['Content-Type'] = 'application/json';
    const csrf = this.csrf();
    if (endpoint.method !== 'GET' && csrf) headers['X-Csrf-Token'] = csrf;
    if (work) headers['X-Work'] = work;
    try {
      return await fetch(addressOf(endpoint, input), {
        method: endpoint.method,
        headers,
        ...(signal ? { signal } : {}),
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
    } catch {
      if (signal?.aborted) throw new Cancelled();
      throw new Refusal(OFFLINE);
    }
  }
}

function addressOf(endpoint: Endpoint, input: object): string {
  const { params = {}, query = {} } = input as { params?: Record<string, unknown>; query?: Record<string, unknown> };
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const search = new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      value === undefined || value === null ? [] : [[name, String(value as string | number)]],
    ),
  ).toString();
  return search ? `${path}?${search}` : path;
}

/** What a text holds as JSON, `null` where it was cut short or comes from something that stands between. */
function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}

export { api };
