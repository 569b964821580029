import type { Page } from '@playwright/test';
import { expect, test } from './test.js';
import { accessible, openSheet, said, signIn, visitUntil } from './world.js';

test.use({ viewport: { width: 1280, height: 800 } });

/** Nothing lies outside the window, and what is pressed is no smaller than 24 px either way. */
async function fits(page: Page, place: string): Promise<void> {
  const found = await page.evaluate(() => {
    const inside = '.ag-root-wrapper, .chips, dm-bulk-bar, .axis, .visually-hidden, .skip';
    const shown = [...document.querySelectorAll('dm-root *')]
      .map((element) => ({ element, box: element.getBoundingClientRect() }))
      .filter(({ element, box }) => box.width > 1 && box.height > 1 && !element.closest(inside));
    const name = (element: Element) => `${element.tagName} ${element.className} ${element.textContent?.slice(0, 30)}`;
    const outside = shown
      .filter(({ box }) => box.right > innerWidth + 1 || box.left < -1)
      .map((one) => name(one.element));
    const small = shown
      .filter(({ element, box }) => element.matches('button, select, input') && Math.min(box.width, box.height) < 24)
      .map(({ element, box }) => `${name(element)} ${Math.round(box.width)}×${Math.round(box.height)}`);
    return { outside, small, scrolls: document.documentElement.scrollWidth > innerWidth };
  });
  expect({ place, ...found }).toEqual({ place, outside: [], small: [], scrolls: false });
}

test('on a phone, in a hurry: finds a page, sees what visitors get, takes it off, undoes that, looks ahead', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  await fits(page, 'list');
  await accessible(page, 'list');
  await page.getByRole('button', { name: 'Places and views' }).click();
  await page.getByRole('button', { name: /^Ferries/ }).click();
  await expect(page.getByRole('button', { name: /^Ferries/ })).toBeHidden();
  await openSheet(page, 'Works at Hestvær');
  await fits(page, 'page');
  await accessible(page, 'page');
  const address = { host: 'marrowick.example', path: '/works/3' };
  await visitUntil(address.host, address.path, ({ status }) => status === 200);
  await page.getByRole('button', { name: 'Take off…' }).click();
  await expect(page.getByText('not found').first()).toBeVisible();
  await fits(page, 'take off');
  await page.getByRole('button', { name: /^Take .*off now$/i }).click();
  await visitUntil(address.host, address.path, ({ status }) => status === 404);
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).first().click();
  await visitUntil(address.host, address.path, ({ status }) => status === 200);
  await said(page, 'Undone');
  await page.getByRole('button', { name: 'Release…' }).click();
  await expect(page.getByRole('button', { name: /live now/ })).toBeEnabled();
  await fits(page, 'release');
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).click();
  const moment = page.getByLabel('The moment that is shown');
  await moment.fill('24 dec 18:00');
  await moment.press('Enter');
  await expect(page.getByRole('heading', { name: 'Seen as of Thu 24 Dec' })).toBeVisible();
  await fits(page, 'as of');
});

test('in the dark all is readable; the list is two keys away; a portfolio, a site, the record', async ({ page }) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  await signIn(page);
  await accessible(page, 'dark list');
  // From the field that finds: one key into it, one out of it onto the list.
  await page.keyboard.press('/');
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('.ag-cell-focus[col-id="name"]')).toBeFocused();
  for (const panel of ['record', 'portfolio', 'everywhere', 'people', 'account']) {
    await page.goto(`/portfolios/1/pages?panel=${panel}`);
    await expect(page.getByRole('dialog')).toBeVisible();
    await expect(page.locator('.skeleton')).toHaveCount(0);
    await accessible(page, `dark ${panel}`);
  }
  await page.goto('/portfolios/1/pages?scope=site:1&panel=site');
  await expect(page.getByText('read from the left')).toBeVisible();
  await accessible(page, 'dark site');
});
