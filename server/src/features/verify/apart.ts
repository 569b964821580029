import { spawn } from 'node:child_process';
import { setPriority } from 'node:os';
import type { PortfolioId } from '@domatium/core/plan';
import { entryOf } from '../../entries.js';

/** It found differences: that is said where people see it, and no failure of the verifying. */
const DIFFERS = 1;
const LOWEST = 19;

/** Verifies a portfolio in a process of its own, behind everything else: deriving ten thousand pages anew takes seconds. */
export function verifyApart(portfolioId: PortfolioId): Promise<void> {
  return new Promise((done, fail) => {
    const { path, execArgv } = entryOf('verify');
    const child = spawn(process.execPath, [...execArgv, path, String(portfolioId)], { stdio: 'ignore' });
    child.once('error', fail);
    child.once('exit', (code) =>
      code === 0 || code === DIFFERS
        ? done()
        : fail(new Error(`Verifying portfolio ${portfolioId} ended with ${code}`)),
    );
    if (child.pid) setPriority(child.pid, LOWEST);
  });
}
