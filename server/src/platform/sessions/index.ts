export { SESSION_DAYS, signIn, signOut, viewOf, whoIs, type Credentials, type From, type SignedIn } from './service.js';
export { hashPassword, hashToken, isPassword } from './hashing.js';
export { Throttle, triesAt } from './throttle.js';
export { fromOf, SessionCookie, tokenIn } from './cookie.js';
export { accountIdByEmail as accountOf } from './store.js';
