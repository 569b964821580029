/** What `fixedWork` takes, in milliseconds, on the machine for which the bounds in time were set (28 November). */
const REFERENCE = { node: 130, browser: 150 };

/**
 * A piece of work that is always the same: numbers made, sorted and added up. Gives the milliseconds of the quickest of
 * five. Runs as it stands in a browser too.
 */
export function fixedWork(): number {
  let best = Infinity;
  for (let round = 0; round < 5; round++) {
    const began = performance.now();
    let seed = 1;
    const numbers = Array.from({ length: 200_000 }, () => (seed = (seed * 48_271) % 2_147_483_647));
    numbers.sort((a, b) => a - b);
    const texts = new Map(numbers.map((value, index) => [`${value % 5_000}`, index]));
    if (texts.size !== 5_000) throw new Error('The fixed work is another');
    best = Math.min(best, performance.now() - began);
  }
  return best;
}

/** By how much bounds in time are widened: a slower machine may take as much longer as the fixed work does here. */
const inNode = fixedWork();
let slower = Math.max(1, inNode / REFERENCE.node);
console.log(`  fixed piece of work in Node: ${inNode.toFixed(0)} ms, bounds in time × ${slower.toFixed(2)}`);

/** Measures the fixed work in a browser as well: what is painted is bounded by the slower of both. */
export async function scaleByBrowser(page: { evaluate: (work: () => number) => Promise<number> }): Promise<void> {
  const ms = await page.evaluate(fixedWork);
  slower = Math.max(slower, ms / REFERENCE.browser);
  console.log(`  fixed piece of work in the browser: ${ms.toFixed(0)} ms, bounds in time × ${slower.toFixed(2)}`);
}

const TIMES = new Set(['ms', 's']);
const RATES = new Set(['frames/s']);

/** A bound as it holds on this machine. */
function scaled(
  unit: string,
  bound: { atLeast?: number; atMost?: number } = {},
): { atLeast?: number; atMost?: number } {
  const { atLeast, atMost } = bound;
  return {
    ...(atMost === undefined ? {} : { atMost: TIMES.has(unit) ? atMost * slower : atMost }),
    ...(atLeast === undefined ? {} : { atLeast: RATES.has(unit) ? atLeast / slower : atLeast }),
  };
}

/** Prints one figure with what it is held against; a figure out of bounds makes the run fail at its end. */
let failures = 0;

export function figure(name: string, value: number, unit: string, set?: { atLeast?: number; atMost?: number }): void {
  const bound = scaled(unit, set);
  const isGood =
    (bound.atLeast === undefined || value >= bound.atLeast) && (bound.atMost === undefined || value <= bound.atMost);
  const against =
    bound.atLeast !== undefined
      ? `, at least ${Number(bound.atLeast.toFixed(1))}`
      : bound.atMost !== undefined
        ? `, at most ${Number(bound.atMost.toFixed(1))}`
        : '';
  if (!isGood) failures++;
  console.log(
    `  ${isGood ? ' ' : '!'} ${name}: ${value >= 100 ? Math.round(value).toLocaleString('en') : value.toFixed(2)} ${unit}${against}`,
  );
}

export function finish(): void {
  process.exitCode = failures ? 1 : 0;
}

export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}

export const median = (values: readonly number[]): number => percentile(values, 0.5);
