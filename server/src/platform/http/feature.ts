import type { BodyOf, Endpoint, ParamsOf, QueryOf, ResponseOf, Role } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { BlobStore } from '@domatium/storage';
import type { Request, Response } from 'express';
import type { Context } from '../database/context.js';
import type { EventHub } from '../events/index.js';
import type { Reader } from '../readers/index.js';
import type { SessionCookie, SignedIn } from '../sessions/index.js';
import type { Health } from './health.js';

/** What a handler gets: validated input, who asks, and the portfolio where the path names one. */
export interface Call<E> {
  readonly context: Context;
  readonly portfolioId: PortfolioId;
  readonly role: Role | null;
  readonly params: ParamsOf<E>;
  readonly query: QueryOf<E>;
  readonly body: BodyOf<E>;
  readonly signedIn: SignedIn | null;
  readonly request: Request;
  readonly response: Response;
}

export type Handler<E> = (call: Call<E>) => Promise<ResponseOf<E>>;

/** What a feature's `routes.ts` gets to put its endpoints on. */
export interface Features {
  readonly on: <P, Q, B, R>(endpoint: Endpoint<P, Q, B, R>, handler: Handler<Endpoint<P, Q, B, R>>) => void;
  readonly blobs: BlobStore;
  readonly hub: EventHub;
  readonly reader: Reader;
  readonly health: Health | null;
  readonly origin: string;
  readonly cookie: SessionCookie;
  readonly installationHost: string;
  readonly quota: number;
  readonly hasMail: boolean;
  readonly privateHost: string;
  readonly hasChromium: boolean;
}

/** Puts the endpoints of a feature on the application. */
export type Feature = (features: Features) => void;
