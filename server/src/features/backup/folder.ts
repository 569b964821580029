import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { constants, copyFile, mkdir, readdir, stat } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';
import { pipeline } from 'node:stream/promises';
import pMap from 'p-map';

/** A file of a backup: where it lies in it, how large it is, and the SHA-256 of its bytes. */
export interface Copied {
  readonly path: string;
  readonly bytes: number;
  readonly sha256: string;
}

/** What a backup is: made at this moment, of tables in the form of this migration, with these files. */
export interface Manifest {
  readonly form: 1;
  readonly at: string;
  readonly migration: string;
  readonly files: readonly Copied[];
}

const AT_ONCE = 8;

/** Every file below a folder, by its path in it; none where the folder is missing. */
export async function filesBelow(folder: string): Promise<string[]> {
  const all = await readdir(folder, { recursive: true, withFileTypes: true }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return [];
    throw error;
  });
  return all
    .filter((one) => one.isFile())
    .map((one) => relative(folder, join(one.parentPath, one.name)))
    .sort();
}

/** Copies files from one folder into another, which a file system that can do so does without writing their bytes again. */
export async function copyAll(paths: readonly string[], from: string, to: string): Promise<void> {
  const made = new Map<string, Promise<unknown>>();
  await pMap(
    paths,
    async (path) => {
      const place = join(to, path);
      const folder = dirname(place);
      if (!made.has(folder)) made.set(folder, mkdir(folder, { recursive: true }));
      await made.get(folder);
      await copyFile(join(from, path), place, constants.COPYFILE_FICLONE);
    },
    { concurrency: AT_ONCE },
  );
}

/** What files are, read from where they lie. */
export function describeAll(paths: readonly string[], folder: string): Promise<Copied[]> {
  return pMap(
    paths,
    async (path) => {
      const hash = createHash('sha256');
      await pipeline(createReadStream(join(folder, path)), hash);
      return { path, bytes: (await stat(join(folder, path))).size, sha256: hash.digest('hex') };
    },
    { concurrency: AT_ONCE },
  );
}
