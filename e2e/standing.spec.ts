import { expect, test, type FrameLocator, type Page } from './test.js';
import { accessible, makePage, published, signIn, visitUntil } from './world.js';

const canvas = (page: Page): FrameLocator => page.frameLocator('iframe[title="The page as visitors get it, wide"]');
const outline = (page: Page) => page.locator('dm-outline .words strong');
const choose = (page: Page, name: string) => outline(page).filter({ hasText: name }).first().click();
const ground = (page: Page, name: string) =>
  page.getByRole('group', { name: 'Ground' }).getByRole('button', { name, exact: true }).click();
const insert = async (page: Page, name: string) => {
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name, exact: true }).first().click();
};
const columns = (on: FrameLocator | Page) =>
  on
    .locator('.row .column-of')
    .evaluateAll((all) => all.map((one) => [...one.children].map((child) => child.firstElementChild?.className)));

test('blocks stand side by side by keys and by drag, on grounds of their own, and visitors get them so', async ({
  page,
  context,
}) => {
  await signIn(page);
  const path = `/standing-${Date.now() % 1_000_000}`;
  await makePage(page, path.slice(1), { site: 'Tide Hall · tidehall.example' });
  const frame = canvas(page);
  await insert(page, 'Quote');
  await page.getByLabel('What was said').fill('The boats run.');
  await page.getByLabel('Who said it').fill('Aud');
  await page.getByLabel('Who they are').fill('Skipper');
  await insert(page, 'Text');
  await frame.locator('.prose').first().click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Every day at nine');
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Quotation' }).first().click();
  await expect(frame.locator('.prose blockquote')).toHaveText('Every day at nine');
  await page.keyboard.press('Escape');

  // By keys into a row and out of it.
  await choose(page, 'Text');
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await expect.poll(() => columns(frame)).toEqual([['quote tint'], ['prose plain']]);
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  await expect(frame.locator('.row')).toHaveCount(0);

  // By drag, to the right of the other.
  await choose(page, 'Text');
  await page.getByRole('button', { name: 'Move this block' }).hover();
  const [box, paper] = await Promise.all([
    frame.locator('.quote').first().boundingBox(),
    page.locator('dm-canvas iframe').boundingBox(),
  ]);
  if (!box || !paper) throw new Error('There is nothing to drop it beside');
  await page.mouse.down();
  await page.mouse.move(paper.x + paper.width - 30, box.y + box.height / 2, { steps: 8 });
  await expect(page.locator('.seam.upright')).toBeVisible();
  await page.mouse.up();
  await expect.poll(() => columns(frame)).toEqual([['quote tint'], ['prose plain']]);

  // A ground, with its contrast; a name for links; a language with its direction.
  await page.locator('dm-block-appearance summary').click();
  const colour = () =>
    frame
      .locator('section:has(.prose)')
      .first()
      .evaluate((one) => getComputedStyle(one).backgroundColor);
  const tint = await frame.locator('.opening').evaluate((one) => getComputedStyle(one).backgroundColor);
  await ground(page, 'Tinted');
  await expect.poll(colour).toBe(tint);
  await expect(frame.locator('.quote blockquote')).toHaveCSS('border-inline-start-width', '0px');
  await ground(page, 'Strong');
  await expect(page.getByText(/^Contrast of its text: [\d.]+ : 1\.$/)).toBeVisible();
  await page.getByLabel('Name for links').fill('Every day');
  await page.locator('#f-language').selectOption('he');
  await accessible(page, 'editor with the appearance of a block');
  await expect(frame.locator('section.on-strong')).toHaveAttribute('dir', 'rtl');
  await expect(page.getByRole('status').filter({ hasText: /· Saved/ })).toBeVisible();

  await page.getByRole('button', { name: 'Release…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put revision 1 live/ })
    .click();
  const got = await visitUntil('tidehall.example', path, ({ status }) => status === 200);
  expect(got.body).toContain('lang="he" dir="rtl"><span id="every-day"></span>');
  const visitor = await context.newPage();
  await visitor.goto(published('tidehall.example', path));
  expect(await columns(visitor)).toEqual([['quote tint'], ['']]);
  const side = async () =>
    visitor.locator('.column-of').evaluateAll((all) => all.map((one) => Math.round(one.getBoundingClientRect().left)));
  await visitor.setViewportSize({ width: 1280, height: 800 });
  expect(new Set(await side()).size).toBe(2);
  await visitor.setViewportSize({ width: 390, height: 800 });
  expect(new Set(await side()).size).toBe(1);
  expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('own HTML runs on the canvas as it is typed, apart from the application', async ({ page }) => {
  await signIn(page);
  await makePage(page, `running-${Date.now() % 1_000_000}`, { site: 'Tide Hall · tidehall.example' });
  await insert(page, 'Own HTML');
  const runs = page.frameLocator('iframe.runs');
  await expect(runs.locator('p')).toHaveText('Own HTML, with its own style and script.');
  await page.locator('dm-code-field .cm-content').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(
    '<p>at rest</p><script>let reach = "none"; try { reach = parent.document.title } catch { } document.querySelector("p").textContent = "runs, reaches " + reach</script>',
  );
  await expect(runs.locator('p')).toHaveText('runs, reaches none');
  // What stands around it goes on being drawn.
  await insert(page, 'Quote');
  await page.getByLabel('What was said').fill('After it');
  await expect(canvas(page).locator('.quote').last()).toContainText('After it');
});

test('a piece is put on many pages, seen before, taken back, and released as one', async ({ page }) => {
  await signIn(page);
  const stamp = `placed-${Date.now() % 1_000_000}`;
  for (const n of [1, 2]) {
    await makePage(page, `${stamp}-${n}`, { site: 'Tide Hall · tidehall.example' });
    await page.goto('/');
    await expect(page.locator('.ag-row').first()).toBeVisible();
  }
  await page.getByRole('searchbox').fill(stamp);
  await expect(page.locator('.ag-row')).toHaveCount(2);
  for (const n of [0, 1]) await page.locator('.ag-row input[type=checkbox]').nth(n).click();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'Piece…' }).click();
  const sheet = page.getByRole('dialog', { name: 'A piece on 2 pages' });
  await sheet.getByLabel('Piece').selectOption({ label: 'Harbour desk' });
  await sheet.getByLabel('Where').selectOption('after');
  await sheet.locator('#place-by').selectOption('type:opening');
  await expect(sheet.locator('.line.new')).toHaveCount(2);
  await accessible(page, 'a piece on many pages');
  await sheet.getByRole('button', { name: /^Change 2 drafts/ }).click();
  await expect(page.getByRole('dialog', { name: /^Release 2 pages/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('The drafts are as they were.')).toBeVisible();
});
