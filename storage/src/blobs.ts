import { createHash, randomBytes } from 'node:crypto';
import { execFile } from 'node:child_process';
import { link, mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, brotliDecompressSync, constants, gzip } from 'node:zlib';
import { absent, swallowed } from './log.js';

const run = promisify(execFile);
const [brotli, zip] = [promisify(brotliCompress), promisify(gzip)];

/** Pages are reached through routes only; files once a portfolio opened them, texts among them packed as well; originals stay here. */
export type BlobKind = 'pages' | 'files' | 'packed' | 'thumbnails' | 'originals';

/** Files of text; pictures, films and fonts are packed as they are. */
const TEXTS: ReadonlySet<string> = new Set(['css', 'js', 'svg', 'txt', 'csv', 'ics', 'html', 'json']);
/** A text as it is sent smaller; what is no smaller is left out. */
export interface PackedText {
  readonly br?: Buffer;
  readonly gzip?: Buffer;
}

/** A text in both encodings, each as small as it gets. */
export async function packText(text: Buffer): Promise<PackedText> {
  const [br, gz] = await Promise.all([brotli(text), zip(text, { level: 9 })]);
  return { ...(br.length < text.length ? { br } : {}), ...(gz.length < text.length ? { gzip: gz } : {}) };
}
export const isText = (ending: string): boolean => TEXTS.has(ending);

export function sha256(bytes: string | Buffer): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** Of one page packed by Brotli; before, pages lay in three encodings, each with its length. */
const HEADER = 12;
const lengthsOf = (packed: Buffer) => [0, 4, 8].map((at) => packed.readUInt32BE(at)) as [number, number, number];

/** A page as it lies on the disk. */
export async function packPage(page: Buffer): Promise<Buffer> {
  const br = await brotli(page, {
    params: { [constants.BROTLI_PARAM_QUALITY]: 5, [constants.BROTLI_PARAM_SIZE_HINT]: page.length },
  });
  const header = Buffer.alloc(HEADER);
  header.writeUInt32BE(br.length, 4);
  return Buffer.concat([header, br]);
}

/** The bytes of a page that lies on the disk; throws where the file is cut short. */
export function unpackPage(packed: Buffer): Buffer {
  const [plain, br, gzip] = lengthsOf(packed);
  if (packed.length !== HEADER + plain + br + gzip) throw new Error('A blob is cut short');
  return plain ? packed.subarray(HEADER, HEADER + plain) : brotliDecompressSync(packed.subarray(HEADER));
}

/** Blobs that come one by one and stand all together once `commit` has settled; `drop` leaves none of a batch that failed. */
export interface Batch {
  add(hash: string, bytes: Buffer): Promise<void>;
  commit(): Promise<void>;
  drop(): Promise<void>;
}

