import type { Page } from '@playwright/test';

/** Signs in on a page that shows the sign-in; milliseconds from the submit to the frame after the first rows stand. */
export async function signInToRows(page: Page, base: string, email: string, password: string): Promise<number> {
  // The loader keeps function names through a helper that the page does not have.
  await page.addInitScript({ content: 'globalThis.__name = (named) => named' });
  await page.goto(base);
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('Password').fill(password);
  const took = page.evaluate(
    () =>
      new Promise<number>((done) => {
        let began = 0;
        document.addEventListener('submit', () => (began = performance.now()), true);
        const look = () => {
          if (began && document.querySelectorAll('.ag-row .when-bars').length > 10)
            requestAnimationFrame(() => done(performance.now() - began));
          else requestAnimationFrame(look);
        };
        look();
      }),
  );
  await page.getByRole('button', { name: 'Sign in' }).click();
  return took;
}

/** Frames a second that a page draws over so many milliseconds. */
export function framesPerSecond(page: Page, ms: number): Promise<number> {
  return page.evaluate(
    (lasts) =>
      new Promise<number>((done) => {
        const began = performance.now();
        let count = 0;
        const tick = () => {
          count++;
          if (performance.now() - began > lasts) done((count * 1000) / (performance.now() - began));
          else requestAnimationFrame(tick);
        };
        requestAnimationFrame(tick);
      }),
    ms,
  );
}
