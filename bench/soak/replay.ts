import fc from 'fast-check';
import { worlds } from '../../core/test/replay/acts.js';
import { play } from '../../core/test/replay/compare.js';

/**
 * The rules against the naive replay, world after world, for so many minutes. Prints the seed of what differs, with the
 * shortest acts that show it; `SOAK_SEED` begins with that one.
 */
const minutes = Number(process.env['SOAK_MINUTES'] ?? 60);
const AT_ONCE = 100;
const LONGEST = 30;
const until = Date.now() + minutes * 60_000;
let seed = Number(process.env['SOAK_SEED'] ?? Date.now() % 1_000_000_000);
console.log(`replay: ${minutes} minutes from seed ${seed}`);
let count = 0;
let acts = 0;
let told = Date.now();
while (Date.now() < until) {
  for (const { pages, acts: list } of fc.sample(worlds(LONGEST), { numRuns: AT_ONCE, seed })) {
    const { done, difference } = play(pages, list);
    count++;
    acts += done.length;
    if (difference === null) continue;
    // Acts are left out one by one as long as it still differs.
    let short = list;
    for (let n = short.length - 1; n >= 0; n--) {
      const fewer = short.filter((_, at) => at !== n);
      if (play(pages, fewer).difference !== null) short = fewer;
    }
    const shown = play(pages, short);
    console.error(`seed ${seed}: differs`);
    for (const one of shown.done) console.error(`  at ${one.now} ${JSON.stringify(one.act)}`);
    console.error(shown.difference ?? difference);
    process.exit(1);
  }
  seed++;
  if (Date.now() - told < 60_000) continue;
  told = Date.now();
  console.log(`  ${count.toLocaleString('en')} worlds, ${acts.toLocaleString('en')} acts, next seed ${seed}`);
}
console.log(`replay: ${count.toLocaleString('en')} worlds, ${acts.toLocaleString('en')} acts, none differs`);
