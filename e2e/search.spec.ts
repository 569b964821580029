import { expect, test } from './test.js';
import { accessible, makePage, openSheet, signIn, visit, visitUntil } from './world.js';

const stamp = Date.now().toString(36);

test('a page is kept out of search from its release on, and the register says so', async ({ page }) => {
  const path = `/for-few-${stamp}`;
  await signIn(page);
  await makePage(page, `For few ${stamp}`);
  await page.getByRole('button', { name: /^Page Title, search/ }).click();
  const card = page.getByRole('region', { name: 'Search and sharing' });
  await page.getByLabel('Title', { exact: true }).fill('Midwinter Crossing!');
  await expect(page.getByText('Same title: Midwinter crossing, marrowick.example/midwinter')).toBeVisible();
  await page.getByLabel('Title', { exact: true }).fill(`For few ${stamp}`);
  await expect(page.getByText('Same title:')).toBeHidden();
  const asked = page.getByRole('region', { name: 'Search engines' });
  await asked.getByLabel('Keep out of search results').check();
  await asked.getByLabel('Text below a result', { exact: true }).selectOption('none');
  await card.getByLabel('Title where it is shared').fill('Only for you');
  // As it would look there, with the suffix of the portfolio.
  await expect(card.getByText(`For few ${stamp} | Marrowick`)).toBeVisible();
  await page.getByLabel('Without prefix and suffix').check();
  await expect(card.getByText(`For few ${stamp} | Marrowick`)).toBeHidden();
  await accessible(page);
  await page.getByRole('button', { name: 'Release…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put revision 1 live/ })
    .click();
  const { body } = await visitUntil('marrowick.example', path, ({ status }) => status === 200);
  expect(body).toContain('<meta name="robots" content="noindex, max-snippet:0">');
  expect(body).toContain('<meta property="og:title" content="Only for you">');
  expect((await visit('marrowick.example', '/winter')).body).not.toContain('name="robots"');
  const sitemap = (await visit('marrowick.example', '/sitemap.xml')).body;
  expect([sitemap.includes(`${path}</loc>`), sitemap.includes('/winter</loc>')]).toEqual([false, true]);

  await page.goto('/portfolios/1/pages');
  await page.getByRole('button', { name: 'Found by search', exact: true }).click();
  await page.getByRole('button', { name: /^No: kept out itself/ }).click();
  await expect(page.getByText(`For few ${stamp}`).first()).toBeVisible();
  await openSheet(page, `For few ${stamp}`);
  await expect(page.getByRole('complementary').getByText('No: kept out itself')).toBeVisible();
});

test('what is set for a path holds for its pages for as long as it is, and each says where it comes from', async ({
  page,
}) => {
  const path = `/set-${stamp}`;
  await signIn(page);
  await makePage(page, `Set ${stamp}`);
  await page.getByRole('button', { name: 'Release…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put revision 1 live/ })
    .click();
  await visitUntil('marrowick.example', path, ({ status }) => status === 200);
  const isListed = async () => (await visit('marrowick.example', '/sitemap.xml')).body.includes(`${path}</loc>`);
  expect(await isListed()).toBe(true);
  await page.goto('/portfolios/1/stock/search');
  await page.getByRole('button', { name: 'Add a path…' }).click();
  await page.getByLabel('Site', { exact: true }).selectOption('Ferries');
  await page.getByLabel('Path', { exact: true }).fill(path);
  await page.getByRole('button', { name: 'Make the rule' }).click();
  await page.getByLabel('Title prefix').fill('{nobody}:');
  await expect(page.getByText('{nobody} has no value').first()).toBeVisible();
  await page.getByLabel('Title prefix').fill('Set:');
  await expect(page.getByText('From All sites: | {site name}')).toBeVisible();
  await page.getByRole('button', { name: 'Set it here' }).click();
  await page.getByLabel('Keep out of search results').check();
  await page.getByRole('button', { name: 'Add an element' }).click();
  await page.getByLabel('Name of element 1').fill('robots');
  await expect(page.getByText('Pages say this by a field of their own.')).toBeVisible();
  await page.getByLabel('Name of element 1').fill('author');
  await page.getByLabel('Content of element 1').fill('The "coast"');
  await expect(page.getByText(`Set: Set ${stamp} | Marrowick`)).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: /^Put on 1 page/ }).click();
  const { body } = await visitUntil('marrowick.example', path, (answer) => answer.body.includes('noindex'));
  expect(body).toContain(`<title>Set: Set ${stamp} | Marrowick</title>`);
  expect(await isListed()).toBe(false);
  expect(body).toContain('<meta name="author" content="The &quot;coast&quot;">');
  expect((await visit('marrowick.example', '/winter')).body).not.toContain('name="robots"');

  await page.goto('/portfolios/1/pages');
  await openSheet(page, `Set ${stamp}`);
  await expect(page.getByRole('complementary').getByText('No: kept out by a rule')).toBeVisible();
  await page.getByRole('button', { name: /^Edit/ }).first().click();
  await page.getByRole('button', { name: /^Page Title, search/ }).click();
  const asked = page.getByRole('region', { name: 'Search engines' });
  await expect(asked.getByText('Kept out of search results')).toBeVisible();
  await expect(asked.getByText(`from ${path} and below, Ferries`)).toBeVisible();
  await asked.getByRole('button', { name: 'Own settings for this page' }).click();
  await expect(asked.getByLabel('Keep out of search results')).not.toBeChecked();
});

test('many pages get their descriptions by a pattern, seen on each before, as one release', async ({ page }) => {
  const names = [1, 2].map((n) => `Pattern ${n} ${stamp}`);
  await signIn(page);
  for (const name of names) {
    await makePage(page, name);
    await page.goto('/portfolios/1/pages');
  }
  await page.getByRole('searchbox').fill(stamp);
  for (const name of names)
    await page
      .getByRole('row')
      .filter({ has: page.getByText(name, { exact: true }) })
      .getByRole('checkbox')
      .check();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'Titles and search…' }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByLabel('What is set').selectOption('Description');
  await sheet.getByLabel('Pattern').fill('About {page name}, by {site name');
  await expect(sheet.getByText('A { or } has no partner')).toBeVisible();
  await sheet.getByLabel('Pattern').fill('About {page name}, by {site name}.');
  await sheet.getByLabel('Replace what pages have of their own').check();
  await expect(sheet.getByText(`About ${names[1]}, by Marrowick.`)).toBeVisible();
  await accessible(page);
  await sheet.getByRole('button', { name: 'Change 2 drafts and go on to release' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put 2 pages live/ })
    .click();
  const path = (n: number) => `/pattern-${n}-${stamp}`;
  const { body } = await visitUntil('marrowick.example', path(2), ({ status }) => status === 200);
  expect(body).toContain(`<meta name="description" content="About ${names[1]}, by Marrowick.">`);
});

test('the settings of a page are one sheet over its draft, from the list; another page is shown instead of it', async ({
  page,
}) => {
  const name = `Settings ${stamp}`;
  await signIn(page);
  await makePage(page, name);
  await page.goto('/portfolios/1/pages');
  await openSheet(page, name);
  await page.getByRole('complementary').getByRole('button', { name: 'More' }).click();
  await page.getByRole('button', { name: 'Settings…' }).click();
  const sheet = page.getByRole('dialog', { name: `Settings of ${name}` });
  await sheet.getByLabel('Internal name').fill(`${name}, renamed`);
  await sheet.getByLabel('Internal name').press('Enter');
  await expect(page.getByRole('dialog', { name: `Settings of ${name}, renamed` })).toBeVisible();
  const renamed = page.getByRole('dialog', { name: `Settings of ${name}, renamed` });
  await renamed
    .getByLabel('Title', { exact: true })
    .fill('Set in the sheet, with far more words than any search engine shows');
  await expect(renamed.getByText(/Title is \d+ characters/)).toBeVisible();
  await renamed.getByRole('button', { name: 'Shorten it at a word' }).click();
  await expect(renamed.getByText(/Title is \d+ characters/)).toBeHidden();
  const phrases = renamed.getByRole('region', { name: 'Target phrases' });
  await phrases.getByLabel('What people search for').fill('set in the SHEET');
  await phrases.getByLabel('What people search for').press('Enter');
  await expect(phrases.getByText('Title: there')).toBeVisible();
  await expect(phrases.getByText('Address: not there')).toBeVisible();
  const facts = renamed.getByRole('region', { name: 'Structured data' });
  await facts.getByRole('button', { name: 'Event' }).click();
  await expect(facts.getByText(/Missing: begins, name of the place, address\./)).toBeVisible();
  await facts.getByLabel('Name of the place').fill('Old pier </script>');
  await facts.getByLabel('Address').fill('Pier 1');
  await facts.getByLabel('Begins, day').fill('1 July 2027');
  await facts.getByLabel('Begins, day').press('Enter');
  await expect(facts.getByText('Complete. It would help to add')).toBeVisible();
  const canonical = renamed.getByRole('region', { name: 'Canonical address' });
  await canonical.getByRole('button', { name: 'Elsewhere' }).click();
  await canonical.getByPlaceholder('Name or address of a page').fill('Night boat');
  await page
    .getByRole('option', { name: /Night boat/ })
    .first()
    .click();
  await expect(renamed.getByText(/^Saved/)).toBeVisible();
  await accessible(page);
  await renamed.getByRole('button', { name: 'Release…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put revision 1 live/ })
    .click();
  const { body } = await visitUntil('marrowick.example', `/settings-${stamp}`, ({ status }) => status === 200);
  expect(body).toMatch(
    /<title>Set in the sheet, with far more words than any search \| Marrowick<|<title>Set in the sheet/,
  );
  expect(body).not.toContain('SHEET');
  // What is stated is in the page as it was written, and runs nowhere.
  const [, graph = ''] = /<script type="application\/ld\+json">([^]*?)<\/script>/.exec(body) ?? [];
  const stated = (JSON.parse(graph) as { '@graph': { '@type': string; location?: object }[] })['@graph'];
  expect(stated.find((one) => one['@type'] === 'Event')).toMatchObject({
    startDate: expect.stringMatching(/^2027-07-01T/),
    location: { name: 'Old pier </script>', address: 'Pier 1' },
  });
  expect(body).toMatch(/<link rel="canonical" href="[^"]*\/night-boat">/);
  await page.goto(`/portfolios/1/pages`);
  await openSheet(page, `${name}, renamed`);
  await expect(page.getByRole('complementary').getByText('No: another page stands for it')).toBeVisible();
});

test('titles of many pages are typed, pasted, filled down and replaced in a grid, kept from being lost, and go out as one', async ({
  page,
}) => {
  const names = [1, 2, 3].map((n) => `Grid ${n} ${stamp}`);
  await signIn(page);
  for (const name of names) {
    await makePage(page, name);
    await page.goto('/portfolios/1/pages');
  }
  await page.getByRole('searchbox').fill(`Grid ${stamp}`);
  await expect(page.locator('.ag-row')).toHaveCount(3);
  await page.locator('.ag-header input[type=checkbox]').check();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: 'Settings in a grid…' }).click();
  await expect(page.getByRole('heading', { name: 'Settings of 3 pages' })).toBeVisible();
  const cell = (row: number, key: string) => page.locator(`.ag-row[row-index="${row}"] [col-id="${key}"]`);
  await accessible(page);

  await cell(0, 'title').click();
  await page.keyboard.type('Winter fares');
  await page.keyboard.press('Enter');
  await expect(cell(0, 'title')).toContainText('Winter fares');
  // The first into those below it.
  await cell(0, 'title').click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect(cell(2, 'title')).toContainText('Winter fares');
  await expect(page.getByText('3 pages changed, not in drafts yet')).toBeVisible();
  // Two columns of two rows from a spreadsheet, one of its cells with a line end; what has no room is said.
  await cell(1, 'description').click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'From the pier.\tShared one\n"Two\nlines"\tShared two\nNo room\tat all');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(cell(2, 'description')).toContainText('Two lines');
  await expect(cell(2, 'shareTitle')).toContainText('Shared two');
  await expect(page.getByText('2 cells had no room in the grid and were left out.')).toBeVisible();
  await page.getByLabel('Find', { exact: true }).fill('WINTER');
  await page.getByLabel('Replace with').fill('Summer');
  await expect(page.getByText('3 places in 3 cells')).toBeVisible();
  await page.getByRole('button', { name: 'Replace all' }).click();
  await expect(cell(0, 'title')).toContainText('Summer fares');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cell(2, 'title')).toContainText('Winter fares');
  await page.getByRole('button', { name: 'Redo' }).click();
  await cell(1, 'description').click();
  await page.keyboard.press('Delete');
  await expect(cell(1, 'description')).not.toContainText('From the pier.');
  await page.keyboard.press('Control+z');
  await expect(cell(1, 'description')).toContainText('From the pier.');

  await page.getByRole('button', { name: '← Pages' }).click();
  await expect(page.getByText('The changes of 3 pages are not in drafts yet. Leave without them?')).toBeVisible();
  await page.getByRole('button', { name: 'Keep editing' }).click();
  await page.getByRole('button', { name: 'Change 3 drafts and go on to release' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Put 3 pages live/ })
    .click();
  const path = (n: number) => `/grid-${n}-${stamp}`;
  const { body } = await visitUntil('marrowick.example', path(3), ({ status }) => status === 200);
  expect(body).toContain('<title>Summer fares');
});
