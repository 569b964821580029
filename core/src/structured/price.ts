/** A price as machines read it. `currency` is of ISO 4217, `null` where the text does not say which one it is. */
export interface ReadPrice {
  readonly amount: string;
  readonly currency: string | null;
}

/** Signs that stand for one currency alone: "kr" and "$" are used for several. */
const SIGNS: Readonly<Record<string, string>> = {
  '€': 'EUR',
  '£': 'GBP',
  '₹': 'INR',
  '₪': 'ILS',
  '₩': 'KRW',
  '₺': 'TRY',
  zł: 'PLN',
  Kč: 'CZK',
};
const NUMBER = /\d+(?:[ \u00a0\u202f.,'’]\d+)*/;

/**
 * The first number of a text such as `1,190 kr`, `49,50 €` or `from NOK 300`, or `null`. Where one or two digits follow the
 * last dot or comma those are its decimals; what else stands between digits groups them.
 */
export function priceFrom(text: string): ReadPrice | null {
  const number = NUMBER.exec(text)?.[0];
  if (!number) return null;
  const [, whole = number, decimals = ''] = /^(.*)[.,](\d{1,2})$/.exec(number) ?? [];
  const amount = Number(`${whole.replace(/\D/g, '')}.${decimals || '0'}`);
  const code = /(?<![A-Z])[A-Z]{3}(?![A-Z])/.exec(text)?.[0];
  const sign = Object.keys(SIGNS).find((one) => text.includes(one));
  return {
    amount: decimals ? amount.toFixed(2) : String(amount),
    currency: sign ? (SIGNS[sign] ?? null) : code && code in CODES ? code : null,
  };
}

const CODES: Readonly<Record<string, true>> = Object.fromEntries(
  Intl.supportedValuesOf('currency').map((code) => [code, true as const]),
);
