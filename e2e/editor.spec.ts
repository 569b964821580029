import { expect, test, type FrameLocator, type Page } from './test.js';
import { accessible, makePage, openSheet, published, signIn, visitUntil } from './world.js';

const canvas = (page: Page, width = 'wide'): FrameLocator =>
  page.frameLocator(`iframe[title="The page as visitors get it, ${width}"]`);
const kept = (page: Page) => expect(page.getByRole('status').filter({ hasText: /· Saved/ })).toBeVisible();
const outline = (page: Page) => page.locator('dm-outline .words strong');

/** What stands in `main`, without what the canvas adds: names of fields, the chosen block, an open text. */
const bareMain = (frame: FrameLocator | Page) =>
  frame.locator('main').evaluate((main) => {
    const copy = main.cloneNode(true) as HTMLElement;
    copy.querySelectorAll('*').forEach((element) => {
      element.removeAttribute('data-field');
      element.classList.remove('is-chosen');
      if (!element.className) element.removeAttribute('class');
    });
    return copy.innerHTML.replace(/\s+/g, ' ').replace(/> </g, '><').trim();
  });

test('text is typed on the page itself, and what visitors get is what the canvas showed, at three widths', async ({
  page,
  context,
  browser,
}) => {
  await signIn(page);
  // A second run on the same demo finds the address of the first one taken.
  const path = `/typed-${Date.now() % 1_000_000}`;
  await makePage(page, path.slice(1), { site: 'Tide Hall · tidehall.example' });
  const frame = canvas(page);
  await frame.locator('h1').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Boats by night');
  await expect(frame.locator('h1')).toHaveText('Boats by night');
  await expect(page.getByLabel('Heading', { exact: true })).toHaveValue('Boats by night');
  // Down goes on to the next text; Enter makes a paragraph there.
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('They leave at nine.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Bring a coat.');
  await expect(frame.locator('.lead p')).toHaveText(['They leave at nine.', 'Bring a coat.']);
  // Undo goes through all of it, and redo comes back.
  await page.keyboard.press('Control+z');
  await expect(frame.locator('.lead')).not.toContainText('Bring a coat.');
  await page.keyboard.press('Control+Shift+z');
  await expect(frame.locator('.lead p').last()).toHaveText('Bring a coat.');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-block][aria-current]')).toBeFocused();

  // A formatted text, with bold and a link by reference, from the bar above it.
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  const prose = frame.locator('.prose').first();
  await prose.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Come aboard');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+b');
  await expect(prose.locator('strong')).toHaveText('Come aboard');
  await expect(page.getByRole('toolbar', { name: 'Format of Text' }).first()).toBeVisible();
  await accessible(page, 'editor while typing');
  await page.keyboard.press('Escape');
  await kept(page);

  const shown = await bareMain(frame);
  const document = await frame.locator('html').evaluate((html) => html.outerHTML);
  await page.getByRole('button', { name: 'Release…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put revision 1 live/ })
    .click();
  await visitUntil('tidehall.example', path, ({ status }) => status === 200);

  // The application makes elements of no text; the mirror is written as one.
  const free = await browser.newContext({ bypassCSP: true, storageState: await context.storageState() });
  const [visitor, mirror] = [await context.newPage(), await free.newPage()];
  await visitor.goto(published('tidehall.example', path));
  expect(await bareMain(visitor)).toBe(shown);
  await mirror.goto('/sign-in');
  for (const width of [390, 768, 1280]) {
    for (const one of [visitor, mirror]) await one.setViewportSize({ width, height: 900 });
    await mirror.setContent(document.replaceAll('is-chosen', ''));
    await visitor.reload();
    for (const one of [visitor, mirror])
      await one.evaluate(() => globalThis.document.fonts.ready.then(() => undefined));
    const [a, b] = [await visitor.locator('main').screenshot(), await mirror.locator('main').screenshot()];
    expect(a.equals(b), `the picture at ${width}`).toBe(true);
  }
});

