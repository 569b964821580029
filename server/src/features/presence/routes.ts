import { api, type Presence } from '@domatium/contracts';
import { notifyEvent } from '../../platform/events/index.js';
import type { Features } from '../../platform/http/feature.js';
import { NotFoundError } from '../../platform/errors.js';
import { pageName } from '../pages/index.js';

/** Nothing is kept of who has what open: it is passed on to those who listen, and forgotten. */
export function routes({ on }: Features): void {
  on(api.sayPresence, async ({ context, portfolioId, params, body, signedIn }) => {
    if ((await pageName(context.database, portfolioId, params.pageId)) === null) throw new NotFoundError();
    const presence: Presence = { ...body, name: signedIn?.name ?? '' };
    const by = context.account;
    await notifyEvent(context.database, { portfolioId, kind: 'presence', pageIds: [params.pageId], by, presence });
    return {};
  });
}
