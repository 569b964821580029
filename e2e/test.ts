import { expect, test as base, type Response } from '@playwright/test';
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

/** A walk, in which every answer of the API is held against what its description says. */
export const test = base.extend<{ described: void }>({
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
      context.on('response', (response) => looks.push(look(response)));
      await use();
      await Promise.all(looks);
      expect([...faults]).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect } from '@playwright/test';
export type { FrameLocator, Page } from '@playwright/test';
