import { expect, type Locator, type Page } from '@playwright/test';
import { openSheet } from './world.js';

/**
 * What a website manager does in a day, walked with every press and every field that is typed into counted. `most` is
 * what each may take: none longer than it was when people counted first.
 */
export class Steps {
  private count = 0;
  constructor(private readonly page: Page) {}
  async press(what: Locator, modifiers: 'Shift'[] = []): Promise<void> {
    this.count++;
    await what.click({ modifiers });
  }
  async type(where: Locator, text: string): Promise<void> {
    this.count++;
    await where.fill(text);
    await where.press('Tab');
  }
  /** Types into a field that lists what is found; what is chosen there is a step of its own. */
  async seek(where: Locator, text: string): Promise<void> {
    this.count++;
    await where.fill(text);
  }
  async choose(where: Locator, value: string): Promise<void> {
    this.count++;
    await where.selectOption(value);
  }
  /** Opens the sheet of a page whose row is in sight: what finds it is not counted. */
  async open(name: string): Promise<void> {
    this.count++;
    await openSheet(this.page, name);
  }
  async find(name: string): Promise<void> {
    this.count += 2;
    await openSheet(this.page, name);
  }
  atMost(most: number): void {
    expect(this.count).toBeLessThanOrEqual(most);
  }
}

export const button = (page: Page, name: string | RegExp) =>
  page.getByRole('button', { name, exact: typeof name === 'string' });
export const inMore = async (steps: Steps, page: Page, name: string | RegExp) => {
  await steps.press(page.getByRole('complementary').getByRole('button', { name: 'More', exact: true }));
  await steps.press(button(page, name));
};
export const changePath = (steps: Steps, page: Page) =>
  steps.press(page.getByRole('complementary').getByRole('button', { name: 'change…', exact: true }));
const tokenOf = (page: Page) =>
  page.evaluate(async () => {
    const { csrf } = (await (await fetch('/api/session')).json()) as { csrf: string };
    return csrf;
  });
/** Makes pages that are live, out of the way of all others. */
export async function livePages(page: Page, ...names: string[]): Promise<number[]> {
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
