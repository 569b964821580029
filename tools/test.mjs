// npm test: everything that must hold, each part with its time. Uses its own ports and its own throw-away PostgreSQL.
import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { settingsOrExit } from '../storage/src/settings.mjs';
import { installPackages } from './install.mjs';
import { installFromDebian } from './postgres.mjs';
import { ROOT } from './processes.mjs';
import { run, ThrowAway } from './stack.mjs';

const only = process.argv.slice(2);
const PORTS = {
  DOMATIUM_APP_PORT: '4700',
  DOMATIUM_EDGE_PORT: '4780',
  DOMATIUM_DB_PORT: '4732',
  DOMATIUM_STANDINS_PORT: '4790',
  DOMATIUM_MAIL_PORT: '4792',
  DOMATIUM_SMTP_URL: 'smtp://127.0.0.1:4792',
};
/** Of the second installation, on which half of the walks go. */
const TWIN_PORTS = {
  DOMATIUM_APP_PORT: '4701',
  DOMATIUM_EDGE_PORT: '4781',
  DOMATIUM_STANDINS_PORT: '4791',
  DOMATIUM_MAIL_PORT: '4793',
  DOMATIUM_SMTP_URL: 'smtp://127.0.0.1:4793',
  // 70 above its application lie those of the first.
  DOMATIUM_METRICS_PORT: '4775',
};
settingsOrExit();
const folder = join(ROOT, '.domatium/test');
const environment = {
  ...PORTS,
  DOMATIUM_DATA: join(folder, 'data'),
  NODE_OPTIONS: '--disable-warning=ExperimentalWarning',
};
delete process.env.DATABASE_URL;
const done = [];
const stack = new ThrowAway(folder, environment);
const twin = new ThrowAway(join(folder, 'twin'), {
  ...environment,
  ...TWIN_PORTS,
  DOMATIUM_DATA: join(folder, 'twin-data'),
});

async function part(name, work) {
  if (only.length && !only.includes(name)) return;
  const began = Date.now();
  console.log(`\n== ${name}`);
  const failure = await Promise.resolve()
    .then(work)
    .then(
      () => null,
      (error) => error,
    );
  done.push({ name, seconds: (Date.now() - began) / 1000, failure });
  if (failure) throw failure;
}

const bin = (what, path, ...args) => run(what, process.execPath, [join('node_modules', path), ...args], environment);
const jest = (project, args = [], mark = '') =>
  run(
    project,
    process.execPath,
    ['--experimental-vm-modules', 'node_modules/jest/bin/jest.js', '--selectProjects', project, ...args],
    environment,
    mark,
  );

/** Several ways at the same time: each goes to its own end before the first that failed fails all. */
async function together(...ways) {
  const results = await Promise.allSettled(ways.map((way) => way()));
  const failed = results.find(({ status }) => status === 'rejected');
  if (failed) throw failed.reason;
}

/** Small pictures of pages are drawn by it; the walks go in its shell, which has no windows and takes a fifth less. */
function installChromium() {
  const missing = ['chromium', 'chromium-headless-shell'].filter((name) => !existsSync(`/usr/bin/${name}`));
  if (missing.length) installFromDebian(missing, 'Chromium is missing.', console.log);
  if (!existsSync('/usr/sbin/nginx')) installFromDebian(['nginx-light', 'openssl'], 'nginx is missing.', console.log);
}

const walks = (project, environmentOf = environment, mark = '') =>
  run(
    'walks',
    process.execPath,
    ['node_modules/@playwright/test/cli.js', 'test', '-c', 'e2e/playwright.config.ts', `--project=${project}`],
    environmentOf,
    mark,
  );

/** What needs nothing but the files. */
async function withoutDatabase() {
  await part('formatting', () => bin('formatting', 'prettier/bin/prettier.cjs', '--check', '--log-level=warn', '.'));
  await part('lint', () => bin('lint', 'eslint/bin/eslint.js', '.', '--max-warnings=0'));
  await part('dependency-rules', () =>
    bin(
      'dependency rules',
      'dependency-cruiser/bin/dependency-cruise.mjs',
      '--config',
      '.dependency-cruiser.cjs',
      '--output-type',
      'err',
      'core',
      'contracts',
      'storage',
      'server',
      'edge',
      'demo',
      'replay',
      'standins',
      'web/src',
    ),
  );
  await part('types', async () => {
    await bin('types', 'typescript/bin/tsc', '-p', '.');
    await bin('types of the tests of web', 'typescript/bin/tsc', '-p', 'web/tsconfig.spec.json', '--noEmit');
    await bin('types of the web worker', 'typescript/bin/tsc', '-p', 'web/tsconfig.worker.json', '--noEmit');
  });
  await part('unit', () => jest('unit'));
  await part('web', () => jest('web-together'));
  // Pages as they are drawn: these need a browser and nothing of the demo.
  await part('starts', () => (installChromium(), walks('own')));
}

const FAULTS = 'faults\\.spec';
/** Real processes mostly wait, so the rest goes beside them. */
async function withDatabase() {
  await part('process', () => {
    installChromium();
    stack.database();
    return jest('process', ['--maxWorkers=2', '--testPathIgnorePatterns', FAULTS], 'process | ');
  });
  // Those that kill and freeze processes, and measure how soon all is well.
  await part('faults', () => jest('process', ['--runInBand', '--testPathPatterns', FAULTS], 'faults | '));
  await part('demo', () => stack.demo('demo | ', twin));
}

async function main() {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  await part('packages', () => console.log(installPackages() ? 'installed' : 'unchanged'));
  await together(withoutDatabase, withDatabase);
  await together(
    () => part('walks', () => walks('demo', environment, 'walks | ')),
    () => part('walks of the twin', () => walks('twin', twin.environment, 'twin | ')),
  );
}

const interrupted = () =>
  void twin
    .stop()
    .then(() => stack.stop())
    .then(() => process.exit(130));
process.on('SIGINT', interrupted);
process.on('SIGTERM', interrupted);
const failed = () => done.filter(({ failure }) => failure);
const broke = await main().catch((error) => error);
await twin.stop();
await stack.stop();
console.log('\nTimes');
for (const { name, seconds } of done) console.log(`  ${name.padEnd(18)} ${seconds.toFixed(1)} s`);
for (const { name, failure } of failed()) console.error(`\n${name}: ${failure.message}`);
if (broke && !failed().length) console.error(broke);
console.log(`\n${done.length - failed().length} passed, ${failed().length} failed`);
process.exit(broke ? 1 : 0);
