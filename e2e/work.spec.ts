import { readFile } from 'node:fs/promises';
import { button, changePath, inMore, livePages, Steps } from './steps.js';
import { expect, test } from './test.js';
import { said, signIn, takeFirstContent, visitUntil, wallOf } from './world.js';

/** Told apart from those of an earlier walk on the same demo. */
const stamp = Date.now().toString(36);
const END = `Job of an end ${stamp}`;
const [ONE, TWO] = [`Job of swap one ${stamp}`, `Job of swap two ${stamp}`];
const pathOf = (name: string) => `/${name.toLowerCase().replaceAll(' ', '-')}`;

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test('sees another moment by typing it', async ({ page }) => {
  const steps = new Steps(page);
  await steps.press(page.getByLabel('The moment that is shown'));
  await page.keyboard.type('24 dec 18:00');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Seen as of Thu 24 Dec' })).toBeVisible();
  steps.atMost(6);
});

test('changes an end and what follows without releasing anew, on another clock', async ({ page }) => {
  await livePages(page, END);
  await page.reload();
  const steps = new Steps(page);
  await steps.find(END);
  await inMore(steps, page, /Change the period/);
  await steps.press(button(page, 'With an end'));
  const [day, time] = [
    page.getByRole('textbox', { name: 'Until, day' }),
    page.getByRole('textbox', { name: 'Until, time' }),
  ];
  await steps.choose(page.getByLabel('Times in'), 'Asia/Tokyo');
  await steps.type(day, wallOf(Date.now() + 5 * 86_400_000).date);
  await steps.type(time, '9:30');
  await steps.press(button(page, 'Change the period'));
  await said(page, `period of ${END}`);
  steps.atMost(9);
  await expect(page.getByRole('complementary')).toContainText('09:30 in Tokyo');
});

test('swaps two pages, with no redirect in between', async ({ page }) => {
  await livePages(page, ONE, TWO);
  await page.reload();
  const steps = new Steps(page);
  await steps.find(ONE);
  await changePath(steps, page);
  await steps.type(page.locator('#path'), pathOf(TWO));
  await steps.press(button(page, `Swap addresses with ${TWO}`));
  await steps.press(button(page, /^Move to/));
  await said(page, ONE);
  // It took fifteen, in three releases.
  steps.atMost(7);
  const name = (path: string) => visitUntil('marrowick.example', path, ({ status }) => status === 200);
  await name(pathOf(ONE));
  await name(pathOf(TWO));
});

test('brings a list out and in again: nothing changes', async ({ page }) => {
  await page.goto('/portfolios/1/pages?scope=site:2');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  const steps = new Steps(page);
  await steps.press(button(page, /^View/));
  const download = page.waitForEvent('download');
  await steps.press(page.getByRole('link', { name: 'This view as CSV' }));
  const file = await (await download).path();
  expect((await readFile(file, 'utf8')).charCodeAt(0)).toBe(0xfeff);
  await steps.press(button(page, /^View/));
  await steps.press(page.getByRole('button', { name: /Import pages from a CSV/ }));
  await page.locator('input[type=file]').setInputFiles(file);
  await expect(page.getByText(/0 new · 0 change · \d+ are as they are · 0 wrong/)).toBeVisible();
  steps.atMost(5);
});

test('keeps a view with its columns, for whoever opens it', async ({ page }) => {
  const steps = new Steps(page);
  await steps.press(button(page, /^Live/));
  await steps.press(button(page, 'Columns'));
  await steps.press(page.getByLabel('Owner', { exact: true }));
  await page.keyboard.press('Escape');
  await steps.press(button(page, /^View/));
  await steps.type(page.getByLabel('Name for this view'), 'Live with owners');
  await steps.press(button(page, 'Keep'));
  steps.atMost(11);
  const link = page.url();
  await page.evaluate(() => localStorage.clear());
  await page.goto('/portfolios/1/pages');
  await expect(page.getByRole('columnheader', { name: 'Owner' })).toBeHidden();
  await page.goto(link);
  await expect(page.getByRole('columnheader', { name: 'Owner' })).toBeVisible();
});

test('gives many pages an owner, and takes it back from the record', async ({ page }) => {
  const [one] = await livePages(page, `Job of owner one ${stamp}`, `Job of owner two ${stamp}`);
  await page.goto(`/portfolios/1/pages?find=owner%20${stamp}`);
  await expect(page.locator('.ag-center-cols-container .ag-row, .ag-row')).toHaveCount(2);
  const ownerOf = () =>
    page.evaluate(
      async (id) => ((await (await fetch(`/api/portfolios/1/pages/${id}`)).json()) as { owner: string | null }).owner,
      one,
    );
  const before = await ownerOf();
  const steps = new Steps(page);
  await steps.press(page.locator('.ag-header input[type=checkbox]'));
  await steps.press(button(page, 'Campaign, owner, labels'));
  await steps.choose(page.getByLabel('Owner', { exact: true }), 'none');
  await steps.press(page.getByRole('dialog').getByRole('button', { name: /^Change 2 pages/ }));
  await expect.poll(ownerOf).toBeNull();
  steps.atMost(5);
  const back = new Steps(page);
  await back.press(button(page, 'Record'));
  await back.press(
    page
      .getByRole('dialog')
      .getByRole('button', { name: /^Undo: Owner to nobody/ })
      .first(),
  );
  await expect.poll(ownerOf).toBe(before);
  back.atMost(2);
});

