import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';
import { ProblemError } from '../http/problem.js';
import { COOKIE, tokenOf } from '../http/forgery.js';
import { setSession } from './cookie.js';
import { signIn, signOut, viewOf } from './service.js';

export function routes({ on }: Features): void {
  on(api.signIn, async ({ context, body, request, response }) => {
    const { token, view } = await signIn(context, body.email, body.password, request.ip ?? '');
    setSession(response, context, token);
    return view;
  });
  on(api.session, async ({ context, signedIn }) => {
    if (!signedIn) throw new ProblemError(401, 'Sign in first', 'You have not signed in.');
    return Promise.resolve(viewOf(context, signedIn));
  });
  on(api.signOut, async ({ context, request, response }) => {
    await signOut(context, tokenOf(request) ?? '');
    response.clearCookie(COOKIE, { path: '/' });
    return {};
  });
}
