import { expect, test, type Page } from './test.js';
import {
  around,
  makePage,
  takeFirstContent,
  minuteAhead,
  openSheet,
  published,
  said,
  signIn,
  visit,
  visitUntil,
  wallOf,
  type Got,
} from './world.js';

const stamp = Date.now().toString(36);
const HOST = 'marrowick.example';
const name = `Lamp night ${stamp}`;
const path = `/lamp-night-${stamp}`;

const field = (page: Page, label: string) => page.locator('.margin').getByLabel(label, { exact: true });
const press = (page: Page, label: RegExp) => page.getByRole('dialog').getByRole('button', { name: label }).click();

test.describe.configure({ mode: 'serial' });

test('signs in, and refuses a wrong password in words', async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('E-mail address').fill('nobody');
  await page.getByLabel('E-mail address').blur();
  await expect(page.getByText('That isn’t an e-mail address.')).toBeVisible();
  await page.getByLabel('E-mail address').fill(`nobody-${stamp}@marrowick.example`);
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('don’t belong together')).toBeVisible();
});

test('shows the register: scope filters, columns sort, find filters as one types, the rail has its marks', async ({
  page,
}) => {
  await signIn(page);
  const count = async () => Number((await page.locator('.head .quiet').innerText()).split(' ')[0]);
  await expect.poll(count).toBeGreaterThan(200);
  const all = await count();
  await page
    .getByRole('navigation', { name: 'Scope' })
    .getByRole('button', { name: /^Crew \d/ })
    .click();
  await expect.poll(count).toBeLessThan(all);
  await expect(page.locator('.ag-row').first().locator('[col-id="address"]')).toContainText('crew.marrowick.example');
  await page.getByRole('button', { name: /Whole portfolio/ }).click();
  await page.getByRole('columnheader', { name: 'Visits' }).click();
  await page.getByRole('columnheader', { name: 'Visits' }).click();
  const visits = async () =>
    (await page.locator('.ag-row .ag-cell[col-id="visits"]').allInnerTexts())
      .slice(0, 5)
      .map((text) => Number(text.replace(/\D/g, '') || 0));
  await expect
    .poll(async () => {
      const some = await visits();
      return some.length === 5 && some.every((n, i) => i === 0 || n <= (some[i - 1] ?? 0)) && (some[0] ?? 0) > 1000;
    })
    .toBe(true);
  await page.getByRole('searchbox').pressSequentially('hestvaer');
  await expect(page.locator('.ag-row').first()).toContainText('Hestvær');
  await expect.poll(() => page.locator('.axis .happening').count()).toBeGreaterThan(10);
  await expect(page).toHaveURL(/find=hestvaer/);
  await page.reload();
  await expect(page.getByRole('searchbox')).toHaveValue('hestvaer');
});

test('a press that is under way when the list is drawn anew still chooses its page', async ({ page }) => {
  await signIn(page);
  const boxes = page.locator('.ag-row').getByRole('checkbox');
  await expect(boxes.nth(1)).toBeVisible();
  await boxes.nth(1).hover();
  await page.mouse.down();
  // What is chosen is marked in the list.
  await boxes.nth(0).dispatchEvent('click');
  await expect(page.getByText('1 chosen')).toBeVisible();
  await page.mouse.up();
  await expect(page.getByText('2 chosen')).toBeVisible();
  await expect(page.getByRole('complementary')).toBeHidden();
  // A row that is cut at the foot of the list: its box is in sight, and the row moves up as it is pressed.
  const cut = await page.evaluate(() => {
    const foot = document.querySelector('dm-bulk-bar')?.getBoundingClientRect().top ?? 0;
    const row = [...document.querySelectorAll<HTMLElement>('.ag-row')].find(
      (one) => one.getBoundingClientRect().top > foot + 40,
    );
    const box = () => (row?.querySelector('input') as HTMLElement).getBoundingClientRect();
    let list = row?.parentElement ?? null;
    while (list && getComputedStyle(list).overflowY !== 'auto') list = list.parentElement;
    if (list) list.scrollTop += box().bottom - foot + 1;
    return { x: box().x + box().width / 2, y: box().y + box().height / 2, foot };
  });
  expect(Math.abs(cut.foot - cut.y)).toBeLessThan(12);
  await page.mouse.click(cut.x, cut.y);
  await expect(page.getByText('3 chosen')).toBeVisible();
});