test('copies a page', async ({ page }) => {
  const name = `Job of a copy ${stamp}`;
  await livePages(page, name);
  await page.reload();
  const copy = new Steps(page);
  await copy.open(name);
  await inMore(copy, page, /^Copy…/);
  await copy.type(page.getByLabel('Names'), `Copied by a job ${stamp}`);
  await copy.press(page.getByRole('dialog').getByRole('button', { name: /^Copy Job of a copy/ }));
  await said(page, 'Copied 1 page');
  copy.atMost(7);
});

test('lists what is live, coming, and without an owner', async ({ page }) => {
  const steps = new Steps(page);
  const rows = page.locator('.ag-row');
  for (const state of [/^Live \d/, /^Coming \d/]) {
    await steps.press(button(page, state));
    await expect(rows.first()).toBeVisible();
    await page.goto('/portfolios/1/pages');
  }
  steps.atMost(3);
  const filters = new Steps(page);
  await filters.press(button(page, 'Owner'));
  await filters.press(page.locator('.choice-menu').getByRole('button', { name: /^none/ }));
  filters.atMost(2);
});

test('finds by the middle of a word', async ({ page }) => {
  const steps = new Steps(page);
  await steps.type(page.getByRole('searchbox'), 'dwint');
  await expect(page.locator('.ag-row').first()).toContainText(/midwinter/i);
  steps.atMost(1);
});

test('makes a page, plans its period, and a redirect for afterwards', async ({ page }) => {
  const name = `Job of a period ${stamp}`;
  const steps = new Steps(page);
  await steps.press(button(page, 'New page'));
  await steps.type(page.getByLabel('Internal name'), name);
  await steps.press(page.getByRole('radio', { name: /^Notice/ }));
  await steps.press(button(page, 'Create and edit'));
  await expect(page.locator('dm-outline .page')).toBeVisible();
  await takeFirstContent(page);
  await steps.press(button(page, 'Release…'));
  await steps.press(button(page, 'Another time'));
  await steps.type(page.getByLabel('From, day'), wallOf(Date.now() + 2 * 86_400_000).date);
  await steps.type(page.getByLabel('From, time'), '9');
  await steps.press(button(page, 'With an end'));
  await steps.type(page.getByLabel('Until, day'), wallOf(Date.now() + 9 * 86_400_000).date);
  await steps.choose(page.getByLabel('Afterwards', { exact: true }), 'page');
  await steps.seek(page.getByRole('combobox', { name: 'Page it redirects to' }), 'winter timetable');
  await steps.press(page.getByRole('option', { name: /Winter timetable/ }));
  await steps.press(button(page, /^Put revision 1 live on/));
  await said(page, 'goes live on');
  steps.atMost(14);
});

test('takes a page off now, and back', async ({ page }) => {
  const name = `Job of off ${stamp}`;
  await livePages(page, name);
  await page.reload();
  const steps = new Steps(page);
  await steps.open(name);
  await steps.press(button(page, 'Take off…'));
  await steps.press(button(page, /^Take .* off now/));
  steps.atMost(3);
  await visitUntil('marrowick.example', pathOf(name), ({ status }) => status === 404);
  const undo = new Steps(page);
  await undo.press(page.getByRole('status').getByRole('button', { name: 'Undo' }).last());
  undo.atMost(1);
  await visitUntil('marrowick.example', pathOf(name), ({ status }) => status === 200);
});

test('shares a private link; a reviewer remarks; the remark is answered', async ({ page, browser }) => {
  const name = `Job of a link ${stamp}`;
  await livePages(page, name);
  await page.reload();
  const steps = new Steps(page);
  await steps.open(name);
  await inMore(steps, page, 'Share by a private link…');
  const share = page.getByRole('dialog', { name: 'Private links' });
  await steps.type(share.getByLabel('Who or what it is for'), 'The harbour office');
  await steps.press(share.getByRole('button', { name: 'Create the link' }));
  steps.atMost(5);
  const guest = await (await browser.newContext()).newPage();
  await guest.goto(await share.locator('.made .mono').innerText());
  const remark = new Steps(guest);
  await remark.press(guest.frameLocator('iframe').locator('main > section').first());
  await remark.type(guest.getByLabel('Your comment'), `Say when ${stamp}`);
  await remark.type(guest.getByLabel('Your name'), 'Ana');
  await remark.press(guest.getByRole('button', { name: 'Please change' }));
  await expect(guest.getByText('Comment sent to the person who shared this link.')).toBeVisible();
  remark.atMost(4);
  await guest.context().close();
  await share.getByRole('button', { name: 'Close' }).click();
  const answer = new Steps(page);
  await answer.press(page.getByRole('complementary').getByRole('button', { name: 'Answer' }).first());
  await answer.type(page.getByLabel('Your answer'), 'At nine.');
  await answer.press(button(page, 'Answer'));
  answer.atMost(3);
  await expect(page.getByText('At nine.').first()).toBeVisible();
});

