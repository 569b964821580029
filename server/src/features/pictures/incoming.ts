import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { open, readFile, rm } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { MAX_PIXELS, MAX_UPLOAD } from '@domatium/contracts';
import { sha256, type BlobStore } from '@domatium/storage';
import { Refused } from '../../platform/errors.js';
import { TooMuchError, type Reader } from '../../platform/readers/index.js';
import type { Original } from './store.js';
import { say } from '@domatium/core/words/answers/pictures';

/** Bytes that have come in, and what they are: told from what they hold, whatever the name ends in. */
export type Incoming =
  | { readonly kind: 'picture'; readonly original: Original }
  | { readonly kind: 'file'; readonly hash: string; readonly bytes: number; readonly ending: string };

const refusal = (detail: string) => new Refused('not-accepted', detail);
const MEGABYTE = 1024 * 1024;
/** A drawing larger than this is a picture in disguise. */
const MAX_DRAWING = 2 * MEGABYTE;
const MOST_ELEMENTS = 20_000;
const DEEPEST = 200;
const [SLASH, BANG, QUESTION] = [47, 33, 63];
const READABLE = say.domatiumAcceptsJPEG;
/** Files that are no pictures: what is found in them, and the ending they are kept under. */
const FILES = new Map([
  ...['pdf', 'woff2', 'webm', 'mp4', 'ics'].map((ending) => [ending, ending] as const),
  ['m4v', 'mp4'],
]);
/** What people bring most often that no browser plays or shows, by what is found in it. */
const UNUSABLE = new Map([
  ['heic', say.thisIsAnHEIC],
  ['mov', say.thisIsAQuickTimeFilm],
  ['mkv', say.thisIsAMatroskaFilmWhich],
  ['avi', say.thisIsAnAVI],
  ...['m4a', 'm4b', 'm4p', 'mp3', 'wav', 'flac', 'ogg'].map(
    (ending) => [ending, say.thisIsASoundNotA(READABLE)] as const,
  ),
]);
const PICTURES = new Set(['jpeg', 'png', 'webp', 'heif', 'gif', 'tiff', 'svg']);

/** Takes a stream of bytes into the store: never more of it in memory than a piece, never anything half. */
export async function takeIn(reader: Reader, blobs: BlobStore, stream: Readable): Promise<Incoming> {
  const path = await blobs.incoming();
  try {
    const { hash, bytes } = await write(stream, path);
    const head = await headOf(path);
    const kind = await within(reader.run('kind', { path }));
    const ending = FILES.get(kind ?? (head.toString('latin1', 0, 4) === 'wOF2' ? 'woff2' : ''));
    if (ending) {
      if (ending === 'woff2') await refuseBadFont(reader, path);
      await blobs.keep('files', hash, path);
      return { kind: 'file', hash, bytes, ending };
    }
    if (isCaptions(head)) {
      await blobs.keep('files', hash, path);
      return { kind: 'file', hash, bytes, ending: 'vtt' };
    }
    if (kind === 'gz') throw refusal(say.thisIsACompressedFileIf);
    if (isDrawing(head)) return { kind: 'picture', original: await takeDrawing(reader, blobs, path, bytes) };
    const { width, height, format } = await measure(reader, path, kind, head);
    // Whatever it begins with: a drawing is cleaned.
    if (format === 'svg') return { kind: 'picture', original: await takeDrawing(reader, blobs, path, bytes) };
    await blobs.keep('originals', hash, path);
    return { kind: 'picture', original: { hash, bytes, format, width, height } };
  } finally {
    await rm(path, { force: true });
  }
}

async function write(stream: Readable, path: string): Promise<{ hash: string; bytes: number }> {
  const hash = createHash('sha256');
  let bytes = 0;
  await pipeline(
    stream,
    async function* (pieces: AsyncIterable<Buffer>) {
      for await (const piece of pieces) {
        bytes += piece.length;
        if (bytes > MAX_UPLOAD) throw new Refused('too-large', say.aFileHasAtMostMegabytes(MAX_UPLOAD / MEGABYTE));
        hash.update(piece);
        yield piece;
      }
    },
    createWriteStream(path),
  );
  if (!bytes) throw refusal(say.theFileIsEmpty);
  return { hash: hash.digest('hex'), bytes };
}

