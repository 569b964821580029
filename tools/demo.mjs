// npm run demo: from a bare machine to the running product with the demo data. Built-ins only.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { settingsOrExit } from '../storage/src/settings.mjs';
import { buildWeb, installPackages } from './install.mjs';
import { keepPostgres, recreateDatabase, startPostgres, stopPostgres } from './postgres.mjs';
import { isHealthy, Kept, PROCESSES, ROOT, until } from './processes.mjs';
import { writeWhole } from './whole-file.mjs';

const settings = settingsOrExit();
const home = join(ROOT, '.domatium');
const made = join(home, 'demo.json');
const running = join(home, 'run.json');
const isReset = process.argv.includes('--reset');
const size = process.argv.includes('--size') ? process.argv[process.argv.indexOf('--size') + 1] : null;
if (size !== null && size !== 'ordinary' && size !== 'large') {
  console.error('--size is ordinary (about 290 pages) or large (10,000 pages on 300 domains more)');
  process.exit(2);
}
const began = Date.now();
const STEPS = 6;
let step = 0;

const say = (text) => console.log(`  ${text}`);
const next = (title) => console.log(`[${++step}/${STEPS}] ${title} (${((Date.now() - began) / 1000).toFixed(1)} s)`);

/** Processes of a run that was killed are ended before a new one begins; a run that lives is left alone. */
function endLeftovers() {
  if (!existsSync(running)) return;
  const { main, children } = JSON.parse(readFileSync(running, 'utf8'));
  const runs = (pid, text) => {
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(text);
    } catch {
      return false;
    }
  };
  if (main !== process.pid && runs(main, 'tools/demo.mjs'))
    throw new Error(`The demo runs already (process ${main}). Stop it with Ctrl+C there.`);
  for (const [name, pid] of children) if (runs(pid, PROCESSES[name])) process.kill(pid, 'SIGKILL');
}

function runScript(path, what, environment = {}) {
  return new Promise((done, fail) => {
    const child = spawn(process.execPath, ['--import', 'tsx', path], {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...environment },
    });
    child.once('exit', (code) => (code === 0 ? done() : fail(new Error(`${what} failed (${code})`))));
  });
}

let cluster = null;
let leaveCluster = () => {};
const kept = [];
let isStopping = false;

async function stop(code) {
  if (isStopping) return;
  isStopping = true;
  for (const process of kept) {
    await process.stop();
    say(`${process.name} stopped`);
  }
  if (cluster) {
    leaveCluster();
    stopPostgres(cluster);
    say('database stopped');
  }
  rmSync(running, { force: true });
  process.exit(code);
}

async function main() {
  mkdirSync(home, { recursive: true });
  endLeftovers();
  next('Packages');
  say(installPackages() ? 'installed' : 'unchanged');
  next('Database');
  if (settings.isOwnDatabase)
    cluster = startPostgres({ wanted: join(home, 'postgres'), port: settings.databasePort, say });
  say(settings.databaseUrl.replace(/:[^:@/]*@/, ':…@'));
  next('Demo data');
  if (isReset || !existsSync(made)) {
    // A demo that was not finished is begun again.
    if (cluster) recreateDatabase(cluster.binaries, settings.databasePort);
    rmSync(settings.dataFolder, { recursive: true, force: true });
    rmSync(made, { force: true });
  }
  const there = existsSync(made) ? JSON.parse(readFileSync(made, 'utf8')) : null;
  await runScript('replay/src/main.ts', 'making the demo data', {
    DOMATIUM_DEMO_SIZE: there?.size ?? size ?? 'ordinary',
  });
  const known = there ?? { madeAt: new Date().toISOString(), size: size ?? 'ordinary' };
  writeWhole(made, JSON.stringify(known));
  const isOther = size !== null && size !== (known.size ?? 'ordinary');
  say(isOther ? `there, of ${known.size ?? 'ordinary'} size; --reset --size ${size} makes it anew` : 'there');
  next('Web application');
  say(buildWeb() ? 'built' : 'unchanged');
  next('Server, worker, edge, stand-ins');
  const lines = [];
  const note = (line) => (
    lines.push(line),
    isStopping || /ready:|^\w+: ended/.test(line) ? say(line) : console.error(line)
  );
  const environment = {
    DATABASE_URL: settings.databaseUrl,
    DOMATIUM_APP_PORT: String(settings.appPort),
    DOMATIUM_EDGE_PORT: String(settings.edgePort),
    DOMATIUM_STANDINS_PORT: String(settings.standinsPort),
    DOMATIUM_MAIL_PORT: String(settings.mailPort),
    DOMATIUM_SMTP_URL: settings.smtpUrl ?? `smtp://127.0.0.1:${settings.mailPort}`,
  };
  for (const name of Object.keys(PROCESSES)) kept.push(new Kept(name, environment, note));
  const write = () =>
    writeWhole(
      running,
      JSON.stringify({ main: process.pid, children: kept.map(({ name, child }) => [name, child.pid]) }),
    );
  write();
  setInterval(write, 2000).unref();
  await until(
    async () =>
      (await isHealthy(settings.appPort)) &&
      (await isHealthy(settings.edgePort)) &&
      (await isHealthy(settings.standinsPort)) &&
      lines.some((line) => line.startsWith('worker: ready')),
    'starting',
  );
  if (cluster)
    leaveCluster = keepPostgres(cluster, { wanted: join(home, 'postgres'), port: settings.databasePort, say });
  next('Ready');
  const edge = (host) => `http://${host}.localhost:${settings.edgePort}/`;
  console.log(`
Open the application   http://localhost:${settings.appPort}
Visit published pages  ${edge('marrowick.example')}
                       ${edge('lanternhouse.example')}
                       ${edge('tidehall.example')}
Simulated list service http://lists.localhost:${settings.standinsPort}/
Simulated mail         http://mail.localhost:${settings.standinsPort}/

Sign in, password for all of them: midwinter-crossing
  owner      ingrid.vale@marrowick.example
  publisher  tomas.renn@marrowick.example
  author     maren.holt@marrowick.example
  reader     joss.arden@marrowick.example

Ctrl+C stops everything.
`);
}

process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));
main().catch((error) => {
  console.error(`\n${error.message}`);
  void stop(1);
});
