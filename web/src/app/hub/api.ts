import { HttpClient, HttpErrorResponse, HttpEventType } from '@angular/common/http';
import { inject, Injectable, signal } from '@angular/core';
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
import { EmptyError, filter, firstValueFrom, fromEvent, NEVER, takeUntil, tap } from 'rxjs';
import { say } from '@domatium/core/words/hub';

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

/** What is sent: nothing of it is changed on its way. */
type Sent<T> = T extends readonly (infer Item)[]
  ? readonly Sent<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: Sent<T[Key]> }
    : T;
/** The body of a call. */
export type SentTo<E> = Sent<BodyOf<E>>;
/** The body of a call that leaves out what has a default. */
export type PartOf<E> = Partial<SentTo<E>>;
type Input<E> = (ParamsOf<E> extends undefined ? object : { params: ParamsOf<E> }) &
  (QueryOf<E> extends undefined ? object : { query: QueryOf<E> }) &
  (BodyOf<E> extends undefined ? object : { body: SentTo<E> });

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
  title: say.noConnection,
  detail: say.domatiumCantBeReachedRightNow,
};

type Any = Endpoint<never, never, never, unknown> | Endpoint;

/** The typed client: endpoints come from the contracts, so a call that does not fit them does not compile. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  /** The session's own token, sent with everything that changes something. */
  readonly csrf = signal<string | null>(null);

  async call<E extends Any>(endpoint: E, input: Input<E>, options: CallOptions = {}): Promise<ResponseOf<E>> {
    const { body } = input as { body?: object };
    return jsonOf(await this.asked(endpoint, input, body, options)) as ResponseOf<E>;
  }

  /** Sends a file as the bytes it has; `onShare` is told how much of it has gone (0 to 1). */
  async send<E extends Any>(
    endpoint: E,
    input: Input<E>,
    bytes: Blob,
    onShare: (share: number) => void = () => undefined,
    signal?: AbortSignal,
  ): Promise<ResponseOf<E>> {
    return jsonOf(
      await this.asked(endpoint, input, bytes, { ...(signal ? { signal } : {}), onShare }),
    ) as ResponseOf<E>;
  }

  /** The answer as the text it came as, for what is large and read elsewhere. */
  async text<E extends Any>(endpoint: E, input: Input<E>): Promise<string> {
    const text = await this.asked(endpoint, input, undefined, {});
    if (!text) throw new Refusal(OFFLINE);
    return text;
  }

  /** The text of an answer; anything else than a good one is a `Refusal`, or `Cancelled`. */
  private async asked(
    endpoint: Endpoint,
    input: object,
    body: object | undefined,
    { signal, work, onShare }: CallOptions & { readonly onShare?: (share: number) => void },
  ): Promise<string> {
    const csrf = endpoint.method === 'GET' ? null : this.csrf();
    const type = body instanceof Blob ? 'application/octet-stream' : 'application/json';
    const headers = {
      Accept: 'application/json',
      ...(body === undefined ? {} : { 'Content-Type': type }),
      ...(csrf ? { 'X-Csrf-Token': csrf } : {}),
      ...(work ? { 'X-Work': work } : {}),
    };
    const cancelled = signal ? fromEvent(signal, 'abort') : NEVER;
    if (signal?.aborted) throw new Cancelled();
    const events = this.http
      .request(endpoint.method, addressOf(endpoint, input), {
        ...{ body, headers, observe: 'events', responseType: 'text', reportProgress: onShare !== undefined },
      })
      .pipe(
        tap((event) => {
          if (event.type === HttpEventType.UploadProgress) onShare?.(event.total ? event.loaded / event.total : 0);
        }),
        filter((event) => event.type === HttpEventType.Response),
        takeUntil(cancelled),
      );
    try {
      const answer = await firstValueFrom(events);
      return answer.body ?? '';
    } catch (error) {
      if (error instanceof EmptyError) throw new Cancelled();
      if (!(error instanceof HttpErrorResponse)) throw error;
      const problem = jsonOf(String(error.error));
      throw new Refusal(isProblem(problem) ? problem : { ...OFFLINE, status: error.status });
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