test('blocks are dragged in the outline, on the canvas and from the list onto it, and moved by keys', async ({
  page,
}) => {
  await signIn(page);
  await makePage(page, 'Moved about', { start: 'Comparison', site: 'Tide Hall · tidehall.example' });
  const frame = canvas(page);
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Comparison', 'Questions', 'Call to action']);

  // On the canvas, by the handle of the chosen block.
  await frame.locator('.opening').click({ position: { x: 5, y: 5 } });
  const handle = page.getByRole('button', { name: 'Move this block' });
  await handle.hover();
  await page.mouse.down();
  const paper = await page.locator('dm-canvas iframe').boundingBox();
  if (!paper) throw new Error('There is no canvas');
  await page.mouse.move(paper.x + 200, paper.y + paper.height - 120, { steps: 8 });
  await expect(page.getByText('Move here')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Comparison', 'Questions', 'Call to action']);

  // From the list onto the page, between two blocks.
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: 'Steps', exact: true }).hover();
  await page.mouse.down();
  await page.mouse.move(paper.x + 200, paper.y + 60, { steps: 8 });
  await expect(page.getByText('Insert steps here')).toBeVisible();
  await page.mouse.up();
  await expect(outline(page)).toHaveText(['Page', 'Steps', 'Opening', 'Comparison', 'Questions', 'Call to action']);

  // By keys, from the outline and from the page.
  await page.locator('[data-block][aria-current]').press('Alt+ArrowDown');
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Steps', 'Comparison', 'Questions', 'Call to action']);
  await page.locator('[data-block][aria-current]').press('Enter');
  await page.keyboard.press('Alt+ArrowDown');
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Comparison', 'Steps', 'Questions', 'Call to action']);
  await page.keyboard.press('Escape');
  await page.locator('[data-block][aria-current]').press('Delete');
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Comparison', 'Questions', 'Call to action']);
  await page.keyboard.press('Control+z');
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Comparison', 'Steps', 'Questions', 'Call to action']);

  // In the outline.
  const [from, to] = [page.locator('dm-outline li').nth(2), page.locator('dm-outline li').nth(0)];
  await from.hover();
  await page.mouse.down();
  const goal = await to.boundingBox();
  if (!goal) throw new Error('There is no first row');
  await page.mouse.move(goal.x + 20, goal.y + 40, { steps: 5 });
  await page.mouse.move(goal.x + 20, goal.y + 4, { steps: 5 });
  await page.mouse.up();
  await expect(outline(page)).toHaveText(['Page', 'Steps', 'Opening', 'Comparison', 'Questions', 'Call to action']);

  // Both widths side by side are the same page, and both are live.
  await page.getByRole('button', { name: 'Side by side' }).click();
  await canvas(page, 'narrow').locator('h1').click();
  await page.keyboard.press('End');
  await page.keyboard.type(', twice');
  await expect(canvas(page, 'wide').locator('h1')).toHaveText('Moved about, twice');
  await kept(page);
});

test('several blocks are chosen, moved, doubled, and copied to a page of another site, whose look they take', async ({
  page,
}) => {
  await signIn(page);
  await makePage(page, 'Taken along', { start: 'Comparison', site: 'Tide Hall · tidehall.example' });
  const row = (name: string) => page.locator('dm-outline li .entry', { hasText: name });
  await row('Comparison').click();
  await row('Questions').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '2 blocks' })).toBeVisible();
  await row('Questions').press('Alt+ArrowUp');
  await expect(outline(page)).toHaveText(['Page', 'Comparison', 'Questions', 'Opening', 'Call to action']);
  await page.keyboard.press('Control+z');
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Comparison', 'Questions', 'Call to action']);
  await page.keyboard.press('Control+c');
  await expect(page.getByText('2 blocks copied. Paste on this page, or on any other.')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(outline(page)).toHaveText(['Page', 'Opening', 'Call to action']);
  await page.keyboard.press('Control+z');
  await kept(page);
  await page.getByRole('button', { name: '← Pages' }).click();
  await makePage(page, 'Where they go', { start: 'Blank', site: 'Lantern House · lanternhouse.example' });
  await page.locator('dm-outline .page').focus();
  await page.keyboard.press('Control+v');
  await expect(outline(page)).toHaveText(['Page', 'Comparison', 'Questions']);
  const family = (name: string) =>
    canvas(page)
      .locator(`.${name} h2`)
      .evaluate((heading) => getComputedStyle(heading).fontFamily);
  await expect.poll(() => family('comparison')).toContain('Fraunces');
  await page.keyboard.press('Control+v');
  await expect(outline(page)).toHaveCount(5);
  await kept(page);
});

