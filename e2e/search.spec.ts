import { expect, test } from './test.js';
import { accessible, makePage, openSheet, signIn, visit, visitUntil } from './world.js';

const stamp = Date.now().toString(36);

test('a page is kept out of search from its release on, and the register says so', async ({ page }) => {
  const path = `/for-few-${stamp}`;
  await signIn(page);
  await makePage(page, `For few ${stamp}`);
  await page.getByRole('button', { name: /^Page Title, search/ }).click();
  const card = page.getByRole('region', { name: 'Search and sharing' });
  await card.getByLabel('Keep this page out of search results').check();
  await card.getByLabel('Text below a result', { exact: true }).selectOption('none');
  await card.getByLabel('Title where it is shared').fill('Only for you');
  await accessible(page);
  await page.getByRole('button', { name: 'Release…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put revision 1 live/ })
    .click();
  const { body } = await visitUntil('marrowick.example', path, ({ status }) => status === 200);
  expect(body).toContain('<meta name="robots" content="noindex, max-snippet:0">');
  expect(body).toContain('<meta property="og:title" content="Only for you">');
  expect((await visit('marrowick.example', '/winter')).body).not.toContain('name="robots"');

  await page.goto('/portfolios/1/pages');
  await page.getByRole('button', { name: 'Found by search', exact: true }).click();
  await page.getByRole('button', { name: /^No: kept out itself/ }).click();
  await expect(page.getByText(`For few ${stamp}`).first()).toBeVisible();
  await openSheet(page, `For few ${stamp}`);
  await expect(page.getByRole('complementary').getByText('No: kept out itself')).toBeVisible();
});
