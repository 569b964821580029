import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { Steps } from './steps.js';
import { expect, test, type Page } from './test.js';
import sharp from 'sharp';
import { accessible, makePage, PEOPLE, published, said, signIn, visit, visitUntil } from './world.js';

const SITE = 'Tide Hall · tidehall.example';
const HOST = 'tidehall.example';
const stamp = () => `${Date.now() % 10_000_000}`;
const canvas = (page: Page) => page.frameLocator('iframe[title="The page as visitors get it, wide"]');
const kept = (page: Page, patience = 25_000) =>
  expect(page.getByRole('status').filter({ hasText: /· Saved/ })).toBeVisible({ timeout: patience });
const more = async (page: Page, act: RegExp) => {
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: act }).click();
};
const rows = (page: Page) => page.locator('dm-outline ol .words strong');

/** A page in its editor, at a path of its own; gives the path and the editor's address. */
async function newPage(page: Page, start = 'Notice'): Promise<{ path: string; edit: string }> {
  const path = `/s${stamp()}`;
  await makePage(page, path.slice(1), { site: SITE, start });
  return { path, edit: page.url() };
}

/** Writes what checks ask for, and puts the draft live now. */
async function putLive(page: Page): Promise<void> {
  await kept(page);
  await page.getByRole('button', { name: 'Release…' }).click();
  const press = page.getByRole('button', { name: /^Put revision \d+ live now/ });
  await press.click();
  await expect(press).toBeHidden();
}

const drawn = (colour: string, width = 1600, height = 1000) =>
  sharp({ create: { width, height, channels: 3, background: colour } })
    .jpeg()
    .toBuffer();

test('a picture is dropped on its place, made light, cropped, and replaced wherever it is used', async ({ page }) => {
  await signIn(page);
  const { path } = await newPage(page);
  await page.locator('[data-block]').first().click();
  // Files over the frame come from the desk: their event is made here.
  const bytes = [...(await drawn('#336699'))];
  await page.locator('iframe[title^="The page as"]').evaluate((frame, data) => {
    const inside = (frame as HTMLIFrameElement).contentDocument as Document;
    const carried = new DataTransfer();
    carried.items.add(new File([new Uint8Array(data)], 'harbour.jpg', { type: 'image/jpeg' }));
    const heading = inside.querySelector('main h1') as Element;
    for (const kind of ['dragover', 'drop'])
      heading.dispatchEvent(new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer: carried }));
  }, bytes);
  await expect(canvas(page).locator('.opening img')).toBeVisible();
  await expect(page.getByText(/1,600 × 1,000 · .* at most, of 200 KB/)).toBeVisible();
  await page.getByLabel('Describe it for people who can’t see it').fill('The harbour, blue');

  // A crop of it, for this place alone, by the keyboard.
  const cropping = new Steps(page);
  await cropping.press(page.getByRole('button', { name: 'crop', exact: true }));
  const sheet = page.getByRole('dialog', { name: 'Crop' });
  await cropping.type(sheet.getByLabel('Wide %'), '50');
  await expect(sheet.getByText(/800 × 1,000 of 1,600 × 1,000/)).toBeVisible();
  await sheet.getByRole('button', { name: 'What must stay in view' }).press('ArrowRight');
  await cropping.press(sheet.getByRole('button', { name: 'Use this crop' }));
  cropping.atMost(3);
  await expect(sheet).toBeHidden();
  await expect(canvas(page).locator('.opening img')).toHaveAttribute('width', '800');
  await expect(canvas(page).locator('.opening img')).toHaveAttribute('style', /object-position:\s?52%/);
  await putLive(page);
  const first = await visitUntil(HOST, path, ({ body }) => /width="800" height="1000"/.test(body));
  expect(first.body).toMatch(/<source type="image\/avif"[^>]*><img [^>]*fetchpriority="high"/);

  // Replaced on the shelf: the crop is made of the new one, and the page follows by itself.
  await page.goto('/portfolios/1/stock/pictures');
  await page.getByRole('searchbox', { name: 'Find a picture' }).fill('harbour.jpg');
  await page.locator('.one').first().click();
  await expect(page.getByText(path.slice(1))).toBeVisible();
  await page
    .locator('.margin dm-bring-in input')
    .setInputFiles({ name: 'new.jpg', mimeType: 'image/jpeg', buffer: await drawn('#996633', 1200, 1200) });
  const replacing = page.getByRole('dialog', { name: 'Replace everywhere' });
  await expect(replacing.getByText(/1 page that is live or planned will show the new one/)).toBeVisible();
  await expect(replacing.getByText(/Its shape is another\. The part that is used of it is cut/)).toBeVisible();
  await accessible(page, 'replacing a picture');
  await expect(replacing.getByRole('button', { name: 'Replace everywhere' })).toBeDisabled();
  await replacing.getByLabel('As before:').check();
  await replacing.getByRole('button', { name: 'Replace everywhere' }).click();
  await expect(replacing).toBeHidden();
  await visitUntil(HOST, path, ({ body }) => /width="758" height="949"/.test(body));
  // The one before is kept, and comes back the same.
  await page.getByRole('button', { name: /^Put back the one before/ }).click();
  const back = await visitUntil(HOST, path, ({ body }) => /width="800" height="1000"/.test(body));
  expect(back.body).toBe(first.body);
  // What can't be read says why, beside the place where it was brought in.
  await page
    .locator('.in dm-bring-in input')
    .setInputFiles({ name: 'photo.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('<!doctype html>not a picture') });
  await expect(page.getByRole('alert').filter({ hasText: 'a web page, not a picture' })).toBeVisible();
  await accessible(page, 'pictures');
});

