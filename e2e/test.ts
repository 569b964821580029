import { expect, test as base, type BrowserContext, type Response } from '@playwright/test';
import { allEndpoints, type Endpoint } from '@domatium/contracts';
import { checkAnswer } from '../contracts/test/answers.js';

const ENDPOINTS = Object.values(allEndpoints).map((endpoint) => ({
  endpoint,
  path: new RegExp(`^${endpoint.path.replace(/:\w+/g, '[^/]+')}$`),
}));

function endpointOf(response: Response): Endpoint | undefined {
  const { pathname } = new URL(response.url());
  const method = response.request().method();
  return ENDPOINTS.find(({ endpoint, path }) => endpoint.method === method && path.test(pathname))?.endpoint;
}

/**
 * A walk, in which every answer of the API is held against what its description says. Walks of one file after the other
 * go in one browser that keeps the application's files, as people's do, and nothing else: cookies and what pages have
 * stored are gone before each.
 */
export const test = base.extend<{ described: void }, { kept: BrowserContext }>({
  kept: [
    async ({ browser }, use, { project }) => {
      const { viewport, baseURL } = project.use;
      const kept = await browser.newContext({ viewport: viewport ?? null, baseURL: baseURL ?? '' });
      await use(kept);
      await kept.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ kept, baseURL }, use) => {
    const blank = await kept.newPage();
    const session = await kept.newCDPSession(blank);
    await session.send('Storage.clearDataForOrigin', { origin: baseURL ?? '', storageTypes: 'cookies,local_storage' });
    await kept.clearCookies();
    await blank.close();
    await use(kept);
    for (const page of kept.pages()) await page.close();
    await kept.setOffline(false);
  },
  described: [
    async ({ context }, use) => {
      const faults = new Set<string>();
      const looks: Promise<void>[] = [];
      const look = async (response: Response): Promise<void> => {
        const endpoint = endpointOf(response);
        if (endpoint?.answers !== 'json' || response.status() !== 200) return;
        // A page that is left takes the bodies of its answers along.
        const answer: unknown = await response.json().catch(() => undefined);
        if (answer === undefined) return;
        try {
          checkAnswer(endpoint, answer);
        } catch (error) {
          faults.add((error as Error).message);
        }
      };
      const heard = (response: Response) => void looks.push(look(response));
      context.on('response', heard);
      await use();
      context.off('response', heard);
      await Promise.all(looks);
      expect([...faults]).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect } from '@playwright/test';
export type { FrameLocator, Page } from '@playwright/test';
