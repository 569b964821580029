import { expect, test } from './test.js';
import { livePages } from './steps.js';
import { accessible, published, said, signIn, visit, visitUntil } from './world.js';

const HOST = 'tidehall.example';

test('the page tree of a site is arranged by keys, its menu follows on all pages at once, and takes it back', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto('/portfolios/1/stock/menus');
  await page.getByLabel('Site', { exact: true }).selectOption({ label: 'Tide Hall' });
  await page.getByRole('button', { name: /^Page tree/ }).click();
  const entries = page.locator('dm-menu-outline .entry');
  await expect(entries.first()).toContainText('Quay No. 4');
  await accessible(page, 'menus');
  // The second becomes the first; the one behind it goes below it.
  await entries.nth(1).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(entries.first()).toContainText('For schools');
  await expect(entries.first()).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(entries.nth(1)).toBeFocused();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(entries.nth(1)).toHaveAttribute('aria-level', '2');
  await page.getByLabel('Label', { exact: true }).fill('The quay');
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await page.getByRole('button', { name: /^Put on \d+ pages now/ }).click();
  await said(page, 'on its way to visitors');
  const menuOf = (body: string) => {
    const header = /<header.*?<\/header>/s.exec(body)?.[0] ?? '';
    return [...header.matchAll(/<a href="([^"]*)"[^>]*><span>([^<]*)/g)].map(([, , words]) => words);
  };
  // One level of it is shown; what went a level down is in the menu no more.
  const { body } = await visitUntil(HOST, '/', (got) => menuOf(got.body)[0] === 'For schools');
  expect(menuOf(body)).not.toContain('The quay');
  expect(menuOf((await visit(HOST, '/hire')).body)[0]).toBe('For schools');
  // Two levels, below which one opens by keys and without script.
  await page.getByRole('button', { name: /^Main menu/ }).click();
  await page.getByLabel('Levels').selectOption('2');
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await page.getByRole('button', { name: /^Put on \d+ pages now/ }).click();
  await said(page, 'on its way to visitors');
  await visitUntil(HOST, '/', (got) => menuOf(got.body).includes('The quay'));
  const visitor = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 1280, height: 800 } });
  const seen = await visitor.newPage();
  await seen.goto(published(HOST, '/hire'));
  const below = seen.getByRole('link', { name: 'The quay' }).locator('visible=true');
  await expect(below).toHaveCount(0);
  await seen.locator('.menu.as-row > ul summary').first().focus();
  await seen.keyboard.press('Enter');
  await expect(below).toHaveCount(1);
  await expect(seen.locator('[aria-current=page]').locator('visible=true').first()).toHaveText(/Hire/);
  await seen.setViewportSize({ width: 390, height: 844 });
  await seen.locator('.menu-folded > summary').focus();
  await seen.keyboard.press('Enter');
  await expect(seen.getByRole('link', { name: 'For schools' }).locator('visible=true')).toHaveCount(1);
  await visitor.close();
  // Taken back, the last first.
  for (const name of ['Main menu', 'Page tree']) {
    await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
    await expect(page.getByRole('heading', { name: `${name}, Tide Hall` })).toBeVisible();
    await page.locator('.margin').getByRole('button', { name: 'Undo', exact: true }).first().click();
    await expect(page.locator('.margin p.undone')).toHaveCount(1);
  }
  await visitUntil(HOST, '/', (got) => menuOf(got.body)[0] === 'Quay No. 4');
});

test('a page without a place in the tree is found in the register, and put there', async ({ page }) => {
  const stamp = `${Date.now() % 10_000_000}`;
  await signIn(page);
  await livePages(page, `Lone ${stamp}`);
  await page.goto(`/portfolios/1/pages?find=Lone+${stamp}&ways=unlinked`);
  await expect(page.getByText(`Lone ${stamp}`).first()).toBeVisible();
  await page.goto(`/portfolios/1/pages?ways=no-menu&find=Quay+No.+4+residency`);
  await expect(page.getByText(/No page/).first()).toBeVisible();
});

test('legal pages: what is missing on which site is named, and every legal menu follows', async ({ page }) => {
  await signIn(page);
  await page.goto('/portfolios/1/stock/menus');
  await page.getByRole('button', { name: /^All sites/ }).click();
  await expect(page.getByText('Terms: no page is named.').first()).toBeVisible();
  await expect(page.getByText(/Terms: the page “Terms, tide” is live only until/)).toBeVisible();
  await accessible(page, 'legal pages');
  const legalOf = (body: string) =>
    [...body.matchAll(/<a href="([^"]*)"[^>]*><span>(Imprint|Privacy|Accessibility|Terms)</g)].map(([, href]) => href);
  expect(legalOf((await visit('tidehall.example', '/')).body).slice(-1)).toEqual(['/terms']);
  expect(legalOf((await visit('storm.marrowick.example', '/')).body)).toHaveLength(3);
});
