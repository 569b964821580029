import { createHash } from 'node:crypto';
import { expect, test } from './test.js';
import { accessible, published, said, signIn, visit, visitUntil } from './world.js';

const stamp = Date.now().toString(36);
const HOST = 'kelpandsmoke.example';

test('a code runs on the pages it is meant for, for nobody who did not allow it; no other does', async ({
  page,
  context,
}) => {
  await signIn(page);
  await page.goto('/portfolios/1/stock/codes');
  await expect(page.getByRole('table')).toContainText('Tidewatch counter');
  await page.getByRole('button', { name: 'New code' }).click();
  await page.getByLabel('Name', { exact: true }).fill(`Count ${stamp}`);
  await page.getByLabel('A script kept here').check();
  const script = `document.documentElement.dataset.count${stamp} = "yes";`;
  const file = createHash('sha256').update(script).digest('hex');
  await page.getByLabel('Script', { exact: true }).fill(`<script>${script}</script>`);
  await expect(page.getByLabel('Script', { exact: true })).toHaveValue(/^document/);
  await page.getByLabel('Hosts it talks to').fill('take.count.example\n*');
  await expect(page.getByText('Line 2: Enter a host')).toBeVisible();
  await page.getByLabel('Hosts it talks to').fill('take.count.example');
  await page.getByLabel('On these pages only').check();
  await page.getByLabel('Where it runs: Site').selectOption('Kelp & Smoke');
  await page.getByRole('button', { name: 'Add', exact: true }).first().click();
  await expect(page.getByText('All of Kelp & Smoke')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: /^Put on \d+ pages now$/ }).click();
  await said(page, `“Count ${stamp}” is on its way to visitors.`);

  const { body, headers } = await visitUntil(HOST, '/', (got) => got.body.includes(file));
  expect(headers['content-security-policy']).toContain("script-src 'self' https://take.count.example;");
  expect((await visit('tidehall.example', '/')).body).not.toContain(file);
  expect(body).toContain('Only what is necessary');
  const visitor = await context.newPage();
  await visitor.goto(published(HOST, '/'));
  const notice = visitor.getByRole('region', { name: 'Your choice' });
  await expect(notice).toBeVisible();
  await accessible(visitor);
  const counted = () => visitor.evaluate((key) => document.documentElement.dataset[key] ?? null, `count${stamp}`);
  const refused = await visitor.evaluate(
    () =>
      new Promise((resolve) => {
        document.addEventListener('securitypolicyviolation', ({ blockedURI }) => resolve(blockedURI));
        const foreign = document.createElement('script');
        foreign.src = 'https://not-listed.example/x.js';
        document.head.append(foreign);
      }),
  );
  expect([refused, await counted()]).toEqual(['https://not-listed.example/x.js', null]);
  // By keyboard alone, from the foot of the page and back.
  const told = visitor.waitForRequest(/\/-\/choice\/measuring=1$/);
  await notice.getByRole('button', { name: 'Allow all' }).press('Enter');
  await told;
  await expect.poll(counted).toBe('yes');
  await visitor.reload();
  await expect.poll(counted).toBe('yes');
  await expect(notice).toBeHidden();
  await visitor.getByRole('button', { name: 'Privacy choices' }).press('Enter');
  await expect(notice).toBeFocused();
  await notice.getByRole('button', { name: 'Only what is necessary' }).click();
  await expect(notice).toBeHidden();
  await expect.poll(counted).toBe(null);
  await visitor.close();

  await page.getByRole('button', { name: 'Nothing', exact: true }).click();
  await page.getByRole('button', { name: /^Take off \d+ pages now$/ }).click();
  await visitUntil(HOST, '/', (got) => !got.body.includes(file));
  // This browser says that it is a program; people are counted.
  expect((await visit(HOST, '/-/choice/measuring=0')).status).toBe(204);
  await expect(async () => {
    await page.goto('/portfolios/1/stock/codes');
    await expect(page.getByText(/^Measuring: \d+ of [1-9]\d* allowed it/)).toBeVisible({ timeout: 3_000 });
  }).toPass();
});

test('lines for crawlers are tried before they hold, and keep what they forbid out of the sitemap', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/portfolios/1/stock/root');
  await page.getByRole('button', { name: /^Kelp & Smoke/ }).click();
  const lines = page.getByRole('textbox', { name: 'robots.txt' });
  await lines.fill('Disallow: /early\nUser-agent: *\nDisallow: /christmas');
  await expect(page.getByText('Line 1: No crawler heeds this line')).toBeVisible();
  await lines.fill('User-agent: *\nDisallow: /christmas');
  await page.getByLabel('Address', { exact: true }).fill('https://kelpandsmoke.example/christmas');
  await expect(page.getByText('No: line 2 forbids /christmas.')).toBeVisible();
  await page.getByRole('button', { name: 'Add a file' }).click();
  await page.getByLabel('Name of file 1').fill(`../${stamp}.txt`);
  await expect(page.getByRole('region', { name: 'Files' }).getByText('Use letters, digits')).toBeVisible();
  await page.getByLabel('Name of file 1').fill(`check-${stamp}.txt`);
  await page.getByLabel('Content of file 1').fill(stamp);
  await accessible(page);
  expect((await visit(HOST, '/sitemap.xml')).body).toContain('/christmas</loc>');
  await page.getByRole('button', { name: 'Put live now' }).click();
  const { body, headers } = await visitUntil(HOST, `/check-${stamp}.txt`, ({ status }) => status === 200);
  expect([body, headers['content-type']]).toEqual([stamp, 'text/plain; charset=utf-8']);
  expect((await visit(HOST, '/robots.txt')).body).toMatch(/^User-agent: \*\nDisallow: \/christmas\n\nSitemap: /);
  expect((await visit(HOST, '/sitemap.xml')).body).not.toContain('/christmas</loc>');
  await page.goto('/portfolios/1/pages');
  await page.getByRole('button', { name: 'Found by search', exact: true }).click();
  await expect(page.getByRole('button', { name: /^No: robots\.txt/ })).toBeVisible();
  await page.goto('/portfolios/1/stock/root');
  await page.getByRole('button', { name: /^Kelp & Smoke/ }).click();
  await page.getByRole('button', { name: 'Nothing', exact: true }).click();
  await page.getByRole('button', { name: 'Take off now' }).click();
  await visitUntil(HOST, `/check-${stamp}.txt`, ({ status }) => status === 404);
});