test('opens a page’s sheet: what visitors get over time, address, visits compared, links both ways', async ({
  page,
}) => {
  await signIn(page);
  await openSheet(page, 'Midwinter crossing');
  const sheet = page.getByRole('complementary', { name: 'Midwinter crossing' });
  await expect(sheet).toContainText('this page, revision 1');
  await expect(sheet).toContainText('scheduled');
  await expect(sheet).toContainText('a redirect to marrowick.example/winter, 302');
  await expect(sheet).toContainText(/visits.*in the 30 days before/);
  await expect(sheet.getByRole('link', { name: 'open' }).first()).toHaveAttribute(
    'href',
    published(HOST, '/midwinter'),
  );
  await sheet.getByRole('button', { name: 'Winter timetable' }).click();
  const winter = page.getByRole('complementary', { name: 'Winter timetable' });
  await expect(winter.getByRole('button', { name: 'Midwinter crossing' })).toBeVisible();
});

test('makes a page: the slug follows the name, the address is checked over time', async ({ page }) => {
  await signIn(page);
  await page.getByRole('button', { name: 'New page' }).click();
  await page.getByLabel('Internal name').fill('Fjord & Øy: brød!');
  await expect(page.getByLabel('Address', { exact: true })).toHaveValue('fjord-oy-brod');
  await page.getByLabel('Site', { exact: true }).selectOption({ label: 'Ferries · marrowick.example' });
  await page.getByLabel('Address', { exact: true }).fill('harbour-lights');
  await expect(page.getByText(/Free today; from .* it is Harbour lights weekend/)).toBeVisible();
  await page.getByLabel('Address', { exact: true }).fill('winter');
  await expect(page.getByText(/Today it is Winter timetable/)).toBeVisible();
  await page.getByLabel('Address', { exact: true }).fill('-/x');
  await expect(page.getByText('is kept for the installation')).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await makePage(page, name, { start: 'Comparison', site: 'Ferries · marrowick.example' });
  await expect(page.locator('header .address')).toHaveText(HOST + path);
  expect((await visit(HOST, path)).status).toBe(404);
});