test('the page is seen as others meet it: with large text, without pictures, and read aloud', async ({ page }) => {
  await signIn(page);
  await openSheet(page, 'Midwinter crossing');
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  const frame = canvas(page);
  const size = () => frame.locator('h1').evaluate((heading) => parseFloat(getComputedStyle(heading).fontSize));
  await expect(frame.locator('h1')).toBeVisible();
  const ordinary = await size();
  const see = async (way: string) => {
    await page.locator('header [ngbdropdowntoggle]').first().click();
    await page.getByRole('button', { name: way, exact: true }).click();
  };
  await see('Text twice as large');
  await expect.poll(async () => (await size()) / ordinary).toBeGreaterThan(1.3);
  await see('Without pictures');
  await expect.poll(size).toBe(ordinary);
  const widths = () =>
    frame.locator('img').evaluateAll((images) => images.map((image) => (image as HTMLImageElement).naturalWidth));
  await expect.poll(async () => (await widths()).every((width) => width === 0)).toBe(true);
  await see('As it is read aloud');
  const heading = page.locator('dm-read-aloud div', { hasText: 'Heading 1' }).first();
  await expect(heading).toBeVisible();
  await accessible(page, 'editor, read aloud');
  await see('As most see it');
  await expect.poll(async () => (await widths()).some((width) => width > 0)).toBe(true);
});

test('a film is looked at before it is taken; a table pasted into a text becomes blocks; the cursor goes where one presses', async ({
  page,
}) => {
  await signIn(page);
  await makePage(page, `brought-${Date.now() % 1_000_000}`, { site: 'Tide Hall · tidehall.example' });
  const heading = canvas(page).locator('main h1');
  const words = await heading.innerText();
  // In the midst of it, not at its start or end.
  const box = await heading.evaluate((element) => {
    const range = element.ownerDocument.createRange();
    range.selectNodeContents(element);
    const { width, height } = range.getBoundingClientRect();
    return { width, height };
  });
  await heading.click({ position: { x: box.width / 2, y: box.height / 2 } });
  await page.keyboard.type('X');
  const at = (await heading.innerText()).indexOf('X');
  expect(at).toBeGreaterThan(0);
  expect(at).toBeLessThan(words.length);

  await canvas(page).locator('main .prose p').first().click();
  await canvas(page)
    .locator('.ProseMirror')
    .evaluate((element) => {
      const carried = new DataTransfer();
      const rows = '<tr><td>Adults</td><td>10</td></tr><tr><td>Children</td><td>free</td></tr>';
      carried.setData('text/html', `<table>${rows}</table><p>And <b>dogs</b></p><p hidden>Draft</p>`);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: carried, bubbles: true, cancelable: true }));
    });
  await expect(page.getByText('1 hidden part')).toBeVisible();
  await page.getByRole('button', { name: 'Insert 2 after the selected block' }).click();
  await expect(canvas(page).locator('main table td').first()).toHaveText('free');

  // A film of a second, made here.
  const film = await page.evaluate(async () => {
    const drawing = Object.assign(document.createElement('canvas'), { width: 64, height: 36 });
    const pen = drawing.getContext('2d') as CanvasRenderingContext2D;
    const recorder = new MediaRecorder(drawing.captureStream(20), { mimeType: 'video/webm' });
    const parts: Blob[] = [];
    recorder.ondataavailable = ({ data }) => void parts.push(data);
    const ended = new Promise((done) => (recorder.onstop = done));
    recorder.start();
    for (let n = 0; n < 20; n++) {
      pen.fillStyle = `hsl(${n * 18} 80% 50%)`;
      pen.fillRect(0, 0, 64, 36);
      await new Promise((done) => setTimeout(done, 50));
    }
    recorder.stop();
    await ended;
    return [...new Uint8Array(await new Blob(parts).arrayBuffer())];
  });
  await page.getByRole('button', { name: 'Insert…' }).click();
  await page.getByRole('button', { name: /^Video/ }).click();
  const [films, said] = [page.locator('dm-reference-field').first(), page.locator('dm-reference-field').last()];
  await films
    .locator('input[type="file"]')
    .setInputFiles({ name: 'boats.webm', mimeType: 'video/webm', buffer: Buffer.from(film) });
  await expect(films.locator('select')).toContainText('boats.webm');
  await expect(canvas(page).locator('video source')).toHaveAttribute('src', /\.webm$/);
  // What is said in it, as captions; what is no captions is refused.
  const bring = (words: string) =>
    said
      .locator('input[type="file"]')
      .setInputFiles({ name: 'boats.vtt', mimeType: 'text/vtt', buffer: Buffer.from(words) });
  await bring('The boats run.');
  await expect(said.getByText(/can’t be opened/)).toBeVisible();
  await bring('WEBVTT\n\n00:00.000 --> 00:01.000\nThe boats run.\n');
  await expect(canvas(page).locator('video track')).toHaveAttribute('src', /\.vtt$/);
  await kept(page);
});

