import { button, Steps } from './steps.js';
import { expect, test } from './test.js';
import { makePage, said, signIn, visitUntil } from './world.js';
import type { Page } from '@playwright/test';

/**
 * What a maker of pages does in a day, with every press counted as in work.spec: none takes more of them than when
 * people counted first. What is typed is not counted.
 */
const SITE = 'Tide Hall · tidehall.example';
const HOST = 'tidehall.example';
const stamp = Date.now().toString(36);
const canvas = (page: Page) => page.frameLocator('iframe[title="The page as visitors get it, wide"]');
const kept = (page: Page) => expect(page.getByRole('status').filter({ hasText: /· Saved/ })).toBeVisible();
const more = async (steps: Steps, page: Page, act: RegExp) => {
  await steps.press(button(page, 'More'));
  await steps.press(button(page, act));
};

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test('takes another start, and puts what waits in the tray back on the page', async ({ page }) => {
  await makePage(page, `Making a start ${stamp}`, { site: SITE, start: 'Offer' });
  const steps = new Steps(page);
  await more(steps, page, /Another start/);
  await steps.press(button(page, /^Event/));
  await steps.press(button(page, 'Take “Event”'));
  await expect(page.getByText('In the tray')).toBeVisible();
  steps.atMost(4);
  const rows = page.locator('dm-outline ol .words strong');
  const before = await rows.count();
  const back = new Steps(page);
  await back.press(page.getByTitle('Put it on the page, behind the chosen block').first());
  await expect(rows).toHaveCount(before + 1);
  back.atMost(1);
});

test('keeps a block as a piece and releases it with its page; changes a shared value on all pages', async ({
  page,
}) => {
  const name = `making-a-piece-${stamp}`;
  await makePage(page, name, { site: SITE });
  await button(page, 'Insert…').click();
  await button(page, 'Quote').click();
  await page.getByLabel('What was said').fill('Ring {phone} at noon');
  await page.getByLabel('Who said it').fill('Signe');
  await page.getByLabel('Who they are').fill('at the desk');
  const steps = new Steps(page);
  await steps.press(button(page, 'save as a piece for other pages'));
  await page.getByLabel('Name of the piece').fill(`Noon ${stamp}`);
  await steps.press(button(page, 'Keep'));
  await kept(page);
  await steps.press(button(page, 'Release…'));
  await steps.press(button(page, 'Release it too'));
  await steps.press(button(page, /^Put revision \d+ live now/));
  steps.atMost(6);
  await visitUntil(HOST, `/${name}`, ({ body }) => body.includes('Ring 75 12 00 31 at noon'));

  await page.goto('/portfolios/1/pages');
  const value = new Steps(page);
  await value.press(page.getByRole('link', { name: 'Sites, themes, pieces' }));
  await value.press(page.getByRole('navigation', { name: 'Shelves' }).getByText('Shared values'));
  await value.press(page.locator('.list .entry').first());
  await page.getByLabel('Value of phone').fill('75 12 00 99');
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await value.press(button(page, /^Put on \d+ pages now/));
  await visitUntil(HOST, `/${name}`, ({ body }) => body.includes('Ring 75 12 00 99 at noon'));
  value.atMost(6);
  await button(page, 'Undo').last().click();
  await visitUntil(HOST, `/${name}`, ({ body }) => body.includes('Ring 75 12 00 31 at noon'));
});

test('names a state and brings it back; takes a page out as a folder', async ({ page }) => {
  await makePage(page, `Making states ${stamp}`, { site: SITE });
  await page.locator('[data-block]').first().click();
  await page.getByLabel('Heading', { exact: true }).fill('Boats at nine');
  await kept(page);
  const steps = new Steps(page);
  await more(steps, page, /States and comparing/);
  const panel = page.getByRole('dialog', { name: 'States of this page' });
  await panel.getByLabel('Name the draft').fill('Before the change');
  await steps.press(panel.getByRole('button', { name: 'Name it' }));
  steps.atMost(3);
  await panel.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Heading', { exact: true }).fill('Boats at ten');
  await kept(page);
  const back = new Steps(page);
  await more(back, page, /States and comparing/);
  await back.press(panel.getByRole('button', { name: /^Bring back Revision 1/ }));
  if (await panel.isVisible()) await back.press(panel.getByRole('button', { name: 'Close' }));
  await expect(canvas(page).getByText('Boats at nine')).toBeVisible();
  back.atMost(5);
  const out = new Steps(page);
  const download = page.waitForEvent('download');
  await more(out, page, /Export as a folder/);
  expect((await download).suggestedFilename()).toMatch(/\.zip$/);
  out.atMost(2);
});

test('fills a link hub with a page, an address outside and a telephone', async ({ page }) => {
  const name = `making-a-hub-${stamp}`;
  await makePage(page, name, { site: SITE, start: 'Link hub' });
  const steps = new Steps(page);
  await steps.press(page.locator('[data-block]').nth(1));
  await steps.seek(page.getByRole('combobox', { name: 'Page' }), 'residency');
  await steps.press(page.getByRole('option').first());
  await steps.press(page.locator('[data-block]').first());
  await page.getByPlaceholder('What it says').fill('Ring us');
  await steps.press(button(page, 'Phone'));
  await page.getByLabel('Button leads to, telephone').fill('+47 75 12 00 31');
  await page.getByLabel('Button leads to, telephone').press('Tab');
  await kept(page);
  await steps.press(button(page, 'Release…'));
  await steps.press(button(page, /^Put revision \d+ live now/));
  await said(page, 'is on its way to visitors');
  steps.atMost(23);
  await visitUntil(HOST, `/${name}`, ({ body }) => body.includes('href="tel:+4775120031"'));
});