test('edits it: blocks, fields, undo and redo, autosave; the canvas is the page', async ({ page }) => {
  await signIn(page);
  await openSheet(page, name);
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  const canvas = page.frameLocator('dm-canvas iframe');
  await field(page, 'Heading').fill('Lamps on the water');
  await expect(canvas.locator('h1')).toHaveText('Lamps on the water');
  await field(page, 'Text').fill('One <b>evening</b>, and every lamp is lit.');
  await expect(canvas.locator('.lead')).toHaveText('One <b>evening</b>, and every lamp is lit.');
  await field(page, 'Button').fill('See the timetable');
  await page.getByRole('combobox', { name: 'Button leads to' }).fill('winter time');
  await page.getByRole('option', { name: /Winter timetable/ }).click();
  await expect(canvas.locator('.opening a.button')).toHaveAttribute('href', '/winter');
  await page.getByRole('button', { name: 'Choose from Pictures' }).first().click();
  await page.getByRole('option').first().click();
  await expect(canvas.locator('.opening img')).toBeVisible();
  for (const type of ['Text', 'Picture', 'Quote']) {
    await page.getByRole('button', { name: 'Insert…' }).click();
    await page.getByRole('button', { name: type, exact: true }).click();
  }
  await page.locator('.margin').getByLabel('What was said').fill('We saw them from the sea.');
  await page.locator('dm-outline .entry', { hasText: 'Text' }).last().click();
  const text = page.locator('dm-rich-text-field .ProseMirror');
  await text.click();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Bring something that shines');
  await page.keyboard.press('Control+A');
  await page.getByRole('button', { name: 'Bold' }).click();
  await expect(canvas.locator('.prose strong')).toHaveText('Bring something that shines');
  // As everywhere where one writes; what opens has the focus.
  await page.keyboard.press('Control+K');
  await expect(page.getByRole('combobox', { name: 'Link leads to' })).toBeFocused();
  await page.getByRole('combobox', { name: 'Link leads to' }).fill('gift vou');
  await page.getByRole('option', { name: /Gift vouchers/ }).click();
  await expect(canvas.locator('.prose a')).toHaveAttribute('href', '/gift');
  const outline = page.locator('dm-outline ol .entry strong');
  const before = await outline.allInnerTexts();
  await page.locator('dm-outline .entry', { hasText: 'Quote' }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(() => outline.allInnerTexts()).not.toEqual(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => outline.allInnerTexts()).toEqual(before);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(() => outline.allInnerTexts()).not.toEqual(before);
  await page.locator('.card-head').getByRole('button', { name: 'copy' }).click();
  await expect(outline).toHaveCount(before.length + 1);
  await page.locator('.card-head').getByRole('button', { name: 'remove' }).click();
  await expect(outline).toHaveCount(before.length);
  await expect(page.getByText(/Revision 1 · Saved/)).toBeVisible();
  await page.reload();
  await expect(page.frameLocator('dm-canvas iframe').locator('h1')).toHaveText('Lamps on the water');
});

test('blocks a release for what is wrong, then releases now; the visitor gets what the canvas showed', async ({
  page,
}) => {
  await signIn(page);
  await openSheet(page, name);
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await expect(page.locator('dm-outline .page')).toBeVisible();
  await takeFirstContent(page);
  const canvas = page.frameLocator('dm-canvas iframe');
  await page.locator('dm-outline .entry', { hasText: 'Opening' }).click();
  await page.locator('.margin').getByLabel('Describe it for people who can’t see it').first().fill('');
  await expect(page.getByText(/Saved/)).toBeVisible();
  await page.getByRole('button', { name: 'Release…' }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('Picture has no description.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Put revision 1 live now' })).toBeDisabled();
  await sheet.getByRole('button', { name: 'Go there' }).first().click();
  await page
    .locator('.margin')
    .getByLabel('Describe it for people who can’t see it')
    .first()
    .fill('Lamps along a quay');
  await expect(page.getByText(/Revision 1 · Saved/)).toBeVisible();
  const shown = await canvas.locator('main').innerText();
  await page.getByRole('button', { name: 'Release…' }).click();
  await expect(page.getByRole('dialog').getByText(`${name}, revision 1`)).toBeVisible();
  await press(page, /Put revision 1 live now/);
  await said(page, 'is on its way to visitors');
  await visitUntil(HOST, path, ({ status }) => status === 200);
  await page.goto(published(HOST, path));
  await expect(page.locator('h1')).toHaveText('Lamps on the water');
  expect(await page.locator('main').innerText()).toBe(shown);
  expect(await page.locator('script:not([type="application/ld+json"])').count()).toBe(0);
});

test('moves it: the old address redirects, links follow without being edited, one browser sees each state', async ({
  page,
  context,
}) => {
  await signIn(page);
  const visitor = await context.newPage();
  await visitor.goto(published(HOST, path));
  await openSheet(page, name);
  await page.getByRole('complementary').getByRole('button', { name: 'change…', exact: true }).click();
  await page.getByLabel('New path').fill(`${path}-2`);
  await expect(page.getByText('Free now and for everything planned.')).toBeVisible();
  await press(page, /^Move to .* now$/);
  await said(page, 'moves to');
  await visitUntil(
    HOST,
    path,
    ({ status, headers }) => status === 301 && headers.location === published(HOST, `${path}-2`),
  );
  await visitor.goto(published(HOST, path));
  expect(visitor.url()).toBe(published(HOST, `${path}-2`));
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'History and undo' }).click();
  await page.getByRole('button', { name: /^Undo: Moved/ }).click();
  await said(page, 'Undone');
  await visitUntil(
    HOST,
    `${path}-2`,
    ({ status, headers }) => status === 301 && headers.location === published(HOST, path),
  );
  await visitor.goto(published(HOST, path));
  expect(visitor.url()).toBe(published(HOST, path));
  await expect(visitor.locator('h1')).toHaveText('Lamps on the water');
  await expect(page.getByRole('dialog')).toContainText('undone');
  await expect(page.getByRole('dialog').locator('li').first()).toContainText('Undid');
});

