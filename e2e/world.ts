import { request as httpRequest, type IncomingHttpHeaders } from 'node:http';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type BrowserContext, type Page } from '@playwright/test';

export const EDGE_PORT = Number(process.env['DOMATIUM_EDGE_PORT'] ?? 4680);
export const PASSWORD = 'midwinter-crossing';
export const PEOPLE = {
  owner: 'ingrid.vale@marrowick.example',
  publisher: 'tomas.renn@marrowick.example',
  author: 'maren.holt@marrowick.example',
  reader: 'joss.arden@marrowick.example',
};

export interface Got {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
  readonly body: string;
}

/** What a visitor gets at an address of the edge, without following redirects. */
export function visit(host: string, path: string, headers: Record<string, string> = {}): Promise<Got> {
  return new Promise((done, fail) => {
    const request = httpRequest(
      {
        host: '127.0.0.1',
        port: EDGE_PORT,
        path,
        headers: {
          Host: `${host}.localhost:${EDGE_PORT}`,
          'User-Agent': 'Mozilla/5.0 (X11) AppleWebKit/537.36',
          ...headers,
        },
      },
      (response) => {
        let body = '';
        response
          .setEncoding('utf8')
          .on('data', (text: string) => (body += text))
          .on('end', () => done({ status: response.statusCode ?? 0, headers: response.headers, body }));
      },
    );
    request.on('error', fail).end();
  });
}

/** Waits until an address answers as expected. */
export async function visitUntil(
  host: string,
  path: string,
  claim: (got: Got) => boolean,
  patience = 60_000,
): Promise<Got> {
  const began = Date.now();
  for (;;) {
    const got = await visit(host, path);
    if (claim(got)) return got;
    if (Date.now() - began > patience)
      throw new Error(`${host}${path} gives ${got.status} ${got.headers.location ?? ''} ${got.body.slice(0, 200)}`);
    await new Promise((later) => setTimeout(later, 100));
  }
}

export const published = (host: string, path: string) => `http://${host}.localhost:${EDGE_PORT}${path}`;

const sessions = new Map<string, Awaited<ReturnType<BrowserContext['cookies']>>>();

/** Signs somebody in: by hand the first time, then with the session that gave, as long as it lasts. */
export async function signIn(page: Page, email = PEOPLE.owner): Promise<void> {
  const known = sessions.get(email);
  if (known) await page.context().addCookies(known);
  await page.goto('/');
  const rows = page.locator('.ag-row').first();
  await expect(rows.or(page.getByRole('button', { name: 'Sign in' }))).toBeVisible();
  if (await rows.isVisible()) return;
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.locator('.ag-row').first()).toBeVisible();
  sessions.set(email, await page.context().cookies());
}

/** Opens a page's sheet through find. */
export async function openSheet(page: Page, name: string): Promise<void> {
  await page.getByRole('searchbox').fill(name);
  const row = page.locator('.ag-row').filter({ has: page.getByText(name, { exact: true }) });
  // While the list still follows what is typed, another row can come under the pointer.
  await expect(async () => {
    await row.first().click();
    await expect(page.getByRole('complementary', { name })).toBeVisible({ timeout: 8000 });
  }).toPass({ timeout: 60_000 });
}

/** Makes a page through the interface; ends in its editor. */
export async function makePage(
  page: Page,
  name: string,
  options: { start?: string; site?: string } = {},
): Promise<void> {
  await page.getByRole('button', { name: 'New page' }).click();
  await page.getByLabel('Internal name').fill(name);
  if (options.site) await page.getByLabel('Site', { exact: true }).selectOption({ label: options.site });
  await page.getByRole('radio', { name: new RegExp(`^${options.start ?? 'Notice'}`) }).check();
  await page.getByRole('button', { name: 'Create and edit' }).click();
  await expect(page.locator('dm-outline .page')).toBeVisible();
  await takeFirstContent(page);
}

/** Takes what asks to be replaced on the page in the editor as its words: it would hold the release back. */
export async function takeFirstContent(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const [, portfolio, id] = /portfolios\/(\d+)\/.*?(\d+)\/edit/.exec(location.pathname) ?? [];
    const place = `/api/portfolios/${portfolio}/pages/${id}/draft`;
    const { csrf } = (await (await fetch('/api/session')).json()) as { csrf: string };
    const { version, document } = (await (await fetch(place)).json()) as { version: number; document: object };
    const worded = JSON.stringify({ version, document }).replace(/‹([^›]*)›/g, '$1');
    await fetch(place, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', 'X-Csrf-Token': csrf },
      body: worded,
    });
  });
  await page.reload();
  await expect(page.locator('dm-outline .page')).toBeVisible();
}

/** The wall-clock parts of an instant in the demo's zone, as date and time fields want them. */
export function wallOf(ms: number): { date: string; time: string } {
  const text = new Intl.DateTimeFormat('sv-SE', {
    timeZone: 'Europe/Oslo',
    dateStyle: 'short',
    timeStyle: 'short',
  }).format(ms);
  return { date: text.slice(0, 10), time: text.slice(11, 16) };
}

/** The first whole minute that is at least `ahead` milliseconds away. */
export const minuteAhead = (ahead: number) => Math.ceil((Date.now() + ahead) / 60_000) * 60_000;
const sleepUntil = (at: number) => new Promise((done) => setTimeout(done, Math.max(0, at - Date.now())));

/** The edge goes on by the monotonic clock, which may lead that of the machine by some milliseconds after a while. */
const CLOCKS_APART = 50;

/** The last answer that was there before an instant and the first that was asked for after it. */
export async function around<T>(at: number, ask: () => Promise<T>): Promise<{ before: T; after: T }> {
  if (Date.now() > at) throw new Error('the walk came too late to see it');
  let before = await ask();
  await sleepUntil(at - 2000);
  for (;;) {
    const began = Date.now();
    const got = await ask();
    if (Date.now() < at - CLOCKS_APART) before = got;
    if (began >= at) return { before, after: got };
    await sleepUntil(Date.now() + 10);
  }
}

/** What a notice or a status says. */
export const said = (page: Page, text: string | RegExp) =>
  expect(page.getByRole('status').filter({ hasText: text }).first()).toBeVisible();

/**
 * axe-core in the page itself: the usual way, in a blank page beside it, finds the same in ten times the time. Frames
 * without scripts, as the canvas is, can’t be looked into in either; what they show is looked at as a page of its own.
 */
export const axe = (page: Page) => new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode();

/** Screens must have nothing that axe-core finds; `place` says which one it was. */
export async function accessible(page: Page, place = ''): Promise<void> {
  const { violations } = await axe(page).analyze();
  expect(violations.map(({ id, nodes }) => `${place} ${id}: ${nodes[0]?.html.slice(0, 300)}`)).toEqual([]);
}
