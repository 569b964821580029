import { mkdir, open, readdir, readFile, rename, unlink } from 'node:fs/promises';
import { join } from 'node:path';
import type { StoredHost } from '@domatium/storage';

interface Manifest {
  readonly files: readonly string[];
  readonly salts: readonly (readonly [string, string])[];
}

/**
 * An edge's tables on disk: a file a host and version, and a manifest that names those that belong together. The
 * manifest is replaced in one step, so a start after a kill finds all of a release or nothing of it.
 */
export class Snapshot {
  private written = new Map<number, string>();

  constructor(private readonly folder: string) {}

  async read(): Promise<{ hosts: StoredHost[]; salts: Map<string, string> } | null> {
    try {
      const { files, salts } = JSON.parse(await readFile(join(this.folder, 'manifest.json'), 'utf8')) as Manifest;
      const hosts = await Promise.all(
        files.map(async (file) => JSON.parse(await readFile(join(this.folder, file), 'utf8')) as StoredHost),
      );
      this.written = new Map(hosts.map((host, index) => [host.hostId, files[index] as string]));
      return { hosts, salts: new Map(salts) };
    } catch {
      return null;
    }
  }

  async write(
    changed: readonly StoredHost[],
    removed: readonly number[],
    salts: ReadonlyMap<string, string>,
  ): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    for (const hostId of removed) this.written.delete(hostId);
    for (const host of changed) {
      const file = `${host.hostId}-${host.version}.json`;
      await writeSafely(join(this.folder, file), JSON.stringify(host));
      this.written.set(host.hostId, file);
    }
    const manifest: Manifest = { files: [...this.written.values()], salts: [...salts] };
    await writeSafely(join(this.folder, 'manifest.json'), JSON.stringify(manifest));
    const kept = new Set(this.written.values());
    for (const name of await readdir(this.folder))
      if (/^\d+-\d+\.json$/.test(name) && !kept.has(name)) await unlink(join(this.folder, name)).catch(() => undefined);
  }
}

async function writeSafely(path: string, text: string): Promise<void> {
  const temporary = `${path}.tmp`;
  const file = await open(temporary, 'w', 0o600);
  await file.writeFile(text);
  await file.datasync();
  await file.close();
  await rename(temporary, path);
}