/** A page without what stands around it: menus follow by themselves. */
const inContent = (body: string) => body.split('<main>')[1]?.split('</main>')[0] ?? '';

test('pages that refer to a moved page lead to the new address without being edited', async ({ page, context }) => {
  await signIn(page);
  await openSheet(page, 'Winter timetable');
  await page.getByRole('complementary').getByRole('button', { name: 'change…', exact: true }).click();
  await page.getByLabel('New path').fill('/winter-sailings');
  await press(page, /^Move to .* now$/);
  await said(page, 'moves to');
  await visitUntil(HOST, '/midwinter', ({ body }) => inContent(body).includes('href="/winter-sailings"'));
  const visitor = await context.newPage();
  const redirects: string[] = [];
  visitor.on('response', (response) => void (response.status() === 301 && redirects.push(response.url())));
  await visitor.goto(published(HOST, '/midwinter'));
  await visitor.locator('main a[href="/winter-sailings"]').first().click();
  await expect(visitor).toHaveURL(published(HOST, '/winter-sailings'));
  await expect(visitor.locator('h1')).toBeVisible();
  expect(redirects).toEqual([]);
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).last().click();
  await visitUntil(HOST, '/midwinter', ({ body }) => inContent(body).includes('href="/winter"'));
});

test('a visitor answers a form without any script, and the list service has it', async ({ page }) => {
  const storm = published('storm.marrowick.example', '/');
  await page.goto(storm);
  const email = `mate-${stamp}@boats.example`;
  await page.getByRole('button', { name: 'Tell me' }).click();
  expect(page.url()).toBe(storm);
  await page.getByLabel('Your e-mail address').fill(email);
  await page.getByRole('button', { name: 'Tell me' }).click();
  await expect(page.getByRole('heading', { name: 'You are on the list' })).toBeVisible();
  await page.goto(new URL('/', page.url()).href);
  await expect(page.getByRole('row').filter({ hasText: email })).toContainText('storm.marrowick.example');
});

/** What visitors get around the instant that is planned here, watched while other walks go on. */
let watched: Promise<{ readonly before: Got; readonly after: Got }> | undefined;
let comesOff = 0;

test('plans the next revision, its end and what comes afterwards', async ({ page }) => {
  await signIn(page);
  await openSheet(page, name);
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await field(page, 'Heading').fill('The second night');
  await expect(page.getByText(/Revision 2 · Saved/)).toBeVisible();
  await page.getByRole('button', { name: 'Release…' }).click();
  await expect(page.getByRole('button', { name: 'Put revision 2 live now' })).toBeEnabled();
  const flip = minuteAhead(25_000);
  const off = (comesOff = flip + 60_000);
  await page.getByRole('button', { name: 'Another time' }).click();
  await page.getByLabel('From, day').fill(wallOf(flip).date);
  await page.getByLabel('From, time').fill(wallOf(flip).time);
  await page.getByRole('button', { name: 'With an end' }).click();
  await page.getByLabel('Until, day').fill(wallOf(off).date);
  await page.getByLabel('Until, time').fill(wallOf(off).time);
  await page.getByLabel('Afterwards', { exact: true }).selectOption('page');
  await page.getByRole('combobox', { name: 'Page it redirects to' }).fill('winter time');
  await page.getByRole('option', { name: /Winter timetable/ }).click();
  await expect(page.getByRole('dialog')).toContainText('a redirect to marrowick.example/winter, 302');
  await press(page, /Put revision 2 live on/);
  await said(page, 'goes live on');
  watched = around(flip, () => visit(HOST, path));
  // Told where it is awaited.
  watched.catch(() => undefined);
});

