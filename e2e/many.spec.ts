import { readFile } from 'node:fs/promises';
import { Steps } from './steps.js';
import { expect, test, type Page } from './test.js';
import { accessible, openSheet, PASSWORD, PEOPLE, said, signIn, visit } from './world.js';

const stamp = Date.now().toString(36);
const sheet = (page: Page, name: string | RegExp) => page.getByRole('dialog', { name });
const press = (page: Page, name: RegExp) => page.getByRole('dialog').getByRole('button', { name }).click();
const find = async (page: Page, text: string) => {
  await page.getByRole('searchbox').fill(text);
  await expect(page.locator('.chips')).toContainText(`“${text}”`);
};
test('everything at once: finds with a typing error, filters with counts, groups, named views, all in the address', async ({
  page,
}) => {
  await signIn(page);
  await find(page, 'midwintre');
  await expect(page.locator('.ag-row').first()).toContainText('Midwinter crossing');
  await page.getByRole('searchbox').fill('');
  await page.getByRole('button', { name: /^Live \d/ }).click();
  await page.getByRole('button', { name: 'Label', exact: true }).click();
  await page.getByRole('button', { name: /^jobs \d/ }).click();
  await expect(page).toHaveURL(/state=live/);
  await expect(page).toHaveURL(/label=jobs/);
  const count = Number((await page.getByRole('button', { name: /^Live \d/ }).innerText()).replace(/\D/g, ''));
  await expect(page.locator('.ag-row')).toHaveCount(count);
  await page.getByRole('button', { name: /^View/ }).click();
  await page.getByLabel('Name for this view').fill(`Jobs ${stamp}`);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: /View: Jobs/ })).toBeVisible();
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByText('This view as CSV').click()]);
  const lines = (await readFile(await csv.path(), 'utf8')).trim().split('\r\n');
  expect(lines).toHaveLength(count + 1);
  await page.goto('/');
  await page.getByRole('button', { name: /^View/ }).click();
  await page.getByRole('button', { name: new RegExp(`^Jobs ${stamp}`) }).click();
  await expect(page).toHaveURL(/label=jobs/);
  await accessible(page);
});

test('any moment: the whole application as of a moment, the page as it was served, and what is different', async ({
  page,
}) => {
  await signIn(page);
  const at = new Date(Date.now() - 20 * 86_400_000).toISOString();
  await page.goto(`/portfolios/1/pages?at=${encodeURIComponent(at)}&find=timetable`);
  await expect(page.getByRole('heading', { name: /Seen as of/ })).toBeVisible();
  await page.locator('.ag-row').filter({ hasText: 'Winter timetable' }).first().click();
  const side = page.getByRole('complementary', { name: 'Winter timetable' });
  await expect(side.getByRole('button', { name: 'Edit' })).toHaveCount(0);
  await side.getByRole('button', { name: /See what visitors got then/ }).click();
  const shown = sheet(page, /Winter timetable as of/);
  await expect(shown.locator('iframe').contentFrame().getByRole('heading', { level: 1 })).toHaveText(
    'Winter timetable',
  );
  await shown.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Compare with now' }).click();
  await expect(page).toHaveURL(/panel=difference/);
  await accessible(page);
});

