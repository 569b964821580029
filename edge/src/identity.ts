import { randomBytes } from 'node:crypto';
import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { absent, swallowed } from '@domatium/storage';

/**
 * Who an edge is: made once and kept in its data folder by machine and port, so that two machines on the same port are
 * two, even on one network disk. Where the disk takes nothing it is another one until it does.
 */
export async function identityOf(dataFolder: string, port: number): Promise<string> {
  const folder = join(dataFolder, 'edge');
  const path = join(folder, `${hostname()}-${port}.id`);
  const known = (await readFile(path, 'utf8').catch(absent('reading the identity', ''))).trim();
  if (/^edge-\d+-[0-9a-f]{8}$/.test(known)) return known;
  const identity = `edge-${port}-${randomBytes(4).toString('hex')}`;
  await keep(folder, path, identity)
    .then(() => inherit(dataFolder, port, identity))
    .catch(swallowed('keeping the identity'));
  return identity;
}

async function keep(folder: string, path: string, identity: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  await writeFile(`${path}.tmp`, `${identity}\n`);
  await rename(`${path}.tmp`, path);
}

/** Takes over what an edge of this port left when edges were known by their port alone: its snapshot, and what it counted. */
async function inherit(dataFolder: string, port: number, identity: string): Promise<void> {
  await rename(join(dataFolder, 'edge', `edge-${port}`), join(dataFolder, 'edge', identity)).catch(
    absent('taking over the snapshot', undefined),
  );
  const spool = join(dataFolder, 'spool');
  const former = new RegExp(`^edge-${port}-\\d+\\.open$`);
  for (const name of await readdir(spool).catch(absent<string[]>('taking over the spool', [])))
    if (former.test(name)) await rename(join(spool, name), join(spool, name.replace(/\.open$/, '.ready')));
}