test('takes a page off now, with an afterwards; nobody reaches it', async ({ page }) => {
  await signIn(page);
  const other = `Pier talk ${stamp}`;
  await makePage(page, other, { start: 'Notice', site: 'Ferries · marrowick.example' });
  await expect(page.getByText(/Saved/)).toBeVisible();
  await page.getByRole('button', { name: 'Release…' }).click();
  await press(page, /Put revision 1 live now/);
  await visitUntil(HOST, `/pier-talk-${stamp}`, ({ status }) => status === 200);
  await page.getByRole('button', { name: 'Take off…' }).click();
  await page.getByLabel('Afterwards', { exact: true }).selectOption('gone');
  await expect(page.getByRole('dialog')).toContainText('gone (410)');
  await press(page, /Take .* off now/);
  await said(page, 'is being taken off');
  await visitUntil(HOST, `/pier-talk-${stamp}`, ({ status }) => status === 410);
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).last().click();
  await visitUntil(HOST, `/pier-talk-${stamp}`, ({ status }) => status === 200);
});

test('keeps text while the server is away and shows both texts of two people', async ({ page, browser }) => {
  await signIn(page);
  await openSheet(page, name);
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await expect(field(page, 'Heading')).toBeVisible();
  await page.route('**/api/**/draft', (route) => route.abort());
  await field(page, 'Heading').fill('Typed without a server');
  await expect(page.getByText('Saved on this device')).toBeVisible();
  await page.reload();
  await page.unroute('**/api/**/draft');
  await page.reload();
  await expect(field(page, 'Heading')).toHaveValue('Typed without a server');
  await expect(page.getByText(/· Saved/)).toBeVisible();
  const second = await (await browser.newContext()).newPage();
  await signIn(second, 'tomas.renn@marrowick.example');
  await second.goto(page.url());
  await expect(field(second, 'Heading')).toHaveValue('Typed without a server');
  // While both are there each follows the other; so the line of one of them is cut.
  await page.route('**/api/**/draft', (route) => route.abort());
  await field(page, 'Heading').fill('What Ingrid wrote');
  await expect(page.getByText('Saved on this device')).toBeVisible();
  await field(second, 'Heading').fill('What Tomas wrote');
  await expect(second.getByText(/· Saved/)).toBeVisible();
  await page.unroute('**/api/**/draft');
  await expect(page.getByText('Changed by Tomas Renn meanwhile')).toBeVisible();
  const heading = page.frameLocator('iframe').locator('h1');
  await expect(page.getByRole('alertdialog')).toContainText('Opening “What Ingrid wrote”: both changed it.');
  await expect(heading).toHaveText('What Ingrid wrote');
  await page.getByRole('button', { name: 'Show theirs' }).click();
  await expect(heading).toHaveText('What Tomas wrote');
  await page.getByRole('button', { name: 'Use theirs' }).click();
  await expect(field(page, 'Heading')).toHaveValue('What Tomas wrote');
});

test('gives each role its controls only', async ({ page }) => {
  await signIn(page, 'joss.arden@marrowick.example');
  await expect(page.getByRole('button', { name: 'New page' })).toHaveCount(0);
  await openSheet(page, 'Gift vouchers');
  await expect(page.getByRole('button', { name: 'Release…' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Edit', exact: true })).toHaveCount(0);
});

test('flips to the next revision on the minute, and has gone to its redirect a minute later', async ({ page }) => {
  const flipped = await watched;
  expect(flipped?.before.body).toContain('Lamps on the water');
  expect(flipped?.after.body).toContain('The second night');
  await signIn(page);
  await openSheet(page, name);
  const then = new URL(page.url());
  then.searchParams.set('at', new Date(comesOff + 60_000).toISOString());
  await page.goto(then.href);
  await expect(page.getByRole('complementary', { name })).toContainText('redirect');
  await expect(page.getByRole('complementary', { name })).toContainText('/winter');
});
