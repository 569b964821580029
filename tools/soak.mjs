// npm run soak: the rules against the naive replay for an hour, a fight of eight clients for two minutes, then half an hour of faults.
// `npm run soak replay`, `fight` or `faults` runs one; SOAK_MINUTES, SOAK_SEED, FIGHT_MINUTES and FAULT_MINUTES change how long and from where.
import { installPackages } from './install.mjs';
import { run } from './stack.mjs';

const only = process.argv.slice(2);
installPackages();
for (const name of ['replay', 'fight', 'faults'])
  if (!only.length || only.includes(name))
    try {
      await run(name, process.execPath, ['--import', 'tsx', `bench/soak/${name}.ts`], {});
    } catch (error) {
      console.error(error.message);
      process.exit(1);
    }
