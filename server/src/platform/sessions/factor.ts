import { randomBytes } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';

/** Time-based codes as RFC 6238 has them: six digits, half a minute, SHA-1, as every authenticator reads them. */
const PERIOD = 30;
const CODES = 10;

const totpOf = (secret: string, label: string) =>
  new TOTP({ issuer: 'Domatium', label, period: PERIOD, digits: 6, secret: Secret.fromBase32(secret) });

export const newSecret = () => new Secret({ size: 20 }).base32;

/** What an authenticator reads, as text or as a QR code. */
export const factorUri = (secret: string, email: string) => totpOf(secret, email).toString();

/** The half minute a code is of, one before or after at most; `null` where it is none, or not later than the last used. */
export function stepOf(secret: string, code: string, at: number, last: number): number | null {
  const delta = totpOf(secret, '').validate({ token: code.replace(/\s/g, ''), window: 1, timestamp: at });
  if (delta === null) return null;
  const step = Math.floor(at / 1000 / PERIOD) + delta;
  return step > last ? step : null;
}

/** Codes for the day the telephone is lost; each works once. */
export const newRecoveryCodes = () =>
  Array.from({ length: CODES }, () => {
    const code = randomBytes(8).toString('hex').slice(0, 12);
    return `${code.slice(0, 4)}-${code.slice(4, 8)}-${code.slice(8)}`;
  });

export const plainCode = (code: string) => code.toLowerCase().replace(/[^0-9a-f]/g, '');
