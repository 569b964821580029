// npm run screenshots: one picture of each main view, made from a running demo (npm run demo), into docs/screenshots.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { settingsOrExit } from '../storage/src/settings.mjs';
import { isHealthy, ROOT } from './processes.mjs';

const { appPort, edgePort } = settingsOrExit();
const folder = join(ROOT, 'docs/screenshots');
if (!(await isHealthy(appPort))) {
  console.error('Start the demo first: npm run demo');
  process.exit(1);
}
mkdirSync(folder, { recursive: true });
const flags =
  'no-sandbox disable-gpu disable-quic disable-dev-shm-usage no-first-run disable-background-networking disable-component-update disable-sync disable-default-apps';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: flags.split(' ').map((flag) => `--${flag}`),
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

async function shot(name, on = page) {
  await on.waitForTimeout(900);
  await on.screenshot({ path: join(folder, `${name}.png`) });
  console.log(`  ${name}.png`);
}
const button = (name) => page.getByRole('button', { name, exact: true }).click();
const escape = () => page.keyboard.press('Escape');

await page.goto(`http://localhost:${appPort}`);
await page.getByLabel('E-mail address').waitFor();
await page.getByLabel('E-mail address').fill('ingrid.vale@marrowick.example');
await page.getByLabel('Password').fill('midwinter-crossing');
await button('Sign in');
await page.locator('.ag-row').first().waitFor();
await page.mouse.move(640, 20);
await shot('register');
await button('New page');
await page.getByLabel('Internal name').fill('Harbour lights, the film');
await page.locator('#site').selectOption({ label: 'Ferries · marrowick.example' });
await page.locator('#path').fill('harbour-lights');
await shot('new-page');
await escape();
await page.locator('.ag-row').filter({ hasText: 'Midwinter crossing' }).first().click();
await page.getByRole('complementary', { name: 'Midwinter crossing' }).waitFor();
await shot('page-sheet');
await button('Release…');
await shot('release');
await escape();
await button('Edit');
await page.locator('dm-canvas iframe').waitFor();
await page.waitForTimeout(800);
await shot('editor');
const stock = async (shelf, entry) => {
  await page.goto(`http://localhost:${appPort}/portfolios/1/stock/${shelf}`);
  await page.locator(entry).first().click();
  await page.waitForTimeout(1500);
  await shot(shelf);
};
await stock('themes', '.list .entry:has-text("Smoke")');
await page.goto(`http://localhost:${appPort}/portfolios/1/stock/frames`);
await page.locator('dm-frames-table tbody tr').first().waitFor();
await shot('frames');
await stock('menus', '.list .entry:has-text("Page tree")');
await stock('pictures', '.one >> nth=1');

await page.goto(`http://localhost:${appPort}/portfolios/1/pages`);
await page.locator('.ag-row').first().waitFor();
const weekAhead = new Date(Date.now() + 17 * 86_400_000).toISOString();
await page.goto(`http://localhost:${appPort}/portfolios/1/pages?at=${encodeURIComponent(weekAhead)}`);
await page.locator('.ag-row').first().waitFor();
await shot('as-of');
await page.goto(`http://localhost:${appPort}/portfolios/1/pages?find=concert&sort=name:asc`);
await page.locator('.ag-row').nth(5).waitFor();
for (const row of [0, 1, 2, 3, 4, 5]) await page.locator(`.ag-row[row-index="${row}"] input[type=checkbox]`).click();
await button('Shift dates');
await page.getByText('can’t, because').waitFor();
await shot('many');
// What is chosen outlives the sheet, and would be what is shared below.
await page.evaluate(() => sessionStorage.clear());
await page.goto(`http://localhost:${appPort}/portfolios/1/pages`);
await page.locator('.ag-row').first().waitFor();
await page
  .getByRole('navigation', { name: 'Scope' })
  .getByRole('button', { name: /^Midwinter 2026/ })
  .click();
await button('Campaign…');
await shot('campaign');
await page.goto(`http://localhost:${appPort}/portfolios/1/pages?panel=import`);
const rows = [
  'Name;Site;Slug;Title;Tags;Start;End',
  'Spring sailings;Ferries;/spring-27;Spring sailings 2027;timetable;2027-03-01;2027-05-31',
  'Winter timetable;Ferries;/winter;Winter timetable and fares;;;',
  'Film night;Nowhere;/film;;;;',
];
await page.locator('input[type=file]').setInputFiles({
  name: 'spring.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(rows.join('\n')),
});
await page.getByText('1 wrong').waitFor();
await shot('import');

await page.goto(`http://localhost:${appPort}/portfolios/1/pages?panel=people`);
await page.getByLabel('Approvals before a release on Crew').waitFor();
await shot('people');
await page.goto(`http://localhost:${appPort}/portfolios/1/pages?panel=record`);
await page.getByRole('textbox', { name: 'From day' }).waitFor();
await shot('record');
const phone = await browser.newPage({ viewport: { width: 390, height: 844 }, colorScheme: 'dark' });
await phone.context().addCookies(await page.context().cookies());
await phone.goto(`http://localhost:${appPort}/portfolios/1/pages?find=midwinter`);
await phone.locator('.ag-row').first().click();
await phone.getByRole('complementary').waitFor();
await shot('phone', phone);
await phone.close();
await page.goto(`http://localhost:${appPort}/portfolios/1/pages?scope=site:5&panel=share`);
await page.getByLabel('Who or what it is for').fill('The hall’s programme board');
await button('Create the link');
const link = await page.locator('.made .mono').innerText();
const reviewer = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await reviewer.goto(link);
await reviewer.getByLabel('Page', { exact: true }).selectOption({ label: 'Quay No. 4 residency' });
await reviewer.getByLabel('Your name').fill('Runa Skar');
await reviewer.frameLocator('iframe').locator('main > section').nth(1).click();
await reviewer.getByLabel('Your comment').fill('The second week is missing.');
await shot('private-link', reviewer);
await reviewer.close();

async function published(name, host, path, width, height) {
  const visitor = await browser.newPage({ viewport: { width, height } });
  await visitor.goto(`http://${host}.localhost:${edgePort}${path}`);
  await shot(name, visitor);
  await visitor.close();
}
await published('published', 'lanternhouse.example', '/', 1280, 800);
await published('published-phone', 'marrowick.example', '/midwinter', 390, 844);
await browser.close();
