import { expect, test } from './test.js';
import { Steps } from './steps.js';
import { accessible, openSheet, published, said, signIn, visit, visitUntil } from './world.js';

const HOST = 'storm.marrowick.example';

test('a header and a footer are made around a page, put on a site in one press, and taken back', async ({ page }) => {
  const stamp = `${Date.now() % 10_000_000}`;
  await signIn(page);
  await page.goto('/portfolios/1/stock/frames');
  const margin = page.locator('.margin');
  const canvas = page.frameLocator('dm-canvas iframe');
  const saved = () => expect(page.getByText('Draft · Saved')).toBeVisible();
  // A footer of its own, seen around a page as it is made.
  await expect(page.getByRole('button', { name: /^Coast footer/ })).toBeVisible();
  await page.getByRole('button', { name: 'New footer' }).click();
  await page.getByRole('button', { name: 'Legal line', exact: true }).click();
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
  await page.getByRole('button', { name: 'Name and menu', exact: true }).click();
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
  await page.getByRole('button', { name: /^Storm desk (on its pages|draft differs)/ }).click();
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

test('a notice is on its sites in four steps on a phone, is closed by its visitors, and comes off again', async ({
  page,
}) => {
  const stamp = `${Date.now() % 10_000_000}`;
  const words = `Boats ${stamp} stay in harbour tonight.`;
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  await expect(page.locator('.ag-row').first()).toBeVisible();
  const steps = new Steps(page);
  await page.keyboard.press('Control+k');
  await steps.seek(page.getByRole('combobox', { name: /Go to/ }), 'notice');
  await expect(page.getByRole('option', { name: /Put up a notice/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.getByLabel('What it says').fill(words);
  await accessible(page, 'notice');
  await steps.press(page.getByRole('button', { name: 'Storm desk', exact: true }));
  await steps.press(page.getByRole('button', { name: /^Put it on Storm desk now, until/ }));
  await said(page, 'on its way to visitors');
  steps.atMost(4 - 1);
  const { body } = await visitUntil(HOST, '/', (got) => got.body.includes(words));
  expect(body).toContain('class="band as-warning"');
  expect((await visit('tidehall.example', '/')).body).not.toContain(words);
  const visitor = await page.context().newPage();
  await visitor.goto(published(HOST, '/'));
  await accessible(visitor, 'a page with a notice');
  // By keyboard, for this visitor, until it changes; nothing of it is told to anybody.
  await visitor.getByRole('checkbox', { name: 'Close this notice' }).focus();
  await visitor.keyboard.press('Space');
  await expect(visitor.getByText(words)).toBeHidden();
  await visitor.reload();
  await expect(visitor.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(visitor.getByText(words)).toBeHidden();
  expect(await visitor.context().cookies(published(HOST, '/'))).toEqual([]);
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await visitUntil(HOST, '/', (got) => got.status === 200 && !got.body.includes(words));
});

test('a rule is about a path, and a page chooses for itself; the header stays in view and hides nothing', async ({
  page,
}) => {
  const stamp = `${Date.now() % 10_000_000}`;
  await signIn(page);
  await page.goto('/portfolios/1/stock/frames');
  const saved = () => expect(page.getByText('Draft · Saved')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Coast footer/ })).toBeVisible();
  await page.getByRole('button', { name: 'New header' }).click();
  await page.getByRole('button', { name: 'Name and menu', exact: true }).click();
  await page.getByLabel('Name', { exact: true }).fill(`Stays ${stamp}`);
  await page.getByLabel('While scrolling').selectOption({ label: 'Stays in view' });
  await expect(page.getByText(/What stays in view takes \d+ % of a phone’s height/)).toBeVisible();
  await saved();
  await page.getByRole('button', { name: 'New rule…' }).click();
  await accessible(page, 'a rule');
  await page.getByLabel('Site', { exact: true }).selectOption({ label: 'Tide Hall' });
  await page.getByLabel('Path', { exact: true }).fill('/quay-four');
  await page.getByRole('button', { name: 'Make the rule' }).click();
  await page.getByLabel('Header', { exact: true }).selectOption({ label: `Stays ${stamp}` });
  await saved();
  await page.getByRole('button', { name: /^Put on 1 page now|^Put on one page now|^Put on \d+ pages now/ }).click();
  await said(page, 'on its way to visitors');
  const path = '/quay-four';
  await visitUntil('tidehall.example', path, (got) => got.body.includes('class="stays"'));
  expect((await visit('tidehall.example', '/')).body).not.toContain('class="stays"');
  const visitor = await page.context().newPage();
  await visitor.setViewportSize({ width: 390, height: 844 });
  await visitor.goto(published('tidehall.example', path));
  const links = visitor.locator('main a[href], footer a[href]');
  for (let n = 0; n < (await links.count()); n += 1) {
    // From below, so that it comes in at the upper rim.
    await visitor.evaluate(() => scrollTo(0, document.body.scrollHeight));
    await links.nth(n).focus();
    // It glides there.
    const room = async () => {
      const [link, header] = [await links.nth(n).boundingBox(), await visitor.locator('.stays').boundingBox()];
      expect(header?.y).toBe(0);
      return (link?.y ?? 0) - (header?.height ?? 0);
    };
    await expect.poll(room).toBeGreaterThanOrEqual(0);
  }
  await accessible(visitor, 'a header in view');
  // The page has its own say, as part of its release.
  await page.goto('/portfolios/1/pages');
  await openSheet(page, 'Quay No. 4 residency');
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await page.getByRole('button', { name: /^Page Title, search, sharing/ }).click();
  const card = page.getByRole('region', { name: 'Around this page' });
  await expect(card.getByText(/from: \/quay-four and below, Tide Hall, since .*, set by/)).toBeVisible();
  const canvas = page.frameLocator('dm-canvas iframe');
  await expect(canvas.locator('.stays .site-header')).toBeVisible();
  await card.getByLabel('Header').selectOption({ label: 'Name of the site only' });
  await expect(canvas.locator('header.masthead')).toBeVisible();
  await expect(card.getByText('from: this page itself')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(canvas.locator('.stays .site-header')).toBeVisible();
  // A rule that holds can't be removed; off its pages it can.
  await page.goto('/portfolios/1/stock/frames');
  await page.getByRole('button', { name: /^\/quay-four and below.*on its pages/ }).click();
  await page.getByRole('button', { name: 'Remove this rule' }).click();
  await expect(page.getByText('Take it off its pages first')).toBeVisible();
  await page.getByRole('button', { name: 'Nothing', exact: true }).click();
  await page.getByRole('button', { name: /^Take off \d+ page|^Take it off|^Take off/ }).click();
  await said(page, 'off its pages');
  await visitUntil('tidehall.example', path, (got) => !got.body.includes('class="stays"'));
  await page.getByRole('button', { name: 'Remove this rule' }).click();
  await expect(page.getByRole('button', { name: /^\/quay-four and below/ })).toHaveCount(0);
});

test('a part is seen before and after on the pages where it matters most, before it is pressed', async ({ page }) => {
  await signIn(page);
  await page.goto('/portfolios/1/stock/frames');
  await page.getByRole('button', { name: /^Coast footer/ }).click();
  await page.locator('.margin .entry.block', { hasText: 'Legal line' }).click();
  const words = page.getByLabel('Words');
  const before = await words.inputValue();
  await words.fill(`${before} · seen before`);
  await page.getByRole('button', { name: 'Before and after' }).click();
  for (const why of ['Most visited', 'Longest name', 'Opening over a picture', 'On a phone'])
    await expect(page.getByRole('heading', { name: why })).toBeVisible();
  const first = page.locator('dm-before-after').first();
  await expect(first.frameLocator('iframe').last().getByText('· seen before')).toHaveCount(1);
  await expect(first.frameLocator('iframe').first().getByText('· seen before')).toHaveCount(0);
  await accessible(page, 'before and after');
  await words.fill(before);
  await expect(page.getByText('Draft · Saved')).toBeVisible();
});

test('a site is copied whole, with parts of its own and pages as drafts, and goes out as one prepared release', async ({
  page,
}) => {
  const stamp = `${Date.now() % 10_000_000}`;
  await signIn(page);
  await page.goto('/portfolios/1/pages?panel=new-site');
  const made = page.getByRole('dialog', { name: 'New site' }).or(page.locator('dm-new-site-sheet'));
  await made.getByLabel('Name', { exact: true }).fill(`Storm two ${stamp}`);
  await made.getByLabel('Host', { exact: true }).fill(`storm-${stamp}.marrowick.example`);
  await made.getByLabel('Begins as').selectOption({ label: 'A copy of Storm desk' });
  await made.getByLabel('Copied: changed on their own').check();
  await accessible(page, 'a copied site');
  await made.getByRole('button', { name: 'Copy the site', exact: true }).click();
  await said(page, 'Its frame, menus and looks are a prepared release');
  await page.getByRole('button', { name: 'See the prepared release' }).click();
  const prepared = page.locator('dm-prepared-sheet');
  const line = prepared.getByRole('button', { name: new RegExp(`Storm two ${stamp}: its frame`) });
  await line.click();
  await expect(prepared.getByText(new RegExp(`· Storm two ${stamp}`)).first()).toBeVisible();
  await prepared.getByRole('button', { name: /^Release all of it as prepared/ }).click();
  await expect(line).toBeHidden();
  await page.goto('/portfolios/1/stock/frames');
  await expect(page.getByRole('button', { name: new RegExp(`· Storm two ${stamp}`) }).first()).toBeVisible();
});
