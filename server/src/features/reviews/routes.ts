import { api } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import { parseInstant } from '@domatium/core/time';
import type { Request } from 'express';
import type { Features } from '../../platform/http/feature.js';
import { InvalidError, NotFoundError } from '../../platform/errors.js';
import { sendPicture } from '../pictures/index.js';
import { tokenIn } from '../../platform/sessions/index.js';
import * as service from './service.js';
import { say } from '@domatium/core/words/answers/reviews';

export function routes({ on, blobs, privateHost, origin }: Features): void {
  const secure = origin.startsWith('https:');
  const cookie = secure ? '__Secure-domatium-private' : 'domatium-private';
  // What a visitor comes with: the link's token in the path, and the key of its password in a cookie of that path.
  const visitorOf = (request: Request, token: string): service.Visitor => ({ token, key: tokenIn(request, cookie) });
  on(api.privateLinks, ({ context, portfolioId }) => service.privateLinks(context, portfolioId));
  on(api.newPrivateLink, async ({ context, portfolioId, body }) => {
    const endsAt = parseInstant(body.endsAt);
    if (endsAt === null) throw new InvalidError([{ path: 'endsAt', message: say.chooseWhenItEnds }]);
    const { name, pages, siteId, password } = body;
    const sharing = { name, pages: pages ?? [], siteId: siteId ?? null, endsAt, password: password ?? null };
    const { id, token } = await service.newPrivateLink(context, portfolioId, sharing);
    const address = new URL(`/private/${token}`, origin);
    address.hostname = privateHost;
    return { id, address: address.href };
  });
  on(api.revokePrivateLink, ({ context, portfolioId, params }) =>
    service.revokePrivateLink(context, portfolioId, params.linkId),
  );
  on(api.review, ({ context, portfolioId, params }) => service.review(context, portfolioId, params.pageId as PageId));
  on(api.settleRemark, ({ context, portfolioId, params }) =>
    service.settleRemark(context, portfolioId, params.remarkId),
  );
  on(api.answerRemark, ({ context, portfolioId, params, body }) =>
    service.answerRemark(context, portfolioId, params.remarkId, body.text),
  );
  on(api.answerPrivately, ({ context, params, body, request }) =>
    service.answerPrivately(context, visitorOf(request, params.token), params.remarkId, body),
  );
  on(api.privateView, ({ context, params, request }) => service.privateView(context, visitorOf(request, params.token)));
  on(api.openPrivate, async ({ context, params, body, request, response }) => {
    const { key } = await service.openPrivate(context, params.token, body.password, request.ip ?? '');
    const path = `/api/private/${params.token}`;
    response.cookie(cookie, key, { httpOnly: true, sameSite: 'strict', path, secure });
    return {};
  });
  on(api.privatePage, ({ context, params, request }) =>
    service.privatePage(context, visitorOf(request, params.token), params.pageId as PageId),
  );
  on(api.sayRemark, ({ context, params, body, request }) =>
    service.sayRemark(context, visitorOf(request, params.token), params.pageId as PageId, {
      ...body,
      blockId: body.blockId ?? null,
    }),
  );
  on(api.privateFile, async ({ context, params, request, response }) => {
    const portfolioId = await service.portfolioOfVisitor(context, visitorOf(request, params.token));
    if (!(await sendPicture(context.database, blobs, portfolioId, params.hash, response)))
      throw new NotFoundError('file');
    return undefined as never;
  });
}
