import { routes as campaigns } from './features/campaigns/routes.js';
import { routes as copies } from './features/copies/routes.js';
import { routes as drafts } from './features/drafts/routes.js';
import { routes as imports } from './features/imports/routes.js';
import { routes as pages } from './features/pages/routes.js';
import { routes as people } from './features/people/routes.js';
import { routes as pictures } from './features/pictures/routes.js';
import { routes as presence } from './features/presence/routes.js';
import { routes as register } from './features/register/routes.js';
import { routes as retirement } from './features/retirement/routes.js';
import { routes as reviews } from './features/reviews/routes.js';
import { routes as speed } from './features/speed/routes.js';
import { routes as tasks } from './features/tasks/routes.js';
import { routes as ownHtml } from './features/own-html/routes.js';
import { routes as thumbnails } from './features/thumbnails/routes.js';
import { routes as record } from './features/record/routes.js';
import { routes as fixing } from './features/fixing/routes.js';
import { routes as troubles } from './features/troubles/routes.js';
import { routes as views } from './features/views/routes.js';
import { routes as prepared } from './heart/prepared/routes.js';
import { routes as releases } from './heart/releases/routes.js';
import { routes as stock } from './features/stock/routes.js';
import { routes as events } from './features/news/routes.js';
import { routes as sessions } from './features/accounts/routes.js';
import { buildHttp, type AppParts } from './platform/http/app.js';
import type { Feature } from './platform/http/feature.js';

/** Whatever answers under `/api`. */
const FEATURES: readonly Feature[] = [
  sessions,
  register,
  pages,
  drafts,
  pictures,
  releases,
  prepared,
  presence,
  reviews,
  ownHtml,
  thumbnails,
  copies,
  campaigns,
  stock,
  tasks,
  views,
  imports,
  people,
  speed,
  retirement,
  events,
  record,
  troubles,
  fixing,
];

/** The application: its HTTP side with all of its features. */
export const buildApp = (parts: AppParts) => buildHttp(parts, FEATURES);