test('a file that a page leads to is replaced once who meets it was said, and put back', async ({ page }) => {
  const paper = (words: string) => ({
    name: `fares ${words}.pdf`,
    mimeType: 'application/pdf',
    buffer: Buffer.from(`%PDF-1.7\n${words}`),
  });
  const year = stamp();
  await signIn(page);
  const { path } = await newPage(page);
  await page.locator('[data-block]').first().click();
  await page.getByPlaceholder('What it says').fill('All fares');
  await page.getByRole('button', { name: 'A file', exact: true }).click();
  await page.locator('dm-link-field dm-bring-in input').first().setInputFiles(paper(year));
  await expect(canvas(page).getByRole('link', { name: 'All fares' })).toBeVisible();
  await putLive(page);
  const href = (body: string) => /href="(\/-\/[0-9a-f]{64}\.pdf)"/.exec(body)?.[1];
  const first = href((await visitUntil(HOST, path, ({ body }) => href(body) !== undefined)).body);
  expect((await visit(HOST, first as string)).body).toContain(year);

  await page.goto('/portfolios/1/stock/files');
  await page.getByRole('searchbox', { name: 'Find a file' }).fill(year);
  await page.locator('table .name').first().click();
  await expect(page.locator('dm-where-used').getByRole('link', { name: path.slice(1) })).toBeVisible();
  await page.locator('.margin dm-bring-in input').setInputFiles(paper(`${year} new`));
  const asked = page.getByRole('group', { name: 'Replace everywhere' });
  await expect(asked.getByText(/1 page that is live or planned will show the new one/)).toBeVisible();
  await accessible(page, 'files');
  await asked.getByRole('button', { name: 'Replace everywhere' }).click();
  const { body } = await visitUntil(HOST, path, (got) => href(got.body) !== first);
  expect((await visit(HOST, href(body) as string)).body).toContain(`${year} new`);
  await page.getByRole('button', { name: /^Put back the one before/ }).click();
  await visitUntil(HOST, path, (got) => href(got.body) === first);
});

