import { spawn } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { queryOf, TYPES } from '@domatium/storage';
import pg from 'pg';
import { BACKUP_LOCK } from '../../platform/database/context.js';
import { copyAll, describeAll, filesBelow, type Manifest } from './folder.js';

/** A backup or a restore that can't be done, in words for whoever asked for it. */
export class BackupError extends Error {}

export interface Installation {
  readonly databaseUrl: string;
  readonly dataFolder: string;
}

const DUMP = 'database.dump';
const MANIFEST = 'manifest.json';
/** Of the data folder: what can't be made again from the database. */
const ROOMS = ['blobs', 'spool'] as const;
/** Halves of writes, and second names of files that are made again. */
const LEFT_OUT = /\.tmp$|^(incoming|open)\//;
const DEBIAN = '/usr/lib/postgresql';

/**
 * Writes a backup while everything runs: counts that wait first, the database in one snapshot, then the files. They are
 * named by what they hold and never change, so every one the snapshot speaks of is there; deleting is held back meanwhile.
 */
export async function backup({ databaseUrl, dataFolder }: Installation, folder: string): Promise<Manifest> {
  if (existsSync(folder)) throw new BackupError(`${folder} is there already. A backup is written into a new folder.`);
  const half = `${folder}.half`;
  await rm(half, { recursive: true, force: true });
  await mkdir(half, { recursive: true, mode: 0o700 });
  const client = new pg.Client({ connectionString: databaseUrl, types: TYPES, application_name: 'domatium backup' });
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock_shared($1, 0)', [BACKUP_LOCK]);
    const spool = join(dataFolder, 'spool');
    // One that is shipped before it is copied is in the database.
    for (const name of await filesBelow(spool))
      await copyAll([name], spool, join(half, 'spool')).catch((error: NodeJS.ErrnoException) => {
        if (error.code !== 'ENOENT') throw error;
      });
    const at = new Date().toISOString();
    await run('pg_dump', ['--format=custom', `--file=${join(half, DUMP)}`, `--dbname=${databaseUrl}`]);
    const blobs = join(dataFolder, 'blobs');
    const paths = (await filesBelow(blobs)).filter((path) => !LEFT_OUT.test(path));
    await copyAll(paths, blobs, join(half, 'blobs'));
    const [newest] = await queryOf(client)<{ name: string }>('SELECT max(name) AS name FROM knex_migrations');
    const files = await describeAll(await filesBelow(half), half);
    const manifest: Manifest = { form: 1, at, migration: newest?.name ?? '', files };
    await writeFile(join(half, MANIFEST), JSON.stringify(manifest));
    await rename(half, folder);
    return manifest;
  } finally {
    await client.end();
  }
}

/** Puts a backup into an empty database and an empty data folder; looks at every byte of it before anything is written. */
export async function restore({ databaseUrl, dataFolder }: Installation, folder: string): Promise<Manifest> {
  const manifest = await read(folder);
  const found = await describeAll(
    (await filesBelow(folder)).filter((path) => path !== MANIFEST),
    folder,
  );
  const sums = new Map(found.map(({ path, sha256 }) => [path, sha256]));
  const damaged = manifest.files.filter(({ path, sha256 }) => sums.get(path) !== sha256).map(({ path }) => path);
  if (damaged.length)
    throw new BackupError(
      `The backup is damaged: ${damaged.slice(0, 5).join(', ')} is missing or not what was written.`,
    );
  if ((await filesBelow(join(dataFolder, 'blobs'))).length)
    throw new BackupError(`${dataFolder} holds files already. Restore into an empty folder.`);
  const client = new pg.Client({ connectionString: databaseUrl, application_name: 'domatium restore' });
  await client.connect();
  const [tables] = await queryOf(client)<{ n: string }>(
    "SELECT count(*) AS n FROM pg_class WHERE relnamespace = 'public'::regnamespace",
  ).finally(() => client.end());
  if (Number(tables?.n)) throw new BackupError('The database holds tables already. Restore into an empty one.');
  const below = (room: string) =>
    manifest.files.flatMap(({ path }) => (path.startsWith(`${room}/`) ? [path.slice(room.length + 1)] : []));
  try {
    // Files first: a database that leads to files that are not there yet would be believed.
    for (const room of ROOMS) await copyAll(below(room), join(folder, room), join(dataFolder, room));
    await run('pg_restore', [
      ...['--no-owner', '--no-privileges', '--exit-on-error', '--single-transaction'],
      ...[`--dbname=${databaseUrl}`, join(folder, DUMP)],
    ]);
  } catch (error) {
    for (const room of ROOMS) await rm(join(dataFolder, room), { recursive: true, force: true });
    throw error;
  }
  return manifest;
}

async function read(folder: string): Promise<Manifest> {
  try {
    const manifest = JSON.parse(await readFile(join(folder, MANIFEST), 'utf8')) as Manifest;
    if (manifest.form === 1) return manifest;
  } catch (error) {
    if ((error as { code?: string }).code !== 'ENOENT' && !(error instanceof SyntaxError)) throw error;
  }
  throw new BackupError(`${folder} is no backup of Domatium: its manifest is missing or can’t be read.`);
}

/** One of PostgreSQL's own programs, the newest that Debian has here. */
function programOf(name: string): string {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).sort((a, b) => Number(b) - Number(a)) : [];
  return versions.map((version) => join(DEBIAN, version, 'bin', name)).find((path) => existsSync(path)) ?? name;
}

function run(name: string, args: readonly string[]): Promise<void> {
  return new Promise((done, fail) => {
    const child = spawn(programOf(name), args, { stdio: ['ignore', 'ignore', 'pipe'] });
    let said = '';
    child.stderr.setEncoding('utf8').on('data', (text: string) => (said += text));
    child.once('error', fail);
    child.once('exit', (code) => (code === 0 ? done() : fail(new BackupError(`${name} failed: ${said.trim()}`))));
  });
}
