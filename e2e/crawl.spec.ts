import { expect, test } from './test.js';
import { signIn, visit } from './world.js';

// Of the demo as it is made: it stands before all walks that make pages.
test('from the home pages visitors reach every live page that is in a menu or linked', async ({ page }) => {
  test.setTimeout(180_000);
  await signIn(page);
  const pagesOf = async (query: string) => {
    const answer = await page.request.get(`/api/portfolios/1/register/export.json?state=live${query}`);
    return (await answer.json()) as { name: string; address: string }[];
  };
  const live = await pagesOf('');
  const alone = new Set((await pagesOf('&ways=unlinked')).map(({ address }) => address));
  const homes = live.map(({ address }) => address).filter((address) => address.endsWith('/'));
  const reached = new Set(homes);
  const left = [...homes];
  for (let next = left.pop(); next !== undefined; next = left.pop()) {
    const { hostname, pathname } = new URL(`http://${next}`);
    const { status, body } = await visit(hostname, pathname);
    if (status !== 200) continue;
    for (const [, href = ''] of body.matchAll(/<a [^>]*href="([^"#?]*)/g)) {
      const url = new URL(href || '/', `http://${hostname}.localhost`);
      const address = `${url.hostname.replace(/\.localhost$/, '')}${url.pathname}`;
      if (!reached.has(address)) left.push(address);
      reached.add(address);
    }
  }
  const missed = live.filter(
    ({ address }) => !address.endsWith('/-/not-found') && !alone.has(address) && !reached.has(address),
  );
  expect(homes.length).toBeGreaterThan(5);
  expect(reached.size).toBeGreaterThan(30);
  expect(missed.map(({ name }) => name)).toEqual([]);
});
