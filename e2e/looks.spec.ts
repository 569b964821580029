import { HtmlValidate } from 'html-validate';
import { expect, test } from './test.js';
import { accessible, openSheet, published, signIn, visit } from './world.js';

const PAGES = [
  'http://marrowick.example/',
  'http://marrowick.example/midwinter',
  'http://lanternhouse.example/',
  'http://tidehall.example/quay-four',
  'http://skerrowsail.example/',
  'http://kelpandsmoke.example/',
  'http://islandpass.example/',
  'http://ninemile.example/',
  'http://storm.marrowick.example/',
].map((text) => new URL(text));

/** The rules of the HTML standard, without those of taste. */
const validator = new HtmlValidate({
  root: true,
  extends: ['html-validate:standard'],
  rules: { 'doctype-style': 'off', 'void-style': 'off', 'no-trailing-whitespace': 'off', 'attr-quotes': 'off' },
});
/** Sites whose pages are read aloud at every width: one with a page tree, one of landing pages, one that is locked. */
const READ = ['marrowick.example', 'islandpass.example', 'storm.marrowick.example'];
/** Sites on whose pages codes run. */
const CODED = ['islandpass.example', 'skerrowsail.example'];

for (const { hostname, pathname } of PAGES)
  test(`${hostname}${pathname} fits every width, has one first heading, sized and described pictures, and no script but its codes`, async ({
    page,
  }) => {
    for (const width of [320, 390, 768, 1280]) {
      await page.setViewportSize({ width, height: 844 });
      await page.goto(published(hostname, pathname));
      const sizes = await page.evaluate(() => [
        document.documentElement.scrollWidth,
        document.documentElement.clientWidth,
      ]);
      expect(sizes[0], `at ${width}`).toBeLessThanOrEqual(sizes[1] ?? 0);
      if (READ.includes(hostname)) await accessible(page, `${hostname} at ${width}`);
    }
    const { results } = await validator.validateString((await visit(hostname, pathname)).body);
    expect(results.flatMap(({ messages }) => messages.map(({ ruleId, line }) => `${line} ${ruleId}`))).toEqual([]);
    expect(await page.locator('h1').count()).toBe(1);
    // Beside the codes of its site, which wait for a visitor's word: nothing from elsewhere runs before.
    // What is stated for machines runs nowhere.
    const scripts = await page
      .locator('script:not([type="application/ld+json"])')
      .evaluateAll((all) => all.map((one) => one.getAttribute('src') ?? ''));
    expect(scripts.filter((src) => !CODED.includes(hostname) || !src.startsWith('/-/'))).toEqual([]);
    expect(await page.locator('img:not([width]), img:not([height]), img:not([alt])').count()).toBe(0);
    expect(await page.evaluate(() => [...(document.fonts as unknown as Iterable<unknown>)].length)).toBeGreaterThan(0);
  });

test('what is off can’t be reached by its exact address; a missing page is the site’s own', async ({ page }) => {
  expect((await visit('marrowick.example', '/new-year')).status).toBe(404);
  expect((await visit('islandpass.example', '/gift')).status).toBe(404);
  await page.goto(published('tidehall.example', '/nothing'));
  await expect(page.locator('h1')).toHaveText('An empty stage');
  await page.getByRole('link', { name: 'To the first page' }).click();
  await expect(page).toHaveURL(published('tidehall.example', '/'));
});

test('the register works by keyboard alone, and back and forward go where one was', async ({ page }) => {
  await signIn(page);
  await page.locator('body').press('/');
  await expect(page.getByRole('searchbox')).toBeFocused();
  await page.keyboard.type('gift vouchers');
  await expect(page.locator('.ag-row')).toHaveCount(1);
  await page.locator('.ag-row .ag-cell').first().focus();
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('complementary', { name: 'Gift vouchers' });
  await expect(sheet).toBeVisible();
  await page.locator('.ag-row .ag-cell').first().press('p');
  await expect(page.getByRole('dialog', { name: 'Release Gift vouchers' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.goBack();
  await expect(page.getByRole('dialog', { name: 'Release Gift vouchers' })).toBeVisible();
  await page.goForward();
  await page.locator('h1').click();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'All keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
});

test('says what a view is for where it is empty, and switches between clients', async ({ page }) => {
  await signIn(page);
  await page.getByRole('searchbox').fill('no such page anywhere');
  await expect(page.getByText('No page here matches “no such page anywhere”')).toBeVisible();
  await page.getByRole('button', { name: 'Show all of the portfolio' }).click();
  await page.getByRole('button', { name: 'Marrowick Coast' }).click();
  await page.getByRole('button', { name: /Nine Mile Orchard/ }).click();
  await expect(page.locator('.ag-row').first()).toContainText(/ninemile\.example/);
  await openSheet(page, 'Harvest weekend');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'History and undo' }).click();
  await expect(page.getByRole('dialog')).toContainText('Put revision 1 live from');
});