test('a theme is changed beside a page of its sites, mended where its contrast is poor, and put on all of them', async ({
  page,
}) => {
  await signIn(page);
  const steps = new Steps(page);
  await steps.press(page.getByRole('link', { name: 'Sites, themes, pieces' }));
  await steps.press(page.getByRole('navigation', { name: 'Shelves' }).getByText('Themes'));
  await steps.press(page.locator('.list .entry', { hasText: 'Tide' }));
  const change = page.getByRole('button', { name: /^Change it for/ });
  const manner = page.getByRole('heading', { name: 'Manner' });
  await expect(change.or(manner)).toBeVisible();
  if (await change.isVisible()) await steps.press(change);
  await expect(manner).toBeVisible();
  const accent = page.getByLabel('Links, buttons, as a number');
  await accent.fill('#c9c0ff');
  await accent.press('Tab');
  await expect(page.getByRole('heading', { name: /Contrast \d too low/ })).toBeVisible();
  // The canvas shows it at once; the nearest good colour is a click away.
  const button = canvas(page).locator('main');
  await expect
    .poll(() => button.evaluate((main) => getComputedStyle(main).getPropertyValue('--accent')))
    .toBe('#c9c0ff');
  await page
    .getByRole('row', { name: /links on the page/ })
    .getByRole('button', { name: /take/ })
    .click();
  const mark = `#${(0x3a1f8a + (Date.now() % 0x40)).toString(16)}`;
  await steps.type(accent, mark);
  await expect(page.getByRole('heading', { name: 'Contrast is good wherever colours meet' })).toBeVisible();
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await steps.press(page.getByRole('button', { name: /^Put on \d+ pages now/ }));
  await said(page, '“Tide” is on its way to visitors.');
  steps.atMost(8);
  const styleOf = (body: string) => /stylesheet" href="([^"]+)"/.exec(body)?.[1] ?? '';
  await expect
    .poll(async () => (await visit(HOST, styleOf((await visit(HOST, '/')).body))).body.includes(mark), {
      timeout: 60_000,
    })
    .toBe(true);
  await accessible(page, 'themes');
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect
    .poll(async () => (await visit(HOST, styleOf((await visit(HOST, '/')).body))).body.includes(mark), {
      timeout: 60_000,
    })
    .toBe(false);
});

test('another start keeps all content: what finds no place waits in the tray, and one step undoes it', async ({
  page,
}) => {
  await signIn(page);
  await newPage(page, 'Offer');
  await page.locator('[data-block]').nth(2).click();
  await page.getByLabel('Heading', { exact: true }).fill('Why by night');
  await more(page, /Another start/);
  await page.getByRole('button', { name: /^Event/ }).click();
  const panel = page.getByRole('dialog', { name: 'Another start for this page' });
  await expect(panel.getByText('Reasons “Why by night”')).toBeVisible();
  await expect(panel.locator('iframe')).toHaveCount(2);
  await panel.getByRole('button', { name: 'Take “Event”' }).click();
  await expect(page.getByText('In the tray')).toBeVisible();
  const before = await rows(page).count();
  await page.getByTitle('Put it on the page, behind the chosen block').first().click();
  await expect(rows(page)).toHaveCount(before + 1);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('In the tray')).toBeHidden();
  await expect(rows(page).nth(2)).toHaveText('Reasons');
});

test('a piece is kept from a page, used on another, and changed once for both; shared values stand in its texts', async ({
  page,
}) => {
  await signIn(page);
  const name = `Desk ${stamp()}`;
  const one = await newPage(page);
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Quote', exact: true }).click();
  await page.getByLabel('What was said').fill('Call {phone} before nine');
  await page.getByLabel('Who said it').fill('Signe');
  await page.getByLabel('Who they are').fill('at the desk');
  // The canvas shows what visitors read.
  await expect(canvas(page).getByText('Call 75 12 00 31 before nine')).toBeVisible();
  await page.getByRole('button', { name: 'save as a piece for other pages' }).click();
  await page.getByLabel('Name of the piece').fill(name);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Linked: the same on every page that uses it.')).toBeVisible();
  // It stays on the canvas, and goes live with the page.
  await expect(canvas(page).getByText('Call 75 12 00 31 before nine')).toBeVisible();
  await kept(page);
  await page.getByRole('button', { name: 'Release…' }).click();
  await expect(page.getByText(`The piece “${name}” isn’t live when this page goes live`)).toBeVisible();
  await page.getByRole('button', { name: 'Release it too' }).click();
  const press = page.getByRole('button', { name: /^Put revision \d+ live now/ });
  await press.click();
  await expect(press).toBeHidden();
  await visitUntil(HOST, one.path, ({ body }) => body.includes('Call 75 12 00 31 before nine'));
  const two = await newPage(page);
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name, exact: true }).click();
  await putLive(page);
  await page.goto('/portfolios/1/stock/pieces');
  await page.locator('.list .entry', { hasText: name }).click();
  await visitUntil(HOST, two.path, ({ body }) => body.includes('Call 75 12 00 31 before nine'));
  await page.locator('.margin .entry').first().click();
  await page.getByLabel('What was said').fill('Write to the desk');
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await page.getByRole('button', { name: /^Put on 2 pages now/ }).click();
  await said(page, `“${name}” is on its way to visitors.`);
  for (const { path } of [one, two]) await visitUntil(HOST, path, ({ body }) => body.includes('Write to the desk'));
  await accessible(page, 'pieces');
  // Parted, it is a block with a life of its own.
  await page.goto(two.edit);
  await page.locator('[data-block]', { hasText: name }).click();
  await page.getByRole('button', { name: /Unlink: make/ }).click();
  await expect(page.getByLabel('What was said')).toHaveValue('Write to the desk');
  // Loose from the start: a copy with a life of its own, whatever becomes of the piece.
  await page.goto('/portfolios/1/pages');
  const three = await newPage(page);
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: `${name}, loose` }).click();
  await expect(page.getByLabel('What was said')).toHaveValue('Write to the desk');
  await expect(page.getByText('Linked: the same on every page that uses it.')).toBeHidden();
  await page.getByLabel('What was said').fill('Knock twice');
  await putLive(page);
  await visitUntil(HOST, three.path, ({ body }) => body.includes('Knock twice'));
  await page.goto('/portfolios/1/stock/values');
  await page.locator('.list .entry').first().click();
  await expect(page.getByLabel('Value of phone')).toHaveValue('75 12 00 31');
  await accessible(page, 'values');
});

