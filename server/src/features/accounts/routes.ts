import { api } from '@domatium/contracts';
import type { Request } from 'express';
import type { Features } from '../../platform/http/feature.js';
import { notifyEvent } from '../../platform/events/index.js';
import { Refused } from '../../platform/errors.js';
import * as account from '../../platform/sessions/account.js';
import { fromOf } from '../../platform/sessions/cookie.js';
import { signIn, signOut, viewOf } from '../../platform/sessions/service.js';
import { say } from '@domatium/core/words/answers/accounts';

export function routes({ on, origin, hasMail, cookie }: Features): void {
  on(api.signIn, async ({ context, body, request, response }) => {
    const { token, view } = await signIn(context, { ...body, code: body.code ?? null }, fromOf(request));
    cookie.set(response, token);
    return view;
  });
  on(api.session, async ({ context, signedIn }) => {
    if (!signedIn) throw new Refused('signed-out', say.youAreNotSignedIn);
    return Promise.resolve(viewOf(context, signedIn));
  });
  on(api.signOut, async ({ context, request, response }) => {
    await signOut(context, cookie.tokenOf(request) ?? '');
    await notifyEvent(context.database, { portfolioId: 0, kind: 'sessions' });
    cookie.clear(response);
    return {};
  });
  const tokenIn = (request: Request) => cookie.tokenOf(request) ?? '';
  on(api.ownSessions, ({ context, request }) => account.sessions(context, tokenIn(request)));
  on(api.setAccount, ({ context, body }) => account.setAccount(context, body));
  on(api.endSession, ({ context, params }) => account.endSession(context, params.sessionId));
  on(api.endOtherSessions, ({ context, request }) => account.endOtherSessions(context, tokenIn(request)));
  on(api.changePassword, ({ context, body, request }) =>
    account.changePassword(context, { ...body, token: tokenIn(request), address: fromOf(request).address }),
  );
  on(api.askForReset, ({ context, body, request }) => {
    if (!hasMail) throw new Refused('no-mail', say.thisInstallationSendsNoMailAsk);
    return account.askForReset(context, body.email, origin, fromOf(request).address);
  });
  on(api.reset, ({ context, params, body, request }) =>
    account.reset(context, params.token, body.password, fromOf(request).address),
  );
  on(api.factor, ({ context }) => account.factor(context));
  on(api.beginFactor, ({ context, body, request }) =>
    account.beginFactor(context, body.password, fromOf(request).address),
  );
  on(api.confirmFactor, ({ context, body, request }) => account.confirmFactor(context, body.code, tokenIn(request)));
  on(api.endFactor, ({ context, body, request }) => account.endFactor(context, body.password, fromOf(request).address));
}
