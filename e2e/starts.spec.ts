import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { expect, test } from '@playwright/test';
import { BLOCK_TYPES, blockTypes } from '@domatium/core/blocks';
import { mapBlock, mapDocument, newBlock, type FieldValues, type PageDocument } from '@domatium/core/document';
import { BARE_FRAME, contextOf, pageHtml, worldOf } from '@domatium/core/render';
import { STARTS, startDocument, type Start } from '@domatium/core/starts';
import { FONTS, stylesheetOf, THEMES } from '@domatium/core/theme';
import { filledBlocks } from '../core/test/unit/filled.js';
import { accessible, axe } from './world.js';

const require = createRequire(import.meta.url);
const fonts = new Map<string, string>();
test.beforeAll(async () => {
  for (const { package: name, file } of Object.values(FONTS)) {
    const bytes = await readFile(join(dirname(require.resolve(`${name}/package.json`)), 'files', file));
    fonts.set(file, `data:font/woff2;base64,${bytes.toString('base64')}`);
  }
});

const PICTURE = `data:image/svg+xml,${encodeURIComponent('<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="1000"><rect width="1600" height="1000" fill="#345"/></svg>')}`;

const WORLD = worldOf({
  pageHref: () => '/there',
  titleOf: () => 'Winter timetable',
  pictureOf: () => ({ width: 1600, height: 1000, variants: [{ width: 1600, src: PICTURE }] }),
  pieceOf: () => [newBlock('quote', 'inner1', { text: 'From the stock' })],
});

/** A start with its first content as the words of a page, and a picture wherever there is a place for one. */
function pageOf(start: Start): PageDocument {
  let n = 0;
  const plain = startDocument(start, 'Night boats', () => `block${n++}`);
  const worded = mapDocument(plain, { text: (text) => text.replace(/‹([^›]*)›/g, '$1') });
  const blocks = worded.blocks.map((block) => {
    const keys = blockTypes[block.type].fields.filter(({ kind }) => kind === 'picture').map(({ key }) => key);
    const shown = keys.map((key) => [key, { pictureId: 1, description: 'A boat at night', isDecorative: false }]);
    const button = block.fields['button'] as { label: string } | null | undefined;
    const led = button ? { button: { ...button, target: { kind: 'outside', url: 'https://lists.example/join' } } } : {};
    return { ...block, fields: { ...block.fields, ...Object.fromEntries(shown), ...led } as FieldValues };
  });
  // A blank page gets its first heading from whoever fills it: without one it can’t be released.
  const hasHeading = blocks.some(({ type }) => type === 'opening');
  const whole = hasHeading ? blocks : [newBlock('opening', 'first1', { heading: 'Night boats' }), ...blocks];
  return { metadata: { title: 'Night boats', description: 'They leave at nine' }, blocks: whole };
}

const themes = Object.entries(THEMES);
for (const [index, start] of STARTS.entries()) {
  const [name, theme] = themes[index % themes.length] as (typeof themes)[number];
  test(`${start} in ${name}: whole and without a finding at four widths, from the left and from the right`, async ({
    page,
  }) => {
    const html = pageHtml(
      pageOf(start),
      {
        ...BARE_FRAME,
        siteName: 'Marrowick',
        homeHref: '/',
        isIndexable: true,
        inlineStyle: stylesheetOf(theme, (file) => fonts.get(file) ?? ''),
      },
      contextOf(WORLD),
    );
    await page.setContent(html);
    for (const width of [320, 390, 768, 1280])
      for (const direction of ['ltr', 'rtl']) {
        await page.setViewportSize({ width, height: 800 });
        await page.evaluate((dir) => (document.documentElement.dir = dir), direction);
        const over = await page.evaluate(
          () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
        );
        expect(over, `${width} ${direction} is wider than the screen`).toBeLessThanOrEqual(0);
      }
    // What is wrong for whoever does not see the page is wrong at every width.
    await page.setViewportSize({ width: 390, height: 800 });
    await page.evaluate(() => (document.documentElement.dir = 'ltr'));
    await accessible(page, start);
  });
}

/** Words without a place to break, and a figure that fills its column: what people write after all. */
const LONG = 'Donaudampfschifffahrtsgesellschaftskapitänsmütze';

for (const type of BLOCK_TYPES)
  test(`${type}: every layout is whole from 320 to 1280, from the left and from the right, also with long words`, async ({
    page,
  }) => {
    const blocks = filledBlocks(type).flatMap((block, n) => [
      { ...block, id: `plain${n}` },
      { ...mapBlock(block, { text: (text) => `${text} ${LONG}`.slice(0, 110) }), id: `long${n}` },
    ]);
    const [, theme] = themes[BLOCK_TYPES.indexOf(type) % themes.length] as (typeof themes)[number];
    await page.setContent(
      pageHtml(
        { metadata: { title: 'All', description: '' }, blocks },
        {
          ...BARE_FRAME,
          siteName: 'Marrowick',
          isIndexable: true,
          inlineStyle: stylesheetOf(theme, (file) => fonts.get(file) ?? ''),
        },
        contextOf(WORLD),
      ),
    );
    for (const width of [320, 1280])
      for (const direction of ['ltr', 'rtl']) {
        await page.setViewportSize({ width, height: 800 });
        await page.evaluate((dir) => (document.documentElement.dir = dir), direction);
        // What reaches beyond the screen, but for what scrolls by itself.
        const beyond = await page.evaluate(() => {
          const screen = document.documentElement.clientWidth;
          const scrolls = (element: Element | null): boolean =>
            element !== null &&
            (/auto|scroll|hidden/.test(getComputedStyle(element).overflowX) || scrolls(element.parentElement));
          return [...document.querySelectorAll('main *')]
            .filter((element) => {
              const { left, right, width } = element.getBoundingClientRect();
              return width > 1 && (left < -1 || right > screen + 1) && !scrolls(element.parentElement);
            })
            .map((element) => `${element.closest('section')?.id} ${element.outerHTML.slice(0, 90)}`);
        });
        expect(beyond, `${width} ${direction}`).toEqual([]);
      }
    // Every layout on its own ground can be read.
    const { violations } = await axe(page).withRules(['color-contrast']).analyze();
    expect(violations.flatMap(({ nodes }) => nodes.map(({ html }) => html.slice(0, 160)))).toEqual([]);
  });

test('printed, a page keeps its words and says where its links lead', async ({ page }) => {
  await page.setContent(
    pageHtml(
      pageOf('offer'),
      { ...BARE_FRAME, siteName: 'Marrowick', inlineStyle: stylesheetOf(THEMES.tide, (file) => fonts.get(file) ?? '') },
      contextOf(worldOf()),
    ),
  );
  await page.emulateMedia({ media: 'print' });
  const heading = page.locator('h1');
  await expect(heading).toBeVisible();
  await expect(page.locator('.ask').last()).toHaveCSS('color', 'rgb(0, 0, 0)');
  const address = await page
    .locator('main a[href^="http"]')
    .first()
    .evaluate((link) => getComputedStyle(link, '::after').content);
  expect(address).toContain('https://lists.example/join');
});