test('a list of pages follows them by itself, and a link leads to a block, mail and phone', async ({ page }) => {
  await signIn(page);
  const target = await newPage(page);
  await page.getByRole('button', { name: /^Page/ }).first().click();
  await page.getByLabel('Title', { exact: true }).fill('Night boats');
  await putLive(page);
  const hub = await newPage(page, 'Link hub');
  await page.locator('[data-block]').nth(1).click();
  await page.getByRole('combobox', { name: 'Page' }).fill(target.path.slice(1));
  await page.getByRole('option').first().click();
  await expect(canvas(page).getByRole('link', { name: 'Night boats' })).toBeVisible();
  await page.locator('[data-block]').first().click();
  await page.getByPlaceholder('What it says').fill('Ring us');
  await page.getByRole('button', { name: 'Phone', exact: true }).click();
  await page.getByLabel('Button leads to, telephone').fill('75 12');
  await page.getByLabel('Button leads to, telephone').press('Tab');
  await page.getByLabel('Button leads to, telephone').fill('+47 75 12 00 31');
  await page.getByLabel('Button leads to, telephone').press('Tab');
  // Another one leads to a place on the other page, by what stands there.
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Button row', exact: true }).click();
  await page.getByPlaceholder('What it says').first().fill('See the boats');
  await page.getByRole('combobox', { name: 'Button leads to' }).first().fill(target.path.slice(1));
  await page.getByRole('option').first().click();
  const place = page.getByLabel('Button leads to, where on that page').first();
  await place.selectOption({ index: 1 });
  const block = await place.inputValue();
  await putLive(page);
  const { body } = await visitUntil(HOST, hub.path, (got) => got.body.includes('Night boats'));
  expect(body).toContain(`href="${target.path}"`);
  expect(body).toContain('href="tel:+4775120031"');
  expect(body).toContain(`href="${target.path}#b-${block}"`);
  expect((await visit(HOST, target.path)).body).toContain(`id="b-${block}"`);
  // The page is taken off: the hub leaves it out, and nobody touched the hub.
  const id = /pages\/(\d+)\/edit/.exec(target.edit)?.[1];
  await page.goto(`/portfolios/1/pages?page=${id}&panel=take-off`);
  await page.getByRole('button', { name: /^Take it off|^Take .* off now/ }).click();
  await visitUntil(HOST, hub.path, (got) => got.status === 200 && !got.body.includes('Night boats'));
});

test('states are named, compared and brought back block by block', async ({ page }) => {
  await signIn(page);
  await newPage(page);
  await page.locator('[data-block]').first().click();
  await page.getByLabel('Heading', { exact: true }).fill('Boats at nine');
  await kept(page);
  await more(page, /States and comparing/);
  const panel = page.getByRole('dialog', { name: 'States of this page' });
  await panel.getByLabel('Name the draft').fill('Before the change');
  await panel.getByRole('button', { name: 'Name it' }).click();
  await expect(panel.getByText('Revision 1: Before the change', { exact: true }).first()).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Heading', { exact: true }).fill('Boats at ten');
  await kept(page);
  await more(page, /States and comparing/);
  await expect(panel.locator('iframe')).toHaveCount(2);
  await accessible(page, 'states');
  await panel.getByRole('button', { name: 'As marked text' }).click();
  await expect(panel.locator('del')).toHaveText('nine');
  await expect(panel.locator('ins')).toHaveText('ten');
  await panel.getByRole('button', { name: 'Restore this block' }).click();
  await expect(panel.getByText('No block differs.')).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByLabel('Heading', { exact: true })).toHaveValue('Boats at nine');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Heading', { exact: true })).toHaveValue('Boats at ten');
  // Undo goes on after a reload.
  await kept(page);
  await page.reload();
  await page.locator('[data-block]').first().click();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByLabel('Heading', { exact: true })).toHaveValue('Boats at nine');
});