test('by keyboard alone: blocks are added, moved, doubled, removed, and their text is typed', async ({ page }) => {
  await signIn(page);
  await makePage(page, `keys-${Date.now() % 1_000_000}`, { site: 'Tide Hall · tidehall.example' });
  const names = () => outline(page).allTextContents();
  const begun = await names();
  const focused = () => page.evaluate(() => document.activeElement?.textContent?.trim() ?? '');
  /** Goes on by Tab until what has the focus says that. */
  const tabTo = async (words: RegExp) => {
    for (let n = 0; n < 80 && !words.test(await focused()); n++) await page.keyboard.press('Tab');
    expect(await focused()).toMatch(words);
  };
  await tabTo(/^Opening/);
  await page.keyboard.press('Enter');
  // Added: the list is opened, gone through and chosen from by keys.
  await tabTo(/^Insert…/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Quote', exact: true })).toBeVisible();
  for (let n = 0; n < 40 && (await focused()) !== 'Quote'; n++) await page.keyboard.press('ArrowDown');
  expect(await focused()).toBe('Quote');
  await page.keyboard.press('Enter');
  await expect.poll(names).toEqual([...begun.slice(0, 2), 'Quote', ...begun.slice(2)]);
  // Moved down and up again, the focus going with it.
  await page.locator('dm-outline [aria-current="true"]').focus();
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(async () => (await names()).indexOf('Quote')).toBe(3);
  await expect.poll(focused).toMatch(/^Quote/);
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(async () => (await names()).indexOf('Quote')).toBe(2);
  await expect.poll(focused).toMatch(/^Quote/);
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(async () => (await names()).indexOf('Quote')).toBe(1);
  // Typed in place: Enter goes onto the page, Escape comes back.
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Quiet as a harbour');
  await expect(canvas(page).locator('blockquote')).toHaveText('Quiet as a harbour');
  await page.keyboard.press('Escape');
  await expect.poll(focused).toMatch(/^Quote/);
  // Copied and put behind, then both removed, and had back by undoing.
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  await expect.poll(async () => (await names()).filter((name) => name === 'Quote')).toHaveLength(2);
  await page.locator('dm-outline [aria-current="true"]').focus();
  await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('Delete');
  await expect.poll(names).toEqual(begun);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await names()).filter((name) => name === 'Quote')).toHaveLength(2);
  await kept(page);
});
