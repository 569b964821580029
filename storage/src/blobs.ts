import { createHash, randomBytes } from 'node:crypto';
import { execFile } from 'node:child_process';
import { mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const run = promisify(execFile);
const brotli = promisify(brotliCompress);
const gzipped = promisify(gzip);

/** A rendered page in every encoding it is sent in. */
export interface Artifact {
  readonly identity: Buffer;
  readonly br: Buffer;
  readonly gzip: Buffer;
}

/** Pages are reached through routes only; files are public under their hash; originals stay here. */
export type BlobKind = 'pages' | 'files' | 'thumbnails' | 'originals';

export function sha256(bytes: string | Buffer): string {
  return createHash('sha256').update(bytes).digest('hex');
}

export async function compress(identity: Buffer): Promise<Artifact> {
  const [br, gz] = await Promise.all([
    brotli(identity, {
      params: { [constants.BROTLI_PARAM_QUALITY]: 5, [constants.BROTLI_PARAM_SIZE_HINT]: identity.length },
    }),
    gzipped(identity, { level: 6 }),
  ]);
  return { identity, br, gzip: gz };
}

/** All encodings in one file: three lengths of four bytes, then the encodings. */
export function packArtifact({ identity, br, gzip: gz }: Artifact): Buffer {
  const lengths = Buffer.alloc(12);
  [identity, br, gz].forEach((part, index) => lengths.writeUInt32BE(part.length, index * 4));
  return Buffer.concat([lengths, identity, br, gz]);
}

/** The encodings of a packed file; throws where the file is cut short. */
export function unpackArtifact(packed: Buffer): Artifact {
  const [a, b, c] = [packed.readUInt32BE(0), packed.readUInt32BE(4), packed.readUInt32BE(8)];
  if (packed.length !== 12 + a + b + c) throw new Error('A blob is cut short');
  return {
    identity: packed.subarray(12, 12 + a),
    br: packed.subarray(12 + a, 12 + a + b),
    gzip: packed.subarray(12 + a + b),
  };
}

/** Blobs on disk, named by the SHA-256 of what they hold. */
export class BlobStore {
  constructor(private readonly folder: string) {}

  private pathOf(kind: BlobKind, hash: string): string {
    return join(this.folder, 'blobs', kind, hash.slice(0, 2), hash.slice(2));
  }

  async has(kind: BlobKind, hash: string): Promise<boolean> {
    return stat(this.pathOf(kind, hash)).then(
      () => true,
      () => false,
    );
  }

  /** How many bytes a blob has, 0 where it is not here. */
  async size(kind: BlobKind, hash: string): Promise<number> {
    return stat(this.pathOf(kind, hash)).then(
      ({ size }) => size,
      () => 0,
    );
  }

  /** The bytes of a blob, or `null` where it is not here. */
  async read(kind: BlobKind, hash: string): Promise<Buffer | null> {
    return readFile(this.pathOf(kind, hash)).catch(() => null);
  }

  /** Removes a blob; one that is not there is as good as removed. */
  async remove(kind: BlobKind, hash: string): Promise<void> {
    await rm(this.pathOf(kind, hash), { force: true });
  }

  /** A place for bytes that are still coming in; `keep` gives them their name, or they are removed. */
  async incoming(): Promise<string> {
    const folder = join(this.folder, 'blobs', 'incoming');
    await mkdir(folder, { recursive: true });
    return join(folder, randomBytes(9).toString('hex'));
  }

  /** Takes a file that has come in as a blob of this name. */
  async keep(kind: BlobKind, hash: string, from: string): Promise<void> {
    const to = this.pathOf(kind, hash);
    await mkdir(dirname(to), { recursive: true });
    await syncFile(from);
    await rename(from, to);
  }

  /** Where the file of a blob is, for tools that read it by themselves. */
  fileOf(kind: BlobKind, hash: string): string {
    return this.pathOf(kind, hash);
  }

  /** Writes blobs so that each is whole or absent. */
  async write(kind: BlobKind, blobs: ReadonlyMap<string, Buffer>): Promise<void> {
    const batch = this.batch(kind);
    for (const [hash, bytes] of blobs) await batch.add(hash, bytes);
    await batch.commit();
  }

  /**
   * Blobs that come one by one, several at once if wanted, and stand all together: temporary names, one sync for the
   * batch, rename. Until `commit` has settled none of them is there. One that is there already is written again: what it
   * holds is the same, and asking first takes as long.
   */
  batch(kind: BlobKind): { add(hash: string, bytes: Buffer): Promise<void>; commit(): Promise<void> } {
    const pending: { from: string; to: string }[] = [];
    const run = randomBytes(6).toString('hex');
    return {
      add: async (hash, bytes) => {
        const to = this.pathOf(kind, hash);
        const from = `${to}.${run}.tmp`;
        await writeFile(from, bytes).catch(async (error: NodeJS.ErrnoException) => {
          if (error.code !== 'ENOENT') throw error;
          await mkdir(dirname(to), { recursive: true });
          await writeFile(from, bytes);
        });
        pending.push({ from, to });
      },
      commit: async () => {
        const [first] = pending;
        if (!first) return;
        if (pending.length < 4 || !(await syncFileSystem(dirname(first.from))))
          await Promise.all(pending.map(({ from }) => syncFile(from)));
        await Promise.all(pending.map(({ from, to }) => rename(from, to)));
      },
    };
  }
}

async function syncFileSystem(folder: string): Promise<boolean> {
  return run('sync', ['-f', folder]).then(
    () => true,
    () => false,
  );
}

async function syncFile(path: string): Promise<void> {
  const file = await open(path, 'r+');
  await file.datasync();
  await file.close();
}