test('two people in one page: different blocks merge by themselves, one block is shown for a choice', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const { edit } = await newPage(page, 'Offer');
  const other = await (await browser.newContext()).newPage();
  await signIn(other, PEOPLE.author);
  await other.goto(edit);
  await other.locator('[data-block]').nth(2).click();
  await expect(page.locator('dm-outline .other')).toBeVisible();
  await page.locator('[data-block]').first().click();
  await page.getByLabel('Line above').fill('Mine');
  await other.getByRole('textbox', { name: 'Heading', exact: true }).fill('Theirs');
  await kept(page);
  await kept(other);
  for (const one of [page, other]) {
    await expect(canvas(one).getByText('Mine')).toBeVisible();
    await expect(canvas(one).getByText('Theirs')).toBeVisible();
  }
  // The line is cut for one of them while both write in the same block.
  await other.context().setOffline(true);
  await other.locator('[data-block]').first().click();
  await other.getByLabel('Line above').fill('From the train');
  await expect(other.getByRole('status').filter({ hasText: 'no connection' })).toBeVisible();
  await page.getByLabel('Line above').fill('From the desk');
  await kept(page);
  await other.context().setOffline(false);
  const choice = other.getByRole('alertdialog', { name: 'Two texts' });
  await expect(choice.getByText(/both changed it/)).toBeVisible();
  await choice.getByRole('button', { name: 'Take theirs' }).click();
  await expect(other.getByLabel('Line above')).toHaveValue('From the desk');
  await kept(other);
  await other.context().close();
});

test('by hand: own CSS is checked as it is typed, pasted HTML is cleaned, a page goes out as a folder and comes in again', async ({
  page,
}) => {
  await signIn(page);
  const { path, edit } = await newPage(page);
  await more(page, /Edit HTML and CSS/);
  const panel = page.getByRole('dialog', { name: 'HTML and CSS' });
  const css = panel.getByRole('textbox', { name: 'Own CSS of this page' });
  await css.click();
  await page.keyboard.type('main {display: none');
  await expect(panel.getByText(/hides the whole page/)).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('.lead {color: rgb(1, 2, 3)');
  await expect(panel.getByText(/hides the whole page/)).toBeHidden();
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect(canvas(page).locator('.lead').first()).toHaveCSS('color', 'rgb(1, 2, 3)');

  // A block as HTML: what is written there is on the canvas; what can't be taken says so at its line.
  await page.locator('[data-block]').first().click();
  await more(page, /Edit HTML and CSS/);
  const html = panel.getByRole('textbox', { name: 'Block as HTML' });
  const written = (await html.innerText()).replace(/\u200b/g, '');
  expect(written).toContain('data-block="opening"');
  await html.fill(written.replace(/(<h2 data-field="heading">)[^<]*/, '$1Written by hand'));
  await expect(canvas(page).locator('h1')).toHaveText('Written by hand');
  await html.fill('<section data-block="opening" data-layout="sideways"></section>');
  await expect(panel.getByText('Line 1: Layout: Choose one of the options.')).toBeVisible();
  await expect(canvas(page).locator('h1')).toHaveText('Written by hand');
  await accessible(page, 'by hand');
  await panel.getByRole('button', { name: 'Close' }).click();

  // From a document: words and a table come along, looks and scripts stay behind.
  await page.locator('[data-block]').first().focus();
  await page.evaluate(() => {
    const clipboard = new DataTransfer();
    clipboard.setData(
      'text/html',
      '<h2 style="color:red">Prices</h2><p>From <b>October</b>.<script>alert(1)</script></p><table><tr><td>Adults</td><td>120</td></tr><tr><td>Dogs</td><td>0</td></tr></table>',
    );
    document.body.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: clipboard, bubbles: true, cancelable: true }),
    );
  });
  const pasted = page.getByRole('dialog', { name: 'Pasted from elsewhere' });
  await expect(pasted.getByText('1 script')).toBeVisible();
  await pasted.getByRole('button', { name: /^Insert 2 after/ }).click();
  await expect(canvas(page).getByText('120', { exact: true })).toBeVisible();
  await putLive(page);
  const live = await visitUntil(HOST, path, ({ body }) => body.includes('Adults'));
  expect(live.body).not.toContain('alert');

  await page.goto(edit);
  const downloading = page.waitForEvent('download');
  await more(page, /Export as a folder/);
  const file = await (await downloading).path();
  const folder = unzipSync(await readFile(file));
  const index = new TextDecoder().decode(folder['index.html']);
  expect(index).toContain('href="style.css"');
  expect(new TextDecoder().decode(folder['style.css'])).toContain('url("fonts/');
  expect(Object.keys(folder).filter((name) => name.startsWith('fonts/')).length).toBeGreaterThan(0);
  // The same folder comes in again as a page.
  await more(page, /Import an HTML file/);
  const bring = page.getByRole('dialog', { name: 'Import an HTML file' });
  await bring
    .locator('input[type="file"]')
    .setInputFiles({ name: 'index.html', mimeType: 'text/html', buffer: Buffer.from(index) });
  await bring.getByRole('button', { name: /^Replace this page/ }).click();
  await expect(canvas(page).getByText('120', { exact: true })).toBeVisible();
});

