import { readFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import { expect, test } from './test.js';
import { openSheet, said, signIn, visitUntil, wallOf } from './world.js';

/**
 * What a website manager does in a day, walked with every press and every field that is typed into counted. `most` is
 * what each may take: none longer than it was when people counted first.
 */
class Steps {
  private count = 0;
  constructor(private readonly page: Page) {}
  async press(what: Locator): Promise<void> {
    this.count++;
    await what.click();
  }
  async type(where: Locator, text: string): Promise<void> {
    this.count++;
    await where.fill(text);
    await where.press('Tab');
  }
  async choose(where: Locator, value: string): Promise<void> {
    this.count++;
    await where.selectOption(value);
  }
  async find(name: string): Promise<void> {
    this.count += 2;
    await openSheet(this.page, name);
  }
  atMost(most: number): void {
    expect(this.count).toBeLessThanOrEqual(most);
  }
}

/** Told apart from those of an earlier walk on the same demo. */
const stamp = Date.now().toString(36);
const END = `Job of an end ${stamp}`;
const [ONE, TWO] = [`Job of swap one ${stamp}`, `Job of swap two ${stamp}`];
const pathOf = (name: string) => `/${name.toLowerCase().replaceAll(' ', '-')}`;

const button = (page: Page, name: string | RegExp) =>
  page.getByRole('button', { name, exact: typeof name === 'string' });
const inMore = async (steps: Steps, page: Page, name: string | RegExp) => {
  await steps.press(page.getByRole('complementary').getByRole('button', { name: 'More', exact: true }));
  await steps.press(button(page, name));
};
const tokenOf = (page: Page) =>
  page.evaluate(async () => {
    const { csrf } = (await (await fetch('/api/session')).json()) as { csrf: string };
    return csrf;
  });
/** Makes pages that are live, out of the way of all others. */
async function livePages(page: Page, ...names: string[]): Promise<number[]> {
  const csrf = await tokenOf(page);
  return page.evaluate(
    async ([token, all]) => {
      const send = async (path: string, method: string, body: object) => {
        const answer = await fetch(`/api/portfolios/1/${path}`, {
          method,
          headers: { 'Content-Type': 'application/json', 'X-Csrf-Token': token as string },
          body: JSON.stringify(body),
        });
        if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
        return answer.json() as Promise<{ id: number; version: number; document: object }>;
      };
      const ids: number[] = [];
      for (const name of all as string[]) {
        const path = `/${name.toLowerCase().replaceAll(' ', '-')}`;
        const { id } = await send('pages', 'POST', { siteId: 1, name, path, start: 'notice' });
        const draft = (await (await fetch(`/api/portfolios/1/pages/${id}/draft`)).json()) as { version: number };
        await send(`pages/${id}/draft`, 'PUT', JSON.parse(JSON.stringify(draft).replace(/‹([^›]*)›/g, '$1')) as object);
        ids.push(id);
      }
      const changes = ids.map((pageId) => ({
        act: 'release',
        pageId,
        from: 'now',
        until: null,
        afterwards: null,
        cutsLater: false,
      }));
      await send('releases', 'POST', { changes, idempotencyKey: `jobs-${ids.join('-')}` });
      return ids;
    },
    [csrf, names] as const,
  );
}

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test('sees another moment by typing it', async ({ page }) => {
  const steps = new Steps(page);
  await steps.press(page.getByLabel('The moment that is shown'));
  await page.keyboard.type('24 dec 18:00');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Seen as of Thu 24 Dec' })).toBeVisible();
  steps.atMost(6);
});

test('changes an end and what follows without releasing anew, on another clock', async ({ page }) => {
  await livePages(page, END);
  await page.reload();
  const steps = new Steps(page);
  await steps.find(END);
  await inMore(steps, page, /Change the period/);
  await steps.press(button(page, 'With an end'));
  const [day, time] = [
    page.getByRole('textbox', { name: 'Until, day' }),
    page.getByRole('textbox', { name: 'Until, time' }),
  ];
  await steps.choose(page.getByLabel('Times in'), 'Asia/Tokyo');
  await steps.type(day, wallOf(Date.now() + 5 * 86_400_000).date);
  await steps.type(time, '9:30');
  await steps.press(button(page, 'Change the period'));
  await said(page, `period of ${END}`);
  steps.atMost(9);
  await expect(page.getByRole('complementary')).toContainText('09:30 in Tokyo');
});

test('swaps two pages, with no redirect in between', async ({ page }) => {
  await livePages(page, ONE, TWO);
  await page.reload();
  const steps = new Steps(page);
  await steps.find(ONE);
  await inMore(steps, page, /Change the path/);
  await steps.type(page.locator('#path'), pathOf(TWO));
  await steps.press(button(page, `Swap addresses with ${TWO}`));
  await steps.press(button(page, /^Move to/));
  await said(page, ONE);
  // It took fifteen, in three releases.
  steps.atMost(7);
  const name = (path: string) => visitUntil('marrowick.example', path, ({ status }) => status === 200);
  await name(pathOf(ONE));
  await name(pathOf(TWO));
});

test('brings a list out and in again: nothing changes', async ({ page }) => {
  await page.goto('/portfolios/1/pages?scope=site:2');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  const steps = new Steps(page);
  await steps.press(button(page, /^View/));
  const download = page.waitForEvent('download');
  await steps.press(page.getByRole('link', { name: 'This view as CSV' }));
  const file = await (await download).path();
  expect((await readFile(file, 'utf8')).charCodeAt(0)).toBe(0xfeff);
  await steps.press(button(page, /^View/));
  await steps.press(page.getByRole('button', { name: /Import pages from a CSV/ }));
  await page.locator('input[type=file]').setInputFiles(file);
  await expect(page.getByText(/0 new · 0 change · \d+ are as they are · 0 wrong/)).toBeVisible();
  steps.atMost(5);
});

test('keeps a view with its columns, for whoever opens it', async ({ page }) => {
  const steps = new Steps(page);
  await steps.press(button(page, /^Live/));
  await steps.press(button(page, 'Columns'));
  await steps.press(page.getByLabel('Owner', { exact: true }));
  await page.keyboard.press('Escape');
  await steps.press(button(page, /^View/));
  await steps.type(page.getByLabel('Name for this view'), 'Live with owners');
  await steps.press(button(page, 'Keep'));
  steps.atMost(11);
  const link = page.url();
  await page.evaluate(() => localStorage.clear());
  await page.goto('/portfolios/1/pages');
  await expect(page.getByRole('columnheader', { name: 'Owner' })).toBeHidden();
  await page.goto(link);
  await expect(page.getByRole('columnheader', { name: 'Owner' })).toBeVisible();
});

test('gives many pages an owner, and takes it back from the record', async ({ page }) => {
  const [one] = await livePages(page, `Job of owner one ${stamp}`, `Job of owner two ${stamp}`);
  await page.goto(`/portfolios/1/pages?find=owner%20${stamp}`);
  await expect(page.locator('.ag-center-cols-container .ag-row, .ag-row')).toHaveCount(2);
  const ownerOf = () =>
    page.evaluate(
      async (id) => ((await (await fetch(`/api/portfolios/1/pages/${id}`)).json()) as { owner: string | null }).owner,
      one,
    );
  const before = await ownerOf();
  const steps = new Steps(page);
  await steps.press(page.locator('.ag-header input[type=checkbox]'));
  await steps.press(button(page, 'Campaign, owner, labels'));
  await steps.choose(page.getByLabel('Owner', { exact: true }), 'none');
  await steps.press(page.getByRole('dialog').getByRole('button', { name: /^Change 2 pages/ }));
  await expect.poll(ownerOf).toBeNull();
  steps.atMost(5);
  const back = new Steps(page);
  await back.press(button(page, 'Record'));
  await back.press(
    page
      .getByRole('dialog')
      .getByRole('button', { name: /^Undo: Owner to nobody/ })
      .first(),
  );
  await expect.poll(ownerOf).toBe(before);
  back.atMost(2);
});
