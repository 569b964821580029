import { expect, test, type Page } from './test.js';
import { Steps } from './steps.js';
import { accessible, openSheet, PEOPLE, said, signIn, visit, visitUntil } from './world.js';

const stamp = Date.now().toString(36);
/** Presses Tab until what has the focus is called so. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  const seen: string[] = [];
  for (let n = 0; n < 90; n++) {
    await page.keyboard.press('Tab');
    const words = await page.evaluate(() => {
      const active = document.activeElement;
      const label = active instanceof HTMLInputElement ? active.labels?.[0]?.textContent : null;
      return active?.getAttribute('aria-label') ?? (label ?? active?.textContent ?? '').trim().replace(/\s+/g, ' ');
    });
    if (name.test(words)) return;
    seen.push(words.slice(0, 40));
  }
  throw new Error(`No Tab leads to ${name}; it went over ${seen.join(' | ')}`);
}

test('a private link: what reviewers see and say, and nothing once it is taken back', async ({ page, browser }) => {
  await signIn(page);
  await openSheet(page, 'Spring timetable');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'Share by a private link…' }).click();
  const share = page.getByRole('dialog', { name: 'Private links' });
  await share.getByLabel('Who or what it is for').fill(`The harbour office ${stamp}`);
  await share.getByLabel('Password').fill('lighthouse');
  await accessible(page);
  await share.getByRole('button', { name: 'Create the link' }).click();
  const address = await share.locator('.made .mono').innerText();
  expect(new URL(address).hostname).toBe('private.localhost');

  const guest = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  const opened = await guest.goto(address);
  expect(opened?.headers()['x-robots-tag']).toContain('noindex');
  await guest.getByLabel('Password').fill('wrong-guess');
  await guest.getByRole('button', { name: 'Open' }).click();
  await expect(guest.getByRole('alert')).toHaveText('That isn’t the password for this link.');
  await guest.getByLabel('Password').fill('lighthouse');
  await guest.getByRole('button', { name: 'Open' }).click();
  await expect(guest.getByRole('heading', { name: 'Spring timetable', level: 1 })).toBeVisible();
  await accessible(guest);
  const canvas = guest.frameLocator('iframe');
  await canvas.locator('main > section').first().click();
  await guest.getByLabel('Your comment').fill('<b>Nine</b>, not eight');
  await guest.getByRole('button', { name: 'Please change' }).click();
  await expect(guest.getByText('Enter your name.')).toBeVisible();
  await guest.getByLabel('Your name').fill(`Ana ${stamp}`);
  await guest.getByRole('button', { name: 'Please change' }).click();
  await expect(guest.getByText('Comment sent to the person who shared this link.')).toBeVisible();
  await guest.setViewportSize({ width: 1280, height: 800 });
  await guest.getByRole('button', { name: 'Wide' }).click();
  await guest.getByRole('button', { name: 'It is fine' }).click();
  await expect(guest.getByText('Said: fine.')).toBeVisible();

  await share.getByRole('button', { name: 'Close' }).click();
  const told = page.getByRole('complementary');
  await expect(told.getByText('<b>Nine</b>, not eight').first()).toBeVisible();
  await expect(told.getByText('The draft is unchanged since').first()).toBeVisible();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'Share by a private link…' }).click();
  await share.getByRole('button', { name: `Take it back: The harbour office ${stamp}` }).click();
  await expect(share.getByText(/ended/).first()).toBeVisible();
  await guest.reload();
  await expect(guest.getByRole('alert')).toContainText('It no longer opens anything.');
  await guest.context().close();
});

test('a site that wants an approval: it is prepared, somebody else approves, and then it goes', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page
    .getByRole('navigation', { name: 'Scope' })
    .getByRole('button', { name: /^Crew \d/ })
    .click();
  await page.getByRole('button', { name: /^Live \d/ }).click();
  const live = page.getByRole('button', { name: /^Live \d/ });
  await expect(page.locator('.ag-row')).toHaveCount(Number((await live.innerText()).replace(/\D/g, '')));
  await page.locator('.ag-row [col-id=name]').first().click();
  const name = await page.getByRole('complementary').getByRole('heading', { level: 2 }).innerText();
  const asking = new Steps(page);
  await asking.press(page.getByRole('button', { name: 'Release…' }));
  const sheet = page.getByRole('dialog', { name: `Release ${name}` });
  await expect(sheet.getByText(/Crew wants an approval before a release/)).toBeVisible();
  await asking.press(sheet.getByRole('button', { name: 'Prepare it for approval' }));
  asking.atMost(2);
  await said(page, 'is prepared. Nothing is released yet.');
  await page.goto('/portfolios/1/pages?panel=prepared');
  await page.getByRole('button', { name: new RegExp(`^${name}.*waits for an approval`) }).click();
  await expect(page.getByText('Waits for an approval by Tomas Renn')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Approve and release' })).toHaveCount(0);
  await accessible(page);

  const other = await (await browser.newContext()).newPage();
  await signIn(other, PEOPLE.publisher);
  const approving = new Steps(other);
  await approving.press(other.getByRole('button', { name: /^Prepared releases/ }));
  await approving.press(other.getByRole('button', { name: new RegExp(`^${name}.*waits for an approval`) }));
  await approving.press(other.getByRole('button', { name: 'Approve and release' }));
  approving.atMost(3);
  await said(other, `“${name}” is released.`);
  await other.context().close();
});

test('who else has a page open is shown, and who edits it', async ({ page, browser }) => {
  await signIn(page);
  await openSheet(page, 'Press visits');
  const other = await (await browser.newContext()).newPage();
  await signIn(other, PEOPLE.author);
  await openSheet(other, 'Press visits');
  await expect(page.getByText('Maren Holt has it open')).toBeVisible();
  await expect(other.getByText('Ingrid Vale has it open')).toBeVisible();
  await other.getByRole('button', { name: 'Edit' }).click();
  await expect(page.getByText('Maren Holt is editing this page')).toBeVisible();
  await other.getByRole('button', { name: '← Pages' }).click();
  await other.getByRole('button', { name: 'Close the sheet' }).click();
  await expect(page.getByText(/Maren Holt (has|is)/)).toHaveCount(0);
  await other.context().close();
});

test('by keyboard alone: a copy, its release, and into the bin', async ({ page }) => {
  await signIn(page);
  const open = async (name: string) => {
    await page.keyboard.press('/');
    await page.keyboard.press('Control+a');
    await page.keyboard.type(name);
    await expect(page.locator('.ag-row').first()).toContainText(name);
    await tabTo(page, new RegExp(`^${name}$`));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('complementary', { name, exact: true })).toBeVisible();
  };
  const press = async (name: RegExp) => {
    await expect(page.getByRole('button', { name })).toBeEnabled();
    await tabTo(page, name);
    await page.keyboard.press('Enter');
  };
  await open('Press visits');
  await press(/^More/);
  await tabTo(page, /^Copy…/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Copy Press visits/ })).toBeEnabled();
  await tabTo(page, /^Names/);
  await page.keyboard.type(`Keys ${stamp}`);
  await tabTo(page, /^Paths/);
  await page.keyboard.type(`/keys-${stamp}`);
  await expect(page.getByRole('dialog').getByText(`/keys-${stamp}`)).toBeVisible();
  await press(/^Copy Press visits/);
  await said(page, 'Copied 1 page');

  await open(`Keys ${stamp}`);
  await press(/^Release…/);
  await press(/^Put revision 1 live now/);
  await said(page, 'is on its way to visitors.');
  await visitUntil('marrowick.example', `/keys-${stamp}`, ({ status }) => status === 200);

  await press(/^More/);
  await tabTo(page, /^Put in the bin…/);
  await page.keyboard.press('Enter');
  await press(/^Put Keys .* in the bin/);
  await said(page, /in the bin/);
  await expect.poll(async () => (await visit('marrowick.example', `/keys-${stamp}`)).status).toBe(404);
});

test('a manager in another zone plans by the portfolio’s clock', async ({ browser }) => {
  const context = await browser.newContext({ timezoneId: 'America/New_York', locale: 'en-US' });
  const page = await context.newPage();
  await signIn(page);
  const oslo = new Intl.DateTimeFormat('en-GB', { timeZone: 'Europe/Oslo', hour: '2-digit', minute: '2-digit' });
  await expect
    .poll(async () =>
      (await page.getByLabel('The moment that is shown').inputValue()).endsWith(oslo.format(new Date())),
    )
    .toBe(true);
  await openSheet(page, 'Gift vouchers');
  await page.getByRole('button', { name: 'Release…' }).click();
  const sheet = page.getByRole('dialog', { name: 'Release Gift vouchers' });
  const [preview] = await Promise.all([
    // The one before asks of now.
    page.waitForRequest(
      (request) => /releases\/preview$/.test(request.url()) && /T09:00/.test(request.postData() ?? ''),
    ),
    sheet.getByRole('button', { name: 'Tomorrow 09:00' }).click(),
  ]);
  await expect(sheet.getByRole('button', { name: /live on \w{3} \d+ \w{3}, 09:00/ })).toBeVisible();
  await expect(sheet.getByText('Europe/Oslo')).toBeVisible();
  expect(preview.postDataJSON()).toMatchObject({
    changes: [{ from: { local: expect.stringMatching(/T09:00$/), zone: 'Europe/Oslo' } }],
  });
  await context.close();
});

test('screens no other walk comes by have nothing that axe-core finds', async ({ page }) => {
  test.setTimeout(480_000);
  await signIn(page);
  await openSheet(page, 'Winter timetable');
  const id = new URL(page.url()).searchParams.get('page');
  await accessible(page);
  const places = [
    ...['feeds', 'new-site', 'templates', 'new-campaign'].map((panel) => `panel=${panel}`),
    ...['take-off', 'move', 'history', 'copy'].map((panel) => `page=${id}&panel=${panel}`),
    ...['group=domain', 'scope=bin'],
  ];
  for (const place of places) {
    await page.goto(`/portfolios/1/pages?${place}`);
    await expect(page.locator('.skeleton')).toHaveCount(0);
    if (place.includes('panel=')) await expect(page.getByRole('dialog').first()).toBeVisible();
    await accessible(page, place);
  }
  await page.goto(`/portfolios/1/pages/${id}/edit`);
  await page.locator('dm-canvas iframe').waitFor();
  await accessible(page);
});