test('many at once: says who can’t and why, lets them out, is one release, and is undone whole', async ({ page }) => {
  await signIn(page);
  await page.goto('/portfolios/1/pages?find=winter+concert&sort=name:asc');
  // By name: what the server finds in texts joins a moment later and moves rows down.
  for (const who of ['Aud Stille', 'Copper Nails', 'Elin Marsh', 'Glass Harbour'])
    await page.getByRole('checkbox', { name: `Choose ${who}, winter concert` }).click();
  await page.getByRole('button', { name: 'Shift dates' }).click();
  const many = sheet(page, /Shift the dates of 4 pages/);
  await expect(many.getByRole('status')).toContainText('changes for visitors');
  await accessible(page);
  await expect(many).toContainText(/\d can’t, because:/);
  await expect(many).toContainText('Nothing is planned, so there is nothing to shift.');
  await expect(many.getByRole('button', { name: /^Shift 4 pages/ })).toBeDisabled();
  await many.getByRole('button', { name: /^Leave (it|these \d) out/ }).click();
  await press(page, /^Shift \d pages? by 7 days later/);
  await said(page, /pages? (is|are) shifted by 7 days later/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await said(page, 'Undone');
  await page.getByRole('button', { name: 'Release', exact: true }).click();
  const release = sheet(page, /Release 4 pages/);
  await expect(release.getByText(/planned for later go/)).toBeVisible();
  await expect(release.getByRole('button', { name: /Put 4 pages live now/ })).toBeDisabled();
  await release.getByRole('button', { name: /Leave those? .*out/ }).click();
  await release.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Campaign, owner, labels' }).click();
  await page.getByLabel('Labels to add').fill(`stage-${stamp}`);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await press(page, /^Change 4 pages/);
  await said(page, 'Changed 4 pages');
  await find(page, `stage-${stamp}`);
  await expect(page.locator('.ag-row')).toHaveCount(4);
});

test('a copy points to copies, a prepared release is drawn and pressed, a campaign runs again', async ({ page }) => {
  await signIn(page);
  const steps = new Steps(page);
  await steps.press(page.getByRole('navigation', { name: 'Scope' }).getByRole('button', { name: /^Midwinter 2026/ }));
  await steps.press(page.getByRole('button', { name: 'Campaign…', exact: true }));
  await expect(sheet(page, 'Midwinter 2026')).toContainText('5 pages over time');
  await accessible(page);
  await steps.press(page.getByRole('dialog').getByRole('button', { name: /Run it again/ }));
  const again = sheet(page, /Run Midwinter 2026 again/);
  await steps.type(again.getByLabel('Called'), `Midwinter ${stamp}`);
  // Copies of the same name would be taken for the pages themselves by the walks that follow.
  await steps.type(again.getByLabel('Names'), `{name} ${stamp}`);
  await steps.type(again.getByLabel('Paths'), `{path}-${stamp}`);
  await expect(again.getByText(`marrowick.example/midwinter-${stamp}`)).toBeVisible();
  await expect(again).toContainText('Everything moves by 364 days');
  await accessible(page);
  await steps.press(again.getByRole('button', { name: /with 5 drafts/ }));
  await said(page, '5 drafts and a prepared release');
  steps.atMost(8);
  await page.getByRole('button', { name: /Prepared releases/ }).click();
  const prepared = sheet(page, 'Prepared releases');
  await prepared.getByRole('button', { name: new RegExp(`Midwinter ${stamp}`) }).click();
  await expect(prepared.getByText(/midwinter-/).first()).toBeVisible();
  await accessible(page);
  await prepared.getByRole('button', { name: 'Drop it' }).click();
  await said(page, 'dropped');
});

test('the bin: off now, kept whole, restored, deleted for ever only by name', async ({ page }) => {
  await signIn(page);
  await openSheet(page, 'Christmas smoke');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: /Put in the bin/ }).click();
  await expect(sheet(page, /Put Christmas smoke in the bin/)).toContainText('not found (404)');
  await press(page, /Put Christmas smoke in the bin now/);
  await said(page, 'Christmas smoke put in the bin');
  await expect.poll(async () => (await visit('kelpandsmoke.example', '/christmas')).status).toBe(404);
  await page.goto('/portfolios/1/pages?scope=bin');
  await page.locator('.ag-row').filter({ hasText: 'Christmas smoke' }).click();
  await accessible(page);
  await page.getByRole('button', { name: 'Delete for ever…' }).click();
  await expect(page.getByRole('dialog').getByRole('button', { name: /^Delete Christmas smoke/ })).toBeDisabled();
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Restore…' }).click();
  await press(page, /^Restore Christmas smoke, as it was planned/);
  await said(page, 'Christmas smoke restored');
  await expect.poll(async () => (await visit('kelpandsmoke.example', '/christmas')).status).toBe(200);
});

test('tasks reach a person by mail; two browsers see each other’s changes by themselves', async ({ page, browser }) => {
  await signIn(page);
  const other = await (await browser.newContext()).newPage();
  await signIn(other, PEOPLE.author);
  await openSheet(page, 'Harbour lights weekend');
  const steps = new Steps(page);
  await steps.press(page.getByRole('button', { name: 'Add a task' }));
  await steps.type(page.getByRole('textbox', { name: 'To do', exact: true }), `Mend it ${stamp}`);
  await steps.choose(page.getByLabel('Who does it'), 'Maren Holt');
  await steps.press(page.getByRole('button', { name: 'Add it' }));
  steps.atMost(5);
  await expect(other.getByRole('button', { name: /^To do 2/ })).toBeVisible();
  await other.getByRole('button', { name: /^To do/ }).click();
  await expect(sheet(other, 'To do')).toContainText(`Mend it ${stamp}`);
  const standins = process.env['DOMATIUM_STANDINS_PORT'] ?? '4690';
  await expect
    .poll(async () =>
      (await page.request.get(`http://127.0.0.1:${standins}/mails`, { headers: { Host: 'mail.localhost' } })).text(),
    )
    .toContain(`To do: Mend it ${stamp}`);
  await other.getByRole('checkbox', { name: `Mend it ${stamp}` }).check();
  await expect(page.getByRole('complementary').getByText(`Mend it ${stamp}`)).toHaveCount(0);
  await other.context().close();
});

