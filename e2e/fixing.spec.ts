import { expect, test } from './test.js';
import { accessible, makePage, said, signIn } from './world.js';

const stamp = Date.now().toString(36);

test('what is to fix is worked off with keys, and mended on all of its pages as one release', async ({ page }) => {
  const name = `To fix ${stamp}`;
  await signIn(page);
  await makePage(page, name);
  await page.getByRole('button', { name: /^Page Title, search/ }).click();
  await page.getByLabel('Title', { exact: true }).fill(`${name}, with words that go on and on until nobody reads them`);
  await page.getByText(/Saved/).first().waitFor();
  await page.goto('/portfolios/1/pages');
  await page.getByRole('button', { name: 'To fix', exact: true }).first().click();
  const sheet = page.getByRole('dialog', { name: /^To fix|^Title too long/ });
  const group = sheet.getByRole('button', { name: /Title too long/ });
  await expect(group).toBeVisible();
  await group.focus();
  await page.keyboard.press('ArrowRight');
  const line = sheet.getByRole('link', { name: new RegExp(name) });
  await expect(line).toBeVisible();
  await accessible(page);
  await line.click();
  await expect(page.getByRole('button', { name: /^Page Title, search/ })).toBeVisible();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue(new RegExp(name));
  await page.goBack();
  await group.click();
  await sheet.getByRole('button', { name: /^Shorten at a word/ }).click();
  await expect(sheet.getByText(`${name}, with words that go on and on until nobody reads them`)).toBeVisible();
  await accessible(page);
  await sheet.getByRole('button', { name: /^Change \d+ drafts? and go on to release$/ }).click();
  // Pages of others have it too: they are left as they were.
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await said(page, 'The drafts are as they were.');
});
