// npm run soak: the rules against the naive replay for an hour, then a fight of eight clients for two minutes.
// `npm run soak replay` or `fight` runs one; SOAK_MINUTES, SOAK_SEED and FIGHT_MINUTES change how long and from where.
import { installPackages } from './install.mjs';
import { run } from './stack.mjs';

const only = process.argv.slice(2);
installPackages();
for (const name of ['replay', 'fight'])
  if (!only.length || only.includes(name))
    try {
      await run(name, process.execPath, ['--import', 'tsx', `bench/soak/${name}.ts`], {});
    } catch (error) {
      console.error(error.message);
      process.exit(1);
    }
