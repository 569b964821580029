import { warn } from '@domatium/storage';
import { setTimeout as pause } from 'node:timers/promises';
import { isDiskTrouble, isUnavailable } from '../errors.js';

const LONGEST = 2_000;

/** Does what a process begins with, as soon as database and disk are there; says once what it waits for. */
export async function whenThere<T>(name: string, work: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++)
    try {
      return await work();
    } catch (error) {
      if (!isUnavailable(error) && !isDiskTrouble(error)) throw error;
      warn(`${name} waits`, error);
      await pause(Math.min(LONGEST, 100 * 2 ** tries) * (0.5 + Math.random() / 2));
    }
}
