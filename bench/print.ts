/** Prints one figure with what it is held against; a figure out of bounds makes the run fail at its end. */
let failures = 0;

export function figure(name: string, value: number, unit: string, bound?: { atLeast?: number; atMost?: number }): void {
  const isGood =
    (bound?.atLeast === undefined || value >= bound.atLeast) && (bound?.atMost === undefined || value <= bound.atMost);
  const against =
    bound?.atLeast !== undefined
      ? `, at least ${bound.atLeast}`
      : bound?.atMost !== undefined
        ? `, at most ${bound.atMost}`
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
