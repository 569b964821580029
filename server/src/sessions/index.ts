export { hashPassword, SESSION_DAYS, signIn, signOut, viewOf, whoIs, type SignedIn } from './service.js';
