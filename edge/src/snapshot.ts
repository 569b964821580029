import { mkdir, open, readdir, readFile, rename, unlink } from 'node:fs/promises';
import { join } from 'node:path';
import type { Frames } from './frames.js';
import { sha256, type StoredHost, absent, swallowed } from '@domatium/storage';

/** What is kept of the frames of all hosts. */
export type KeptFrames = ReturnType<Frames['stored']>;

/** Rises when what lies in the files changes its form; files of another form are thrown away. */
const FORM = 6;

interface Manifest {
  readonly form: number;
  /** Names of files, each with the SHA-256 of what it must hold. */
  readonly files: readonly (readonly [string, string])[];
  /** The file of all frames, likewise. */
  readonly frames: readonly [string, string] | null;
  readonly salts: readonly (readonly [string, string])[];
}

/**
 * An edge's tables on disk: a file a host and version, one of all frames, and a manifest that names those that belong together. The
 * manifest is replaced in one step, so a start after a kill finds all of a release or nothing of it. What is not
 * exactly what was written is thrown away as a whole: the database has it all.
 */
export class Snapshot {
  private written = new Map<number, readonly [string, string]>();
  private frames: readonly [string, string] | null = null;

  constructor(private readonly folder: string) {}

  async read(): Promise<{ hosts: StoredHost[]; frames: KeptFrames; salts: Map<string, string> } | null> {
    try {
      const { sum, manifest } = JSON.parse(await readFile(join(this.folder, 'manifest.json'), 'utf8')) as {
        sum: string;
        manifest: Manifest;
      };
      if (sha256(JSON.stringify(manifest)) !== sum || manifest.form !== FORM) return null;
      const hosts = await Promise.all(manifest.files.map((file) => this.readFile<StoredHost>(file)));
      const frames = manifest.frames
        ? await this.readFile<KeptFrames>(manifest.frames)
        : { hosts: [], lines: [], texts: [] };
      this.frames = manifest.frames;
      this.written = new Map(hosts.map((host, index) => [host.hostId, manifest.files[index] as [string, string]]));
      return { hosts, frames, salts: new Map(manifest.salts) };
    } catch (error) {
      return absent('reading the snapshot', null)(error);
    }
  }

  private async readFile<T>([file, sum]: readonly [string, string]): Promise<T> {
    const text = await readFile(join(this.folder, file), 'utf8');
    if (sha256(text) !== sum) throw new Error('A file of the snapshot is damaged');
    return JSON.parse(text) as T;
  }

  async write(
    changed: readonly StoredHost[],
    removed: readonly number[],
    salts: ReadonlyMap<string, string>,
    frames: KeptFrames | null,
  ): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    for (const hostId of removed) this.written.delete(hostId);
    for (const host of changed) {
      const file = `${host.hostId}-${host.version}.json`;
      const text = JSON.stringify(host);
      await writeSafely(join(this.folder, file), text);
      this.written.set(host.hostId, [file, sha256(text)]);
    }
    if (frames) {
      const text = JSON.stringify(frames);
      const frameSum = sha256(text);
      const file = `frames-${frameSum.slice(0, 24)}.json`;
      if (file !== this.frames?.[0]) await writeSafely(join(this.folder, file), text);
      this.frames = [file, frameSum];
    }
    const manifest: Manifest = {
      ...{ form: FORM, files: [...this.written.values()] },
      ...{ frames: this.frames, salts: [...salts] },
    };
    const sum = sha256(JSON.stringify(manifest));
    await writeSafely(join(this.folder, 'manifest.json'), JSON.stringify({ sum, manifest }));
    const kept = new Set([...this.written.values(), ...(this.frames ? [this.frames] : [])].map(([file]) => file));
    for (const name of await readdir(this.folder))
      if (/^(\d+-\d+|frames-[0-9a-f]+)\.json(\.tmp)?$/.test(name) && !kept.has(name))
        await unlink(join(this.folder, name)).catch(swallowed('removing an old snapshot'));
  }
}

async function writeSafely(path: string, text: string): Promise<void> {
  const temporary = `${path}.tmp`;
  const file = await open(temporary, 'w', 0o600);
  try {
    await file.writeFile(text);
    await file.datasync();
  } finally {
    await file.close();
  }
  await rename(temporary, path);
}