test('two megabytes that are pasted keep all their words, are kept on the server, and are undone in one step', async ({
  page,
}) => {
  await signIn(page);
  await newPage(page);
  const before = await rows(page).count();
  await page.evaluate(() => {
    const clipboard = new DataTransfer();
    const words = 'Words and <b>more</b> words of a long document. '.repeat(20);
    let html = '';
    for (let n = 0; html.length < 2_000_000; n++) html += `<h2>Part ${n}</h2><p>${words}</p>`;
    clipboard.setData('text/html', `${html}<p>The very end</p>`);
    document.body.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: clipboard, bubbles: true, cancelable: true }),
    );
  });
  const pasted = page.getByRole('dialog', { name: 'Pasted from elsewhere' });
  await pasted.getByRole('button', { name: /^Insert \d+ after/ }).click();
  await expect(rows(page)).toHaveCount(500);
  // Two megabytes are written while another walk has the other core.
  await kept(page, 60_000);
  await page.reload();
  await expect(rows(page)).toHaveCount(500);
  await expect(canvas(page).getByText('The very end')).toBeAttached();
  // One block more finds no place, and that is said.
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Quote', exact: true }).click();
  await said(page, 'A page has at most 500 blocks');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows(page)).toHaveCount(before);
});

test('what a site is goes on all of its pages with a press, and back with its undo', async ({ page }) => {
  await signIn(page);
  await page.goto('/portfolios/1/stock/sites');
  await page.locator('.list .entry', { hasText: 'Tide Hall' }).click();
  const name = `Tide Hall ${stamp()}`;
  await page.getByLabel('Name', { exact: true }).fill(name);
  await expect(canvas(page).locator('header').getByText(name, { exact: true })).toBeVisible();
  await expect(page.getByText('The draft differs')).toBeVisible();
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await accessible(page, 'sites');
  await page.getByRole('button', { name: /^Put on \d+ pages now/ }).click();
  await said(page, '“Tide Hall” is on its way to visitors.');
  await visitUntil(HOST, '/', ({ body }) => body.includes(`<span>${name}</span></a>`));
  await page.locator('dm-stock-release').getByRole('button', { name: 'Undo' }).first().click();
  await visitUntil(HOST, '/', ({ body }) => body.includes('<span>Tide Hall</span></a>'));
});

