// Brings up PostgreSQL on loopback in a folder of its own. Built-ins only.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  accessSync,
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';

const ROOT = '/usr/lib/postgresql';
const isRoot = process.getuid?.() === 0;
const USER = 'domatium';

/** The folder of the newest server binaries, or null. */
export function findBinaries() {
  const versions = existsSync(ROOT)
    ? readdirSync(ROOT).filter((name) => existsSync(join(ROOT, name, 'bin/initdb')))
    : [];
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  if (newest) return join(ROOT, newest, 'bin');
  const asked = spawnSync('pg_config', ['--bindir'], { encoding: 'utf8' });
  const folder = asked.status === 0 ? asked.stdout.trim() : '';
  return folder && existsSync(join(folder, 'initdb')) ? folder : null;
}

/** Installs packages from Debian where we may; says the exact command where not. */
export function installFromDebian(packages, why, say) {
  const command = `apt-get update && apt-get install -y ${packages.join(' ')}`;
  if (!isRoot || !existsSync('/usr/bin/apt-get'))
    throw new Error(`${why} Install it, then start again:\n  sudo sh -c '${command}'`);
  say(`installing ${packages.join(', ')} from Debian's packages`);
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const run = (...args) => execFileSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env: environment });
  if (
    packages.some((name) => name.startsWith('postgresql')) &&
    !existsSync('/etc/postgresql-common/createcluster.conf')
  ) {
    // Debian would start a cluster of its own.
    mkdirSync('/etc/postgresql-common', { recursive: true });
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  run('update', '-qq');
  run('install', '-y', '-qq', '-o', 'Dpkg::Options::=--force-confold', ...packages);
}

/** Runs a program as the user `postgres` where we are root: the server refuses root. */
function asServer(program, args, options = {}) {
  const environment = { PATH: process.env.PATH, LANG: 'C.UTF-8', LC_ALL: 'C.UTF-8' };
  const [command, all] = isRoot
    ? ['setpriv', ['--reuid=postgres', '--regid=postgres', '--init-groups', program, ...args]]
    : [program, args];
  return spawnSync(command, all, { cwd: '/', env: environment, encoding: 'utf8', ...options });
}

function folderFor(wanted) {
  if (!isRoot) return wanted;
  mkdirSync(wanted, { recursive: true });
  // The server's user must be able to get there.
  if (asServer('test', ['-x', join(wanted, '..')]).status === 0) return wanted;
  return join('/var/tmp', `domatium-${createHash('sha256').update(wanted).digest('hex').slice(0, 12)}`);
}

function must(result, what) {
  if (result.status !== 0) throw new Error(`${what} failed:\n${result.stderr || result.stdout}`);
}

/** Starts a cluster in `wanted` on a port, making it where it is not there; gives its folder. `isThrowAway`: no fsync. */
export function startPostgres({ wanted, port, isThrowAway = false, say = () => {} }) {
  if (!findBinaries()) installFromDebian(['postgresql'], 'PostgreSQL is missing.', say);
  const binaries = findBinaries();
  if (!binaries) throw new Error('PostgreSQL can’t be found after its installation.');
  const folder = folderFor(wanted);
  if (!existsSync(join(folder, 'PG_VERSION'))) create(binaries, folder, say);
  const running = asServer(join(binaries, 'pg_ctl'), ['-D', folder, 'status']).status === 0;
  if (running && portOf(folder) === port) return { folder, binaries };
  if (running) stopPostgres({ folder, binaries });
  const options = [
    `-p ${port}`,
    '-c listen_addresses=127.0.0.1',
    "-c unix_socket_directories=''",
    '-c max_connections=60',
    ...(isThrowAway ? ['-c fsync=off', '-c synchronous_commit=off', '-c full_page_writes=off'] : []),
  ];
  const log = join(folder, 'server.log');
  const started = asServer(
    join(binaries, 'pg_ctl'),
    ['-D', folder, '-l', log, '-w', '-t', '60', '-o', options.join(' '), 'start'],
    { stdio: ['ignore', 'ignore', 'pipe'] },
  );
  if (started.status !== 0) {
    const last = readFileSync(log, 'utf8').trim().split('\n').slice(-4).join('\n');
    throw new Error(
      `PostgreSQL does not start on port ${port}:\n${last}\nIf the port is taken, set DOMATIUM_DB_PORT to another.`,
    );
  }
  createDatabase(binaries, port);
  return { folder, binaries };
}

function create(binaries, folder, say) {
  say(`making a cluster in ${folder}`);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const secret = `${folder}.pw`;
  writeFileSync(secret, USER, { mode: 0o600 });
  if (isRoot) {
    const id = (flag) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
    chownSync(folder, id('-u'), id('-g'));
    chownSync(secret, id('-u'), id('-g'));
  }
  chmodSync(folder, 0o700);
  must(
    asServer(join(binaries, 'initdb'), [
      '-D',
      folder,
      '-U',
      USER,
      '--locale=C.UTF-8',
      '--encoding=UTF8',
      '--auth=scram-sha-256',
      `--pwfile=${secret}`,
    ]),
    'making the cluster',
  );
  rmSync(secret);
}

function portOf(folder) {
  try {
    accessSync(join(folder, 'postmaster.pid'));
    return Number(readFileSync(join(folder, 'postmaster.pid'), 'utf8').split('\n')[3]);
  } catch {
    return null;
  }
}

function createDatabase(binaries, port, name = USER) {
  const result = spawnSync(join(binaries, 'createdb'), ['-h', '127.0.0.1', '-p', String(port), '-U', USER, name], {
    env: { ...process.env, PGPASSWORD: USER },
    encoding: 'utf8',
  });
  if (result.status !== 0 && !/already exists/.test(result.stderr)) must(result, 'making the database');
}

/** Whether the postmaster of a cluster lives. */
export function isPostgresRunning({ folder, binaries }) {
  return asServer(join(binaries, 'pg_ctl'), ['-D', folder, 'status'], { stdio: 'ignore' }).status === 0;
}

/** Looks after a cluster of ours: a postmaster that is gone unasked is started again. Gives what ends the looking. */
export function keepPostgres(cluster, { wanted, port, say }) {
  const timer = setInterval(() => {
    if (isPostgresRunning(cluster)) return;
    say('database: ended; starting it again');
    try {
      startPostgres({ wanted, port, say });
    } catch (error) {
      say(`database: ${error.message}`);
    }
  }, 2_000);
  return () => clearInterval(timer);
}

/** Drops the database of ours and makes it anew. */
export function recreateDatabase(binaries, port) {
  spawnSync(join(binaries, 'dropdb'), ['--force', '-h', '127.0.0.1', '-p', String(port), '-U', USER, USER], {
    env: { ...process.env, PGPASSWORD: USER },
  });
  createDatabase(binaries, port);
}

/** Stops a cluster: at once, but in order, or without any (`immediate`, as if the power went). */
export function stopPostgres({ folder, binaries }, mode = 'fast') {
  asServer(join(binaries, 'pg_ctl'), ['-D', folder, '-m', mode, '-w', '-t', '30', 'stop'], { stdio: 'ignore' });
}
