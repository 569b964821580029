// npm run bench: the measurements of docs/PERFORMANCE.md, one after the other. `npm run bench resolve` runs one.
import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { cpus, totalmem } from 'node:os';
import { installFromDebian } from './postgres.mjs';
import { bundleInto } from './bundle.mjs';
import { buildWeb, installPackages } from './install.mjs';
import { ROOT } from './processes.mjs';
import { run, ThrowAway } from './stack.mjs';

const only = process.argv.slice(2);
const failed = [];
installPackages();
console.log(
  `${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpus()[0]?.model}, ${Math.round(totalmem() / 2 ** 30)} GB, Node ${process.version}\n`,
);

async function part(name, work) {
  if (only.length && !only.includes(name)) return;
  await work().catch((error) => {
    failed.push(name);
    console.error(error.message);
  });
}
const script = (name, environment = {}) =>
  run(name, process.execPath, ['--import', 'tsx', `bench/${name}.bench.ts`], environment);

await part('resolve', () => script('resolve'));
await part('http', () => {
  if (!existsSync('/usr/bin/wrk')) installFromDebian(['wrk'], 'The load generator wrk is missing.', console.log);
  return script('http');
});
await part('press', () => script('press'));
await part('frames', () => script('frames'));
await part('band', () => script('band'));
await part('attack', () => script('attack'));
await part('wires', () => script('wires'));
await part('growth', () => script('growth'));
await part('drag', () => (buildWeb(), script('drag')));
await part('grid', () => (buildWeb(), script('grid')));
await part('patterns', () => script('patterns'));
await part('judgement', () => script('judgement'));
await part('verify', () => script('verify'));
await part('large', () => {
  buildWeb();
  return script('large');
});
await part('editor', () => {
  buildWeb();
  return script('editor');
});
await part('render', async () => {
  await bundleInto('edge/dist', { 'render-bench': 'bench/render.bench.ts' });
  await run('render', process.execPath, ['edge/dist/render-bench.js']);
});
await part('sitemap', async () => {
  await bundleInto('edge/dist', { 'sitemap-bench': 'bench/sitemap.bench.ts' });
  await run('sitemap', process.execPath, ['edge/dist/sitemap-bench.js']);
});
await part('register', async () => {
  const folder = join(ROOT, '.domatium/bench');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const environment = {
    DOMATIUM_APP_PORT: '4860',
    DOMATIUM_EDGE_PORT: '4880',
    DOMATIUM_DB_PORT: '4832',
    DOMATIUM_STANDINS_PORT: '4890',
    DOMATIUM_MAIL_PORT: '4892',
    DOMATIUM_DATA: join(folder, 'data'),
  };
  const stack = new ThrowAway(folder, environment);
  try {
    await stack.demo();
    await script('register', { ...environment, BENCH_PIDS: stack.children.map(({ pid }) => pid).join(',') });
  } finally {
    await stack.stop();
  }
});
if (failed.length) console.error(`\nOut of bounds: ${failed.join(', ')}`);
process.exit(failed.length ? 1 : 0);
