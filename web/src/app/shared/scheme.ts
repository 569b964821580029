/** Which colours the application has: as the system, or always light or dark. */
export const SCHEMES = ['system', 'light', 'dark'] as const;
export type Scheme = (typeof SCHEMES)[number];

const KEY = 'domatium.scheme';
const DARK = '(prefers-color-scheme: dark)';

/** What was chosen on this machine. */
export function chosenScheme(): Scheme {
  const kept = localStorage.getItem(KEY);
  return SCHEMES.find((one) => one === kept) ?? 'system';
}

export function chooseScheme(scheme: Scheme): void {
  localStorage.setItem(KEY, scheme);
  apply();
}

/** Has the colours that were chosen, and follows the system where that was. */
export function followScheme(): void {
  apply();
  matchMedia(DARK).addEventListener('change', apply);
}

function apply(): void {
  const chosen = chosenScheme();
  const isDark = chosen === 'dark' || (chosen === 'system' && matchMedia(DARK).matches);
  document.documentElement.dataset['bsTheme'] = isDark ? 'dark' : 'light';
}
