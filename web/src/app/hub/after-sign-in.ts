import { InjectionToken } from '@angular/core';
import type { RegisterService } from './register.service';

/** Fetches what comes after the sign-in, while one types; gives the register's service, or `null` where that failed. */
export const AFTER_SIGN_IN = new InjectionToken<() => Promise<typeof RegisterService | null>>('after the sign-in', {
  factory: () => () => Promise.resolve(null),
});
