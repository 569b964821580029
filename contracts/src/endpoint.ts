import type { AnyObjectSchema, InferType, Schema } from 'yup';
import type { Who } from './access.js';

/** One endpoint of the API: everything that server, client, description and access test need to know of it. */
export interface Endpoint<Params = unknown, Query = unknown, Body = unknown, Response = unknown> {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** As in Express; parameters are `:name`. */
  readonly path: string;
  readonly who: Who;
  readonly summary: string;
  readonly params: Schema<Params> | null;
  readonly query: Schema<Query> | null;
  readonly body: Schema<Body> | null;
  /** What it answers with; `events` for a stream of server-sent events, `bytes` for a file. */
  readonly answers: 'json' | 'events' | 'bytes';
  /** What it is sent: JSON as `body` says, or a file as the bytes it has. */
  readonly takes: 'json' | 'bytes';
  /** Whether what it is sent may be as long as a pasted document. */
  readonly isLong: boolean;
  readonly response?: Response;
}

interface Shape<P extends AnyObjectSchema | null, Q extends AnyObjectSchema | null, B extends Schema | null> {
  readonly method: Endpoint['method'];
  readonly path: string;
  readonly who: Who;
  readonly summary: string;
  readonly params?: P;
  readonly query?: Q;
  readonly body?: B;
  readonly answers?: Endpoint['answers'];
  readonly takes?: Endpoint['takes'];
  readonly isLong?: boolean;
}

type Infer<S> = S extends Schema ? InferType<S> : undefined;

/** Defines an endpoint; the response type is given by hand: `endpoint<Sheet>()({…})`. */
export function endpoint<Response>() {
  return <
    P extends AnyObjectSchema | null = null,
    Q extends AnyObjectSchema | null = null,
    B extends Schema | null = null,
  >(
    shape: Shape<P, Q, B>,
  ) =>
    ({
      answers: 'json',
      takes: 'json',
      isLong: false,
      params: null,
      query: null,
      body: null,
      ...shape,
    }) as unknown as Endpoint<Infer<P>, Infer<Q>, Infer<B>, Response>;
}

export type ParamsOf<E> = E extends Endpoint<infer P, unknown, unknown, unknown> ? P : never;
export type QueryOf<E> = E extends Endpoint<unknown, infer Q, unknown, unknown> ? Q : never;
export type BodyOf<E> = E extends Endpoint<unknown, unknown, infer B, unknown> ? B : never;
export type ResponseOf<E> = E extends Endpoint<unknown, unknown, unknown, infer R> ? R : never;