test('own CSS of a site is checked as it is written, and put on all of its pages; nothing of it hides them', async ({
  page,
}) => {
  await signIn(page);
  const { path } = await newPage(page);
  await putLive(page);
  await page.goto('/portfolios/1/stock/css');
  await page.locator('.list .entry', { hasText: 'Tide Hall' }).click();
  const css = page.getByRole('textbox', { name: 'Own CSS of Tide Hall' });
  await css.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('h1 {color: rgb(4, 5, 6)}\nmain {opacity: 0');
  await expect(page.getByText('Line 2: “main” hides the whole page')).toBeVisible();
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  const put = page.getByRole('button', { name: /^Put on \d+ pages? now/ });
  await expect(put).toBeDisabled();
  await expect(page.locator('dm-preview-view')).toContainText('Line 2: “main” hides the whole page');
  await accessible(page, 'own css');
  await css.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('h1 {color: rgb(4, 5, 6)');
  await expect(canvas(page).locator('h1')).toHaveCSS('color', 'rgb(4, 5, 6)');
  await expect(page.getByText('Draft · Saved')).toBeVisible();
  await put.click();
  await said(page, '“CSS of Tide Hall” is on its way to visitors.');
  await visitUntil(HOST, path, ({ body }) => (body.match(/rel="stylesheet"/g) ?? []).length === 2);
  await page.goto(published(HOST, path));
  await expect(page.locator('h1')).toHaveCSS('color', 'rgb(4, 5, 6)');
  await page.goto('/portfolios/1/stock/css');
  await page.locator('.list .entry', { hasText: 'Tide Hall' }).click();
  await page.getByRole('button', { name: /^Undo/ }).last().click();
  await visitUntil(HOST, path, ({ body }) => (body.match(/rel="stylesheet"/g) ?? []).length === 1);
});

test('before it goes: findings stand level with their block and mend themselves; another time, the dark, a phone', async ({
  page,
}) => {
  await signIn(page);
  await newPage(page);
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Quote', exact: true }).click();
  await expect(canvas(page).locator('main')).toBeVisible();
  await expect(page.locator('dm-canvas .level').first()).toBeVisible();
  const finding = page.locator('.finding', { has: page.getByRole('button', { name: 'Leave it empty' }) }).first();
  const said = (await finding.locator('p').innerText()).slice(0, 60);
  await finding.getByRole('button', { name: 'Leave it empty' }).click();
  await expect(page.locator('.finding p', { hasText: said })).toHaveCount(0);
  // A countdown as visitors see it before and after.
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Countdown', exact: true }).click();
  await page.getByLabel('Moment, day').fill('1 Jan 2031');
  await page.getByLabel('Moment, day').press('Tab');
  await page.getByLabel('Shown afterwards').fill('It has begun');
  await expect(canvas(page).getByText(/1 Jan 2031/)).toBeVisible();
  await page.getByRole('button', { name: /As most see it/ }).click();
  await page.getByRole('button', { name: 'at another time' }).click();
  await page.getByLabel('Seen at, day').fill('2 Jan 2031');
  await page.getByLabel('Seen at, day').press('Tab');
  await expect(canvas(page).getByText('It has begun')).toBeVisible();
  await page.keyboard.press('Escape');
  // A film that no browser can play is refused before it is sent, beside its field.
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Video', exact: true }).click();
  await page
    .locator('dm-reference-field input[type="file"]')
    .first()
    .setInputFiles({
      name: 'film.mp4',
      mimeType: 'video/mp4',
      buffer: Buffer.from('\0\0\0\x18ftypisom and no film'),
    });
  await expect(page.getByRole('alert').filter({ hasText: 'can’t be played by browsers' })).toBeVisible();
  await more(page, /Open on a phone/);
  await page.getByRole('button', { name: 'Make a private link to this draft' }).click();
  await expect(page.getByAltText('QR code of the private link')).toBeVisible();
});

test('published pages are whole at four widths, both ways of reading, and bring no script of their own', async ({
  page,
  context,
}) => {
  test.setTimeout(400_000);
  for (const path of ['/', '/links'])
    for (const width of [320, 390, 768, 1280]) {
      const visitor = await context.newPage();
      await visitor.setViewportSize({ width, height: 800 });
      await visitor.goto(published(path === '/' ? HOST : 'marrowick.example', path));
      for (const direction of ['ltr', 'rtl']) {
        await visitor.evaluate((dir) => (document.documentElement.dir = dir), direction);
        const over = await visitor.evaluate(
          () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
        );
        expect(over, `${path} ${width} ${direction}`).toBeLessThanOrEqual(0);
      }
      expect(await visitor.locator('script:not([type="application/ld+json"])').count()).toBe(0);
      await visitor.close();
    }
  await page.goto(published('marrowick.example', '/links'));
  await expect(page.getByRole('link', { name: /Gift vouchers/i }).first()).toBeVisible();
});
