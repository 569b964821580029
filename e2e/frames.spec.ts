import { expect, test } from './test.js';
import { accessible, published, said, signIn, visit, visitUntil } from './world.js';

const HOST = 'storm.marrowick.example';

test('a header and a footer are made around a page, put on a site in one press, and taken back', async ({ page }) => {
  const stamp = `${Date.now() % 10_000_000}`;
  await signIn(page);
  await page.goto('/portfolios/1/stock/frames');
  const margin = page.locator('.margin');
  const canvas = page.frameLocator('dm-canvas iframe');
  const saved = () => expect(page.getByText('Draft · Saved')).toBeVisible();
  // A footer of its own, seen around a page as it is made.
  await page.getByRole('button', { name: 'New footer' }).click();
  await expect(margin.getByRole('heading', { name: 'Footer', exact: true })).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill(`Foot ${stamp}`);
  await margin.locator('.entry.block', { hasText: 'Legal line' }).click();
  await page.getByLabel('Words').fill(`Kept dry since ${stamp}, {site name}`);
  await page.getByLabel('Seen on a page of').selectOption({ label: 'Storm desk' });
  await expect(canvas.getByText(`Kept dry since ${stamp}, Marrowick Storm Desk`)).toBeVisible();
  await saved();
  await accessible(page, 'frames');
  // A header with a menu; where it is narrow it is folded, and opens without script.
  await page.getByRole('button', { name: 'New header' }).click();
  await expect(margin.getByRole('heading', { name: 'Header', exact: true })).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill(`Head ${stamp}`);
  await margin.locator('.entry.block', { hasText: 'Menu' }).click();
  await page.getByPlaceholder('What it says').first().fill('Force eight');
  await page
    .getByRole('combobox', { name: /leads to/ })
    .first()
    .fill('force eight means');
  await page.locator('.picker-list').getByRole('option').first().click();
  await saved();
  // Both stand on one site from now on, and go out with that.
  await page.locator('.list .entry', { hasText: /^\s*Storm desk/ }).click();
  await page.getByLabel('Header', { exact: true }).selectOption({ label: `Head ${stamp}` });
  await page.getByLabel('Footer', { exact: true }).selectOption({ label: `Foot ${stamp}` });
  await expect(canvas.getByText(`Kept dry since ${stamp}, Marrowick Storm Desk`)).toBeVisible();
  await saved();
  await page.getByRole('button', { name: /^Put on \d+ pages now/ }).click();
  await said(page, 'on its way to visitors');
  const { body } = await visitUntil(HOST, '/', (got) => got.body.includes(`Kept dry since ${stamp}`));
  expect(body).toContain('<header class="site-header as-row">');
  expect(body).not.toContain('aria-current');
  expect((await visit(HOST, '/force-eight')).body).toContain('aria-current="page"');
  const visitor = await page.context().newPage();
  await visitor.setViewportSize({ width: 390, height: 844 });
  await visitor.goto(published(HOST, '/'));
  await expect(visitor.getByRole('link', { name: 'Force eight' })).toBeHidden();
  await visitor.locator('summary').click();
  await expect(visitor.getByRole('link', { name: 'Force eight' })).toBeVisible();
  await accessible(visitor, 'a menu that is open');
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await visitUntil(HOST, '/', (got) => got.status === 200 && !got.body.includes(`Kept dry since ${stamp}`));
});