/** Blobs on disk, named by the SHA-256 of what they hold. */
export class BlobStore {
  constructor(readonly folder: string) {}

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
    return readFile(this.pathOf(kind, hash)).catch(absent(`reading ${kind}`, null));
  }

  /** The bytes of a page; `null` where it is not here, or not what its name says. */
  async readPage(hash: string): Promise<Buffer | null> {
    const packed = await this.read('pages', hash);
    if (!packed) return null;
    try {
      const page = unpackPage(packed);
      return sha256(page) === hash ? page : null;
    } catch (error) {
      return swallowed('unpacking a page', null)(error);
    }
  }

  /** Removes a blob, of a file what it was packed to too; one that is not there is as good as removed. */
  async remove(kind: BlobKind, hash: string): Promise<void> {
    await rm(this.pathOf(kind, hash), { force: true });
    if (kind === 'files') await this.remove('packed', hash);
  }

  /** Packs a file of text, once. A file that is not here is not packed. */
  async pack(hash: string): Promise<void> {
    if (await this.has('packed', hash)) return;
    const text = await this.read('files', hash);
    if (!text) return;
    const { br = Buffer.alloc(0), gzip: gz = Buffer.alloc(0) } = await packText(text);
    const header = Buffer.alloc(HEADER);
    header.writeUInt32BE(br.length, 4);
    header.writeUInt32BE(gz.length, 8);
    await this.write('packed', new Map([[hash, Buffer.concat([header, br, gz])]]));
  }

  /** What a file of text was packed to; `null` where it was not, or the blob is cut short. */
  async readPacked(hash: string): Promise<PackedText | null> {
    const packed = await this.read('packed', hash);
    if (!packed || packed.length < HEADER) return null;
    const [, br, gz] = lengthsOf(packed);
    if (packed.length !== HEADER + br + gz) return null;
    return {
      ...(br ? { br: packed.subarray(HEADER, HEADER + br) } : {}),
      ...(gz ? { gzip: packed.subarray(HEADER + br) } : {}),
    };
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

  /** Where the files lie that are open to visitors. */
  get openFolder(): string {
    return join(this.folder, 'blobs', 'open');
  }

  private openPath(portfolioId: number, hash: string, ending: string): string {
    return join(this.openFolder, String(portfolioId), hash.slice(0, 2), `${hash.slice(2)}.${ending}`);
  }

  /**
   * Opens a file to the visitors of a portfolio's hosts, as what it is: a second name of the same bytes. What was opened
   * stays open, since pages that visitors keep may lead to it. A file that is not here is not opened.
   */
  async openTo(portfolioId: number, hash: string, ending: string): Promise<void> {
    const to = this.openPath(portfolioId, hash, ending);
    const tie = () => link(this.pathOf('files', hash), to);
    await tie().catch(async (error: NodeJS.ErrnoException) => {
      if (error.code === 'EEXIST') return;
      if (error.code !== 'ENOENT') throw error;
      await mkdir(dirname(to), { recursive: true });
      await tie().catch((again: NodeJS.ErrnoException) => {
        if (again.code !== 'EEXIST' && again.code !== 'ENOENT') throw again;
      });
    });
  }

  /** The bytes of a file that is open to a portfolio's visitors, or `null`. */
  async readOpen(portfolioId: number, hash: string, ending: string): Promise<Buffer | null> {
    return readFile(this.openPath(portfolioId, hash, ending)).catch(absent('reading an open file', null));
  }

  /** Takes a file from the visitors of a portfolio's hosts again. */
  async closeTo(portfolioId: number, hash: string, ending: string): Promise<void> {
    await rm(this.openPath(portfolioId, hash, ending), { force: true });
  }

  /** Every file that was opened to visitors before an instant. */
  async *opened(before: number): AsyncGenerator<{ portfolioId: number; hash: string; ending: string }> {
    const none = absent<string[]>('open files', []);
    for (const owner of await readdir(this.openFolder).catch(none))
      for (const head of await readdir(join(this.openFolder, owner)).catch(none))
        for (const name of await readdir(join(this.openFolder, owner, head)).catch(none)) {
          const [rest = '', ending = ''] = name.split('.');
          // A name is given to bytes that may be old: the change of the file's status tells when it was given.
          const at = (await stat(join(this.openFolder, owner, head, name)).catch(absent('open files', null)))?.ctimeMs;
          if (at !== undefined && at < before) yield { portfolioId: Number(owner), hash: head + rest, ending };
        }
  }

  /** Where the file of a blob is, for tools that read it by themselves. */
  fileOf(kind: BlobKind, hash: string): string {
    return this.pathOf(kind, hash);
  }

  /** Removes what killed writes left behind before an instant; gives how many there were. */
  async removeHalves(before: number): Promise<number> {
    const root = join(this.folder, 'blobs');
    const all = await readdir(root, { recursive: true, withFileTypes: true }).catch(absent('removing halves', []));
    let removed = 0;
    for (const one of all) {
      const isHalf = one.isFile() && (one.name.endsWith('.tmp') || basename(one.parentPath) === 'incoming');
      const path = join(one.parentPath, one.name);
      if (!isHalf || ((await stat(path).catch(absent('removing halves', null)))?.mtimeMs ?? Infinity) >= before)
        continue;
      await rm(path, { force: true });
      removed++;
    }
    return removed;
  }

  /** The hashes of blobs written before an instant, some at a time; of files those that are open to nobody. */
  async *oldOnes(kind: BlobKind, before: number, atATime: number): AsyncGenerator<string[]> {
    const root = join(this.folder, 'blobs', kind);
    let some: string[] = [];
    for (const head of await readdir(root).catch(absent<string[]>('old files', [])))
      for (const rest of await readdir(join(root, head)).catch(absent<string[]>('old files', []))) {
        const found = await stat(join(root, head, rest)).catch(absent('old files', null));
        if (!found || found.mtimeMs >= before || found.nlink > 1 || !/^[0-9a-f]{64}$/.test(head + rest)) continue;
        some.push(head + rest);
        if (some.length < atATime) continue;
        yield some;
        some = [];
      }
    if (some.length) yield some;
  }

  /** Writes blobs so that each is whole or absent. */
  async write(kind: BlobKind, blobs: ReadonlyMap<string, Buffer>): Promise<void> {
    const batch = this.batch(kind);
    try {
      for (const [hash, bytes] of blobs) await batch.add(hash, bytes);
      await batch.commit();
    } catch (error) {
      await batch.drop();
      throw error;
    }
  }

  /**
   * Blobs that come one by one, several at once if wanted, and stand all together: temporary names, one sync for the
   * batch, rename. Until `commit` has settled none of them is there. One that is there already is written again: what it
   * holds is the same, and asking first takes as long.
   */
  batch(kind: BlobKind): Batch {
    const pending: { from: string; to: string }[] = [];
    const run = randomBytes(6).toString('hex');
    return {
      add: async (hash, bytes) => {
        const to = this.pathOf(kind, hash);
        const from = `${to}.${run}.tmp`;
        pending.push({ from, to });
        await writeFile(from, bytes).catch(async (error: NodeJS.ErrnoException) => {
          if (error.code !== 'ENOENT') throw error;
          await mkdir(dirname(to), { recursive: true });
          await writeFile(from, bytes);
        });
      },
      commit: async () => {
        const [first] = pending;
        if (!first) return;
        if (pending.length < 4 || !(await syncFileSystem(dirname(first.from))))
          await Promise.all(pending.map(({ from }) => syncFile(from)));
        await Promise.all(pending.map(({ from, to }) => rename(from, to)));
      },
      drop: async () => {
        await Promise.all(pending.map(({ from }) => rm(from, { force: true }).catch(swallowed('dropping a batch'))));
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
  try {
    await file.datasync();
  } finally {
    await file.close();
  }
}