test('pages come in from a CSV file: columns guessed, each row previewed, only what is confirmed applied', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/portfolios/1/pages?panel=import');
  const csv = `Name;Site;Slug;Tags\nBrought ${stamp};Ferries;/in-${stamp};brought\n;Nowhere;/x;\nTwice;Ferries;/in-${stamp};\n`;
  const buffer = Buffer.from(`\uFEFF${csv}`, 'utf16le');
  await page.locator('input[type=file]').setInputFiles({ name: 'pages.csv', mimeType: 'text/csv', buffer });
  const bring = sheet(page, /Import pages/);
  await expect(bring.getByRole('status')).toHaveText(/1 new · 0 change · 0 are as they are · 2 wrong/);
  await expect(bring.getByLabel('What Slug is')).toHaveValue('path');
  await expect(bring).toContainText('No site is called Nowhere.');
  await accessible(page);
  await bring.getByRole('button', { name: 'Make 1 page' }).click();
  await said(page, '1 page made');
  await find(page, `Brought ${stamp}`);
  await expect(page.locator('.ag-row').getByText(`Brought ${stamp}`, { exact: true })).toBeVisible();
});

test('fast hands: Ctrl+K goes anywhere, arrows step through the rows, an address as QR code', async ({ page }) => {
  await signIn(page);
  await page.keyboard.press('Control+k');
  const goTo = sheet(page, 'Go to anything');
  await goTo.getByRole('combobox').fill('harbour lights');
  await expect(goTo.getByRole('option', { name: /Harbour lights weekend/ }).first()).toBeVisible();
  await accessible(page);
  await page.keyboard.press('Escape');
  await find(page, 'concert');
  // Pages that are found by their text alone stand behind the others: then the list is whole.
  await expect(
    page
      .locator('.ag-row')
      .filter({ has: page.getByText('Tide Hall', { exact: true }) })
      .first(),
  ).toBeVisible();
  await page.locator('.ag-row').first().click();
  const first = await page.getByRole('complementary').getByRole('heading', { level: 2 }).innerText();
  await page.getByRole('complementary').getByRole('heading', { level: 2 }).click();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('complementary').getByRole('heading', { level: 2 })).not.toHaveText(first);
  await page.goBack();
  await expect(page.getByRole('complementary').getByRole('heading', { level: 2 })).toHaveText(first);
  await page.getByRole('button', { name: 'QR' }).click();
  await expect(page.getByRole('img', { name: /QR code of/ })).toBeVisible();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByText('As SVG').click()]);
  expect(await readFile(await file.path(), 'utf8')).toContain('<svg');
});

test('people: an invitation joins once, a role holds at once, a removed person is out', async ({ page, browser }) => {
  await signIn(page);
  await page.goto('/portfolios/1/pages?panel=people');
  const people = sheet(page, 'People');
  await people.getByLabel('E-mail address').fill(`guest-${stamp}@marrowick.example`);
  await people.getByLabel('As', { exact: true }).selectOption('reader');
  await people.getByRole('button', { name: 'Invite' }).click();
  const address = await people.locator('.link .mono').innerText();
  await accessible(page);
  const guest = await (await browser.newContext()).newPage();
  await guest.goto(address);
  await expect(guest.getByRole('heading', { name: 'Join Marrowick Coast' })).toBeVisible();
  await accessible(guest);
  await guest.getByLabel('Your name').fill(`Guest ${stamp}`);
  await guest.getByLabel('E-mail address').fill(`guest-${stamp}@marrowick.example`);
  await guest.getByLabel('Password').fill(PASSWORD);
  await guest.getByRole('button', { name: 'Join', exact: true }).click();
  await expect(guest.locator('.ag-row').first()).toBeVisible();
  await guest.goto(address);
  await expect(guest.getByRole('alert')).toContainText('already used');
  await expect(people).toContainText(`Guest ${stamp}`);
  const row = people.getByRole('row').filter({ hasText: `Guest ${stamp}` });
  await row.getByRole('button', { name: 'Remove' }).click();
  await row.getByRole('button', { name: 'Remove, end all sessions' }).click();
  await expect(people).not.toContainText(`Guest ${stamp}`);
  await guest.goto('/');
  await expect(guest.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await guest.context().close();
});
