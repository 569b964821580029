import type { Endpoint } from './endpoint.js';
import { pages } from './pages.js';
import { releases } from './releases.js';
import { sessions } from './sessions.js';

export * from './access.js';
export * from './problem.js';
export * from './endpoint.js';
export * from './fields.js';
export * from './sessions.js';
export * from './pages.js';
export * from './releases.js';
export * from './openapi.js';

/** The whole API. Server routing, the web's client, the OpenAPI document and the access test are made from it. */
export const api = { ...sessions, ...pages, ...releases };
export type Api = typeof api;
/** The same without the types of each endpoint, for those that walk over all of it. */
export const allEndpoints = api as unknown as Record<keyof Api, Endpoint>;