async function headOf(path: string): Promise<Buffer> {
  const file = await open(path);
  const { buffer, bytesRead } = await file.read(Buffer.alloc(1024), 0, 1024, 0);
  await file.close();
  return buffer.subarray(0, bytesRead);
}

const isDrawing = (head: Buffer) => /^(\uFEFF|\s)*(<\?xml|<!--|<!doctype svg|<svg)/i.test(head.toString('utf8'));

/** WebVTT begins with its name, alone in its line or with words behind it (W3C WebVTT, 4.1). */
const isCaptions = (head: Buffer) => /^\uFEFF?WEBVTT(?:[ \t\r\n]|$)/.test(head.toString('utf8'));

async function refuseBadFont(reader: Reader, path: string): Promise<void> {
  if (!(await within(reader.run('font', { path })))) throw refusal(say.thisFileSaysItIsA);
}

async function takeDrawing(reader: Reader, blobs: BlobStore, path: string, bytes: number): Promise<Original> {
  if (bytes > MAX_DRAWING) throw refusal(say.anSVGHasAt(MAX_DRAWING / MEGABYTE));
  const text = await readFile(path, 'utf8');
  const { elements, depth } = extentOf(text);
  if (elements > MOST_ELEMENTS || depth > DEEPEST)
    throw refusal(
      say.thisSVGHasParts(
        elements.toLocaleString('en'),
        depth.toLocaleString('en'),
        MOST_ELEMENTS.toLocaleString('en'),
        DEEPEST,
      ),
    );
  const clean = `${path}.clean`;
  try {
    if (!(await within(reader.run('drawing', { path, to: clean })))) throw refusal(say.thisSVGCantBe);
    const svg = await readFile(clean);
    const { width, height } = await measure(reader, clean, 'svg', svg);
    const hash = sha256(svg);
    await blobs.write('originals', new Map([[hash, svg]]));
    return { hash, bytes: svg.length, format: 'svg', width, height };
  } finally {
    await rm(clean, { force: true });
  }
}

/** How many elements a text of XML has at most, and how deep they lie, told without reading it as XML. */
function extentOf(text: string): { elements: number; depth: number } {
  let [elements, depth, deepest] = [0, 0, 0];
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1)) {
    const next = text.charCodeAt(at + 1);
    if (next === SLASH) depth--;
    else if (next !== BANG && next !== QUESTION) {
      elements++;
      const end = text.indexOf('>', at);
      if (end < 0 || text.charCodeAt(end - 1) !== SLASH) deepest = Math.max(deepest, ++depth);
    }
  }
  return { elements, depth: deepest };
}

/** Size and format from the head of a picture; nothing is opened that would not fit. */
async function measure(
  reader: Reader,
  path: string,
  kind: string | null,
  head: Buffer,
): Promise<{ width: number; height: number; format: string }> {
  const read = await within(reader.run('measure', { path }));
  if (!read || !PICTURES.has(read.format)) throw refusal(unreadable(kind, head));
  // Of an animated picture the height is that of all its frames on top of each other.
  const pixels = read.width * read.height;
  if (pixels > MAX_PIXELS)
    throw refusal(
      say.thisPictureHasMillionPixelsAt(
        Math.round(pixels / 1e6).toLocaleString('en'),
        read.pages > 1 ? say.inFrames(read.pages) : '',
        MAX_PIXELS / 1e6,
      ),
    );
  const { width, height } = read.turned;
  return { width, height: read.pageHeight ?? height, format: read.format === 'heif' ? 'avif' : read.format };
}

/** What takes too much time or memory to be read is refused as that. */
async function within<T>(reading: Promise<T>): Promise<T> {
  try {
    return await reading;
  } catch (error) {
    if (error instanceof TooMuchError) throw refusal(say.readingThisFileTakesTooMuch);
    throw error;
  }
}

function unreadable(kind: string | null, head: Buffer): string {
  const known = UNUSABLE.get(kind ?? '');
  if (known) return known;
  const text = head.toString('latin1');
  if (/^\s*<(!doctype html|html)/i.test(text)) return say.thisIsAWebPageNot;
  if (/^(PK|\xd0\xcf)/.test(text)) return say.thisIsAnArchiveOrAn(READABLE);
  return say.thisFileCantBeOpenedWhatever(READABLE);
}
