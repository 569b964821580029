import { spawn } from 'node:child_process';
import { setPriority } from 'node:os';
import { join } from 'node:path';
import type { PortfolioId } from '@domatium/core/plan';

/** It found differences: that is said where people see it, and no failure of the verifying. */
const DIFFERS = 1;
const LOWEST = 19;

/** Verifies a portfolio in a process of its own, behind everything else: deriving ten thousand pages anew takes seconds. */
export function verifyApart(portfolioId: PortfolioId): Promise<void> {
  return new Promise((done, fail) => {
    const child = spawn(
      process.execPath,
      ['--import', 'tsx', join(import.meta.dirname, 'main.ts'), String(portfolioId)],
      { stdio: 'ignore' },
    );
    child.once('error', fail);
    child.once('exit', (code) =>
      code === 0 || code === DIFFERS
        ? done()
        : fail(new Error(`Verifying portfolio ${portfolioId} ended with ${code}`)),
    );
    if (child.pid) setPriority(child.pid, LOWEST);
  });
}
