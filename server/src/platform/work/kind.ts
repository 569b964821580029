import type { Knex } from 'knex';

/** Under this name processes are told that there is work; the payload is the kind's name. */
export const WORK_CHANNEL = 'domatium_jobs';

/**
 * Work that is done in the background. The product's own tables say what wants doing; the queue says who does it, so
 * that two workers never do one thing twice, and what a killed one held is done by another.
 */
export interface Work {
  readonly name: string;
  /** What wants doing, by keys. What is done names itself no more. */
  readonly pending: () => Promise<readonly string[]>;
  /** Looked at when told of it, and at least this often, in milliseconds. */
  readonly every: number;
  /** Does one thing. What throws is tried again, later and later; a verdict that it can't be done is kept by the work itself. */
  readonly run: (key: string) => Promise<void>;
  /** The first pause after a failure, and the longest, in milliseconds. */
  readonly pauses: readonly [number, number];
  /** What people are told while it fails, before why; nothing where it concerns nobody. */
  readonly words?: string;
}

/** Work that is to be done every so often, in milliseconds, from the start of a worker on. */
export function regularWork(name: string, every: number, run: () => Promise<unknown>): Work {
  let done = -Infinity;
  return {
    name,
    every,
    pauses: [Math.min(every, 10_000), every],
    pending: () => Promise.resolve(performance.now() - done >= every ? ['all'] : []),
    run: async () => {
      await run();
      done = performance.now();
    },
  };
}

/** Says that there is work, when the transaction commits. */
export async function tellWork(db: Knex | Knex.Transaction, name: string): Promise<void> {
  await db.raw('SELECT pg_notify(?, ?)', [WORK_CHANNEL, name]);
}

/** Does all that wants doing, once, without a queue: for what makes data and for tests. */
export async function doAll(works: readonly Work[]): Promise<void> {
  for (const work of works) for (const key of await work.pending()) await work.run(key);
}
