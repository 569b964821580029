import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { SessionService } from '../hub/session.service';

/** Lets people in who are signed in and members; sends others to sign in, and back afterwards. */
export const signedIn: CanActivateFn = async (route, state) => {
  const router = inject(Router);
  const session = await inject(SessionService)
    .load()
    .catch(() => null);
  if (!session)
    return router.createUrlTree(['/sign-in'], { queryParams: state.url === '/' ? {} : { next: state.url } });
  const asked = Number(route.paramMap.get('portfolioId'));
  if (session.portfolios.some(({ id }) => id === asked)) return true;
  return router.createUrlTree(['/portfolios', session.portfolios[0]?.id ?? 0, 'pages']);
};
