export { hashPassword, hashToken, SESSION_DAYS, signIn, signOut, viewOf, whoIs, type SignedIn } from './service.js';
export { Throttle } from './throttle.js';
export { setSession } from './cookie.js';
export { accountIdByEmail as accountOf } from './store.js';
