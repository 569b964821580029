import type { Endpoint } from './endpoint.js';
import { campaigns } from './campaigns.js';
import { copies } from './copies.js';
import { filling } from './filling.js';
import { fixing } from './fixing.js';
import { imports } from './imports.js';
import { ownHtml } from './own-html.js';
import { pages } from './pages.js';
import { placing } from './placing.js';
import { people } from './people.js';
import { pictures } from './pictures.js';
import { presence } from './presence.js';
import { prepared } from './prepared.js';
import { releases } from './releases.js';
import { retirement } from './retirement.js';
import { reviews } from './reviews.js';
import { sessions } from './sessions.js';
import { states } from './states.js';
import { stock } from './stock.js';
import { tasks } from './tasks.js';
import { thumbnails } from './thumbnails.js';
import { everywhere } from './everywhere.js';
import { record } from './record.js';
import { troubles } from './troubles.js';
import { views } from './views.js';
import { speed } from './speed.js';

export * from './access.js';
export * from './problem.js';
export * from './endpoint.js';
export * from './fields.js';
export * from './sessions.js';
export * from './own-html.js';
export * from './pages.js';
export * from './filling.js';
export * from './fixing.js';
export * from './placing.js';
export * from './releases.js';
export * from './prepared.js';
export * from './presence.js';
export * from './pictures.js';
export * from './reviews.js';
export * from './thumbnails.js';
export * from './copies.js';
export * from './campaigns.js';
export * from './states.js';
export * from './stock.js';
export * from './tasks.js';
export * from './views.js';
export * from './imports.js';
export * from './people.js';
export * from './retirement.js';
export * from './speed.js';
export * from './everywhere.js';
export * from './record.js';
export * from './troubles.js';

/** The whole API. Server routing, the web's client, the OpenAPI document and the access test are made from it. */
export const api = {
  ...sessions,
  ...pages,
  ...releases,
  ...prepared,
  ...presence,
  ...pictures,
  ...reviews,
  ...thumbnails,
  ...ownHtml,
  ...filling,
  ...fixing,
  ...placing,
  ...copies,
  ...campaigns,
  ...states,
  ...stock,
  ...tasks,
  ...views,
  ...everywhere,
  ...record,
  ...troubles,
  ...imports,
  ...people,
  ...speed,
  ...retirement,
};
export type Api = typeof api;
/** The same without the types of each endpoint, for those that walk over all of it. */
export const allEndpoints = api as unknown as Record<keyof Api, Endpoint>;