test('moves a page to another path, and to another site', async ({ page }) => {
  const name = `Job of a move ${stamp}`;
  await livePages(page, name);
  await page.reload();
  const path = new Steps(page);
  await path.open(name);
  await changePath(path, page);
  await path.type(page.locator('#path'), `${pathOf(name)}-moved`);
  await path.press(button(page, /^Move to .* now/));
  await said(page, 'moves to');
  path.atMost(4);
  const site = new Steps(page);
  await site.press(page.getByRole('checkbox', { name: `Choose ${name}` }));
  await site.press(button(page, 'Move'));
  await site.choose(page.getByLabel('To', { exact: true }), 'Tide Hall · tidehall.example');
  await site.press(page.getByRole('dialog').getByRole('button', { name: /^Move/ }));
  site.atMost(4);
  await visitUntil('tidehall.example', `${pathOf(name)}-moved`, ({ status }) => status === 200);
  const old = await visitUntil('marrowick.example', pathOf(name), ({ status }) => status === 301);
  // The chain is flattened: one hop from the first address.
  expect(old.headers.location).toContain('tidehall.example');
});

test('puts twenty pages in the bin, restores five, deletes three for ever', async ({ page }) => {
  const names = Array.from({ length: 20 }, (_, at) => `Job of bins ${at + 10} ${stamp}`);
  await livePages(page, ...names);
  await page.goto(`/portfolios/1/pages?find=bins%20${stamp}`);
  await expect(button(page, 'Live 20')).toBeVisible();
  const bin = new Steps(page);
  await bin.press(page.locator('.ag-header input[type=checkbox]'));
  await bin.press(button(page, 'Bin'));
  await bin.press(page.getByRole('dialog').getByRole('button', { name: /^Put 20 pages in the bin/ }));
  await expect(page.getByRole('dialog')).toBeHidden();
  bin.atMost(4);
  await page.goto(`/portfolios/1/pages?scope=bin&find=bins%20${stamp}`);
  await expect(page.locator('.ag-row').nth(5)).toBeVisible();
  const choose = async (steps: Steps, from: number, count: number) => {
    for (const name of names.slice(from, from + count))
      await steps.press(page.getByRole('checkbox', { name: `Choose ${name}` }));
  };
  const restore = new Steps(page);
  await choose(restore, 0, 5);
  await restore.press(button(page, 'Restore'));
  await restore.press(page.getByRole('dialog').getByRole('button', { name: /^Restore 5 pages/ }));
  await expect(page.getByRole('dialog')).toBeHidden();
  restore.atMost(7);
  // What was restored leaves the list, and the choice with it.
  for (const name of names.slice(0, 5))
    await expect(page.getByRole('checkbox', { name: `Choose ${name}`, exact: true })).toHaveCount(0);
  const away = new Steps(page);
  // The first and the last of those that stand together.
  const chosen = page.getByRole('checkbox', { name: /^Choose Job of bins/ });
  await away.press(chosen.nth(0));
  await away.press(chosen.nth(2), ['Shift']);
  await away.press(button(page, 'Delete for ever'));
  await away.type(page.getByRole('dialog').getByRole('textbox'), '3');
  await away.press(page.getByRole('dialog').getByRole('button', { name: /^Delete 3 pages/ }));
  away.atMost(5);
  await expect(chosen).toHaveCount(12);
});

test('makes another page the home page from a day on', async ({ page }) => {
  const name = `Job of a home ${stamp}`;
  await livePages(page, name);
  await page.reload();
  const steps = new Steps(page);
  await steps.open(name);
  await changePath(steps, page);
  await steps.type(page.locator('#path'), '/');
  await steps.press(button(page, /^Swap addresses with/));
  await steps.press(button(page, /^Tomorrow/));
  await steps.press(button(page, /^Move to/));
  await said(page, name);
  // It took fourteen, in two releases.
  steps.atMost(14);
  await button(page, 'Undo').last().click();
  await said(page, 'Undone');
});

test('subscribes to the calendar of a view, and takes it out as JSON', async ({ page }) => {
  await page.goto('/portfolios/1/pages?scope=site:2');
  await expect(page.locator('.ag-row').first()).toBeVisible();
  const steps = new Steps(page);
  await steps.press(button(page, /^View/));
  const download = page.waitForEvent('download');
  await steps.press(page.getByRole('link', { name: /JSON/ }));
  expect(JSON.parse(await readFile(await (await download).path(), 'utf8'))).toBeTruthy();
  steps.atMost(2);
});
