import { readFileSync } from 'node:fs';
import { Readable } from 'node:stream';
import { deflateSync, crc32 } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PictureView, Role } from '@domatium/contracts';
import type { LinkTarget, PictureUse } from '@domatium/core/document';
import { newBlock } from '@domatium/core/document';
import type { PageId, PictureId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import sharp from 'sharp';
import { saveDraft } from '../../src/features/drafts/index.js';
import { draft } from '../../src/features/drafts/service.js';
import { PictureMaker } from '../../src/features/pictures/index.js';
import * as files from '../../src/features/pictures/files.js';
import * as pictures from '../../src/features/pictures/service.js';
import { Reader } from '../../src/platform/readers/index.js';
import { doAll } from '../../src/platform/work/index.js';
import { cleanSvg } from '../../src/platform/readers/svg.js';
import { publishPlans, publishReleases } from '../../src/heart/publishing/index.js';
import { World } from './harness.js';

let world: World;
let maker: PictureMaker;
const reader = new Reader();
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
  maker = new PictureMaker(world.database, world.publisher.blobs, reader, (portfolioId, pageIds) =>
    publishPlans(world.publisher, portfolioId, pageIds),
  );
});
afterAll(async () => {
  reader.close();
  await world.close();
});

const send = (
  bytes: Buffer | string,
  name = 'a picture.jpg',
  replaces: number | null = null,
  role: Role | null = 'publisher',
  description?: string,
) =>
  pictures.receive(world.context(), { reader, blobs: world.publisher.blobs }, world.one, {
    name,
    replaces,
    replacesFile: null,
    description,
    role,
    stream: Readable.from([Buffer.from(bytes)]),
  });
const all = () => pictures.picturesWith(world.database, world.one);
const one = async (id: number) => (await all()).find((picture) => picture.id === id) as PictureView;
const colour = (r: number, width = 1200, height = 800) =>
  sharp({ create: { width, height, channels: 3, background: { r, g: 90, b: 20 } } });
const bytesOf = async (src: string) =>
  (await world.publisher.blobs.read('files', /([0-9a-f]{64})/.exec(src)?.[1] ?? '')) as Buffer;

/** The page that visitors get. */
const served = (pageId: PageId) => world.served(pageId, instant(Date.now()));

describe('a picture that is brought in', () => {
  it('is known at once, made in every width as WebP and AVIF, turned upright, and says nothing of where it was taken', async () => {
    const bytes = await colour(200, 800, 1200)
      .withExif({ IFD0: { Orientation: '6', Copyright: 'us' }, IFD3: { GPSLatitude: '60/1 0/1 0/1' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    expect((await sharp(bytes).metadata()).exif).toBeDefined();
    const { picture } = await send(bytes, 'harbour.png');
    expect(picture).toMatchObject({ state: 'waiting', width: 1200, height: 800, variants: [] });
    await doAll(maker.works());
    const made = await one(picture?.id ?? 0);
    expect(made).toMatchObject({ state: 'ready', progress: 1, original: { format: 'jpeg' } });
    expect(made.variants.map(({ width }) => width)).toEqual([480, 960, 1200]);
    for (const { src, width } of made.variants) {
      const read = await sharp(await bytesOf(src)).metadata();
      expect(read).toMatchObject({ width, format: 'webp' });
      expect(read.exif).toBeUndefined();
    }
    const again = await send(bytes, 'the same again.jpg');
    expect(again).toMatchObject({ isKnown: true, picture: { id: made.id } });
  });
  it('is noticed where it looks like another', async () => {
    const stripes = (quality: number) =>
      sharp(
        Buffer.from(
          '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><rect width="400" height="300" fill="#fff"/><path d="M0 0h90v300zM200 0h60v300zM320 40h80v200z"/></svg>',
        ),
      )
        .jpeg({ quality })
        .toBuffer();
    const [first, second] = [await send(await stripes(90)), await send(await stripes(40))];
    await doAll(maker.works());
    expect((await one(second.picture?.id ?? 0)).similar).toEqual([first.picture?.id]);
  });
  it('is refused in words where it is a bomb, damaged, of another kind, or nothing', async () => {
    await expect(send(bomb(40_000, 40_000))).rejects.toThrow(/1,600 million pixels; at most 150 million/);
    await expect(send('<!doctype html><p>Not found')).rejects.toThrow(/a web page, not a picture/);
    await expect(send('GIF89a and then nothing')).rejects.toThrow(/can’t be opened/);
    await expect(send('\0\0\0\x18ftypheic\0\0\0\0mif1heic')).rejects.toThrow(/HEIC.*Save it as JPEG/);
    // A film and a sound of the same family are told apart by what they hold, whatever the name says.
    await expect(send('\0\0\0\x14ftypqt  \0\0\0\0qt  ', 'a.mp4')).rejects.toThrow(/QuickTime film.*MP4/);
    await expect(send('\0\0\0\x14ftypM4A \0\0\0\0M4A ', 'a.mp4')).rejects.toThrow(/a sound, not a picture/);
    await expect(send('ab')).rejects.toThrow(/can’t be opened/);
    await expect(send('wOF2 but no font at all', 'f.woff2')).rejects.toThrow(/says it is a font/);
    await expect(send('<svg xmlns="http://www.w3.org/2000/svg"><g></svg>')).rejects.toThrow(/SVG can’t be read/);
    await expect(send('')).rejects.toThrow(/empty/);
    expect((await world.publisher.blobs.read('files', 'x')) === null).toBe(true);
  });
  it('of 60 million pixels is taken', async () => {
    const { picture } = await send(await colour(30, 10_000, 6_000).jpeg().toBuffer());
    await doAll(maker.works());
    expect(await one(picture?.id ?? 0)).toMatchObject({ state: 'ready', width: 10_000 });
  }, 60_000);
  it('that can be opened but not read to its end is tried three times, then says so', async () => {
    const whole = await colour(77, 2000, 1500).png({ compressionLevel: 0 }).toBuffer();
    const { picture } = await send(whole.subarray(0, 6000));
    await doAll(maker.works());
    expect(await one(picture?.id ?? 0)).toMatchObject({
      state: 'failed',
      failure: expect.stringContaining('damaged') as unknown,
    });
  });
  it('is not refused for the memory that the one before it took', async () => {
    const own = new Reader();
    const child = () => (own as unknown as { child: { pid: number } }).child.pid;
    const held = (pid: number) =>
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;
    const making = new PictureMaker(world.database, world.publisher.blobs, own, () => Promise.resolve());
    await send(await colour(32, 5000, 4000).jpeg().toBuffer());
    await doAll(making.works());
    const before = child();
    expect(held(before)).toBeGreaterThan(200);
    expect(await own.run('kind', { path: '/proc/self/exe' })).toBe('elf');
    expect(child()).not.toBe(before);
    own.close();
  });
  it('is not taken for damaged where its maker is stopped in the midst of it', async () => {
    const { picture } = await send(await colour(31, 4000, 3000).jpeg().toBuffer());
    const stopped = new Reader();
    const making = new PictureMaker(world.database, world.publisher.blobs, stopped, () => Promise.resolve());
    const [work] = making.works();
    const run = work?.run(String(picture?.id));
    setTimeout(() => stopped.close(), 300);
    await expect(run).rejects.toThrow('stopped');
    expect(await one(picture?.id ?? 0)).toMatchObject({ state: 'waiting' });
    await doAll(maker.works());
    expect(await one(picture?.id ?? 0)).toMatchObject({ state: 'ready' });
  });
});

describe('a drawing', () => {
  it('keeps its shapes and loses what runs, loads or leads elsewhere', () => {
    const clean = cleanSvg(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 9 9" onload="alert(1)">
        <script>alert(2)</script><style>@import url(https://evil.example/x.css);</style><a href="javascript:alert(3)"><path id="p" d="M0 0h9v9z" onclick="alert(4)"/></a>
        <image href="https://evil.example/pixel.png"/><use xlink:href="#p"/><foreignObject><p>x</p></foreignObject><linearGradient id="g"/><path fill="url(https://evil.example/#x)" d="M1 1h3"/></svg>`,
    );
    expect(clean).toContain('d="M1 1h3"');
    expect(clean).toContain('viewBox="0 0 9 9"');
    expect(clean).toContain('#p');
    expect(clean).toContain('<linearGradient');
    expect(clean).not.toMatch(/alert|evil|script|foreignObject|onload|@import/i);
  });
});

describe('a picture in use', () => {
  const use = (pictureId: number, description: string): PictureUse => ({
    pictureId: pictureId as PictureId,
    description,
    isDecorative: false,
  });
  const show = async (path: string, pictureId: number, description = 'x'): Promise<PageId> => {
    const id = await world.page(path);
    const document = {
      metadata: { title: 'T', description: 'D' },
      blocks: [
        newBlock('opening', 'opening1', { heading: 'Here' }),
        newBlock('picture', 'pict', { picture: use(pictureId, description) }),
      ],
    };
    await saveDraft(world.context(), world.one, id, 1, document);
    const { id: release } = await world.press([world.put(id, 'now')]);
    await publishReleases(world.publisher, world.one, [release as never]);
    return id;
  };
  it('appears on a page that was released before its sizes were made, and is replaced everywhere, crops too', async () => {
    const { picture } = await send(await colour(5).jpeg().toBuffer());
    const id = picture?.id ?? 0;
    const part = await pictures.crop(world.context(), world.one, id, { x: 500, y: 0, width: 500, height: 1000 });
    expect(part).toMatchObject({ ofId: id, width: 600, height: 800, state: 'waiting' });
    const [whole, cropped] = [await show('/whole', id), await show('/cropped', part.id)];
    expect(await served(whole)).not.toContain('<img');
    world.now = instant(Date.now() + 1000);
    await doAll(maker.works());
    const before = [await served(whole), await served(cropped)];
    expect(before[0]).toMatch(
      /<source type="image\/avif"[^>]*><img [^>]*width="1200" height="800"[^>]*fetchpriority="high"/,
    );
    expect(before[1]).toContain('width="600" height="800"');
    const uses = await pictures.pictureUses(world.context(), world.one, id, 'publisher');
    expect(uses).toMatchObject({ count: 2, live: 2, refusal: null });
    expect(uses.pages.map(({ name }) => name)).toEqual(['Page /cropped', 'Page /whole']);
    await expect(pictures.deletePicture(world.context(), world.one, id)).rejects.toThrow(
      /Page \/cropped, Page \/whole show it/,
    );
    const old = await one(id);
    await send(await colour(240, 1000, 1000).jpeg().toBuffer(), 'new.jpg', id);
    // Until the new sizes are there, visitors and the editor see the old ones.
    expect((await one(id)).variants).toEqual(old.variants);
    await doAll(maker.works());
    // Parts keep their proportion, around the same middle, as far as the new one has room.
    expect(await one(part.id)).toMatchObject({ width: 612, height: 816, crop: { x: 388, y: 92 } });
    const after = [await served(whole), await served(cropped)];
    expect(after[0]).toContain('width="1000" height="1000"');
    expect(after[1]).toContain('width="612" height="816"');
    expect(after[1]).toContain('aspect-ratio:612/816');
    expect(after[0]).not.toContain('aspect-ratio');

    // Put back: pages and crops are what they were, and so once more.
    const { version, former } = await one(id);
    expect(former).toMatchObject({ format: 'jpeg' });
    await pictures.putBack(world.context(), world.one, id, { version, role: 'publisher' });
    await expect(
      pictures.putBack(world.context(), world.one, id, { version, role: 'publisher' }),
    ).rejects.toMatchObject({ code: 'stale' });
    await doAll(maker.works());
    expect([await served(whole), await served(cropped)]).toEqual(before);
    const again = await one(id);
    await pictures.putBack(world.context(), world.one, id, { version: again.version, role: 'publisher' });
    await doAll(maker.works());
    expect([await served(whole), await served(cropped)]).toEqual(after);
  });
  it('that takes the place of another is described anew wherever its old description stands, and back with it', async () => {
    const { picture } = await send(await colour(17).jpeg().toBuffer());
    const id = picture?.id ?? 0;
    const described = { version: picture?.version ?? 1, name: 'Boat', description: 'The old boat', labels: [] };
    await pictures.setPicture(world.context(), world.one, id, described);
    const [same, own] = [await show('/same-words', id, 'The old boat'), await show('/own-words', id, 'Our pride')];
    world.now = instant(Date.now() + 2000);
    await doAll(maker.works());
    const replacing = await colour(170).jpeg().toBuffer();
    await send(replacing, 'new.jpg', id, 'publisher', 'The new boat');
    await doAll(maker.works());
    expect([await served(same), await served(own)].map((html) => / alt="([^"]*)"/.exec(html)?.[1])).toEqual([
      'The new boat',
      'Our pride',
    ]);
    expect(await one(id)).toMatchObject({ description: 'The new boat', formerWords: ['The old boat'] });
    const { version } = await one(id);
    await pictures.putBack(world.context(), world.one, id, { version, role: 'publisher' });
    await doAll(maker.works());
    expect(await served(same)).toContain(' alt="The old boat"');
    expect(await one(id)).toMatchObject({ description: 'The old boat', formerWords: ['The new boat'] });
  });
  it('takes its place from the shelf, or with bytes that are there already, and both stay', async () => {
    const bytes = await colour(120, 900, 600).jpeg().toBuffer();
    const [one_, other] = [await send(await colour(60, 900, 600).jpeg().toBuffer()), await send(bytes, 'other.jpg')];
    const [id, from] = [one_.picture?.id ?? 0, other.picture?.id ?? 0];
    await doAll(maker.works());
    const page = await show('/from-the-shelf', id);
    const before = await served(page);
    const take = (role: Role) =>
      pictures.takePicture(world.context(), world.one, { id, role, description: 'The other' }, from);
    await expect(take('author')).rejects.toMatchObject({ code: 'not-allowed' });
    await take('publisher');
    await doAll(maker.works());
    const sources = (html: string) => /srcset="([^"]*)"/.exec(html)?.[1];
    const [mine, theirs] = [await one(id), await one(from)];
    expect(mine.variants).toEqual(theirs.variants);
    expect(mine).toMatchObject({ description: 'The other' });
    expect(sources(await served(page))).not.toBe(sources(before));
    // What is brought in again is the one that had it first.
    expect((await send(bytes)).picture?.id).toBe(from);
    await pictures.putBack(world.context(), world.one, id, { version: mine.version, role: 'publisher' });
    await doAll(maker.works());
    expect(sources(await served(page))).toBe(sources(before));
    await send(bytes, 'other.jpg', id);
    await doAll(maker.works());
    expect((await one(id)).variants).toEqual(theirs.variants);
  });
  it('is replaced at once only by those who may release, and by owners where the site wants approvals', async () => {
    const { picture } = await send(await colour(31).jpeg().toBuffer());
    const id = picture?.id ?? 0;
    const other = (r: number) => colour(r, 640, 480).jpeg().toBuffer();
    // Nobody sees it yet: whoever writes may.
    await send(await other(1), 'x.jpg', id, 'author');
    await doAll(maker.works());
    await show('/guarded', id);
    await expect(send(await other(2), 'x.jpg', id, 'author')).rejects.toThrow(
      /Visitors of Site would see it at once; only a publisher or an owner may do that\..*picture of its own/,
    );
    await expect(
      pictures.putBack(world.context(), world.one, id, { version: (await one(id)).version, role: 'author' }),
    ).rejects.toMatchObject({ code: 'not-allowed' });
    await send(await other(3), 'x.jpg', id);
    await world.database('site').where({ id: 1 }).update({ approvals: 1 });
    await expect(send(await other(4), 'x.jpg', id)).rejects.toThrow(/changes want approval; only an owner may do that/);
    expect((await pictures.pictureUses(world.context(), world.one, id, 'publisher')).refusal).toMatch(/approval/);
    await send(await other(5), 'x.jpg', id, 'owner');
    await world.database('site').where({ id: 1 }).update({ approvals: 0 });
  });
  it('refuses a change made from an older version, and gives the newest', async () => {
    const { picture } = await send(await colour(99).png().toBuffer());
    const change = { version: 1, name: 'Pier', description: 'The pier', labels: ['winter'] };
    await pictures.setPicture(world.context(), world.one, picture?.id ?? 0, change);
    await expect(pictures.setPicture(world.context(), world.one, picture?.id ?? 0, change)).rejects.toMatchObject({
      code: 'stale',
    });
  });
});

describe('a file that pages lead to', () => {
  const paper = (words: string) => Buffer.from(`%PDF-1.7\n${words}`);
  const bring = (bytes: Buffer, replacesFile: number | null = null, role: Role = 'publisher') =>
    pictures.receive(world.context(), { reader, blobs: world.publisher.blobs }, world.one, {
      ...{ name: 'fares.pdf', replaces: null, replacesFile, role },
      stream: Readable.from([bytes]),
    });
  it('is replaced wherever it is used, put back, and not deleted while it is; a page of the same number is not meant', async () => {
    const id = (await bring(paper('2026'))).file?.id ?? 0;
    const leads = async (path: string, target: LinkTarget) => {
      const page = await world.page(path);
      const opening = newBlock('opening', 'opening1', { heading: 'Fares', button: { label: 'Go', target } });
      const document = { metadata: { title: 'T', description: 'D' }, blocks: [opening] };
      await saveDraft(world.context(), world.one, page, 1, document);
      const { id: release } = await world.press([world.put(page, 'now')]);
      await publishReleases(world.publisher, world.one, [release as never]);
      return page;
    };
    const page = await leads('/fares', { kind: 'file', fileId: id });
    await leads('/other', { kind: 'page', pageId: page });
    world.now = instant(Date.now() + 2000);
    const uses = (role: Role) => files.fileUses(world.context(), world.one, id, role);
    expect(await uses('publisher')).toMatchObject({ count: 1, live: 1, refusal: null, themes: [], pieces: [] });
    expect((await uses('publisher')).pages).toEqual([{ pageId: page, name: 'Page /fares', where: ['draft', 'plan'] }]);
    const led = async () => /href="\/-\/([0-9a-f]{64})\.pdf"/.exec(await served(page))?.[1];
    const first = await led();
    expect(first).toBeDefined();

    await expect(bring(paper('2027'), id, 'author')).rejects.toThrow(
      /Visitors of Site .* a publisher or an owner may do that/,
    );
    await expect(bring(Buffer.from('BEGIN:VCALENDAR'), id)).rejects.toThrow(/is a PDF and is replaced by one/);
    const replaced = (await bring(paper('2027'), id)).file;
    expect(replaced).toMatchObject({ id, version: 2, former: { bytes: paper('2026').length } });
    await doAll(maker.works());
    expect(await led()).not.toBe(first);
    // The former bytes are brought in again meanwhile: both have them then, and the way back is open.
    const twin = (await bring(paper('2026'))).file?.id ?? 0;
    const back = (version: number) => files.putBackFile(world.context(), world.one, id, { version, role: 'publisher' });
    await back(2);
    await doAll(maker.works());
    expect(await led()).toBe(first);
    await expect(back(2)).rejects.toMatchObject({ code: 'stale' });
    expect((await bring(paper('2026'))).file?.id).toBe(twin);
    // One from the shelf takes its place, and stays there; what the one had is not lost when it goes.
    const other = (await bring(paper('2028'))).file?.id ?? 0;
    const take = (from: number, role: Role) => files.takeFile(world.context(), world.one, id, { from, role });
    await expect(take(other, 'author')).rejects.toMatchObject({ code: 'not-allowed' });
    await take(other, 'publisher');
    await files.deleteFile(world.context(), world.one, other);
    await doAll(maker.works());
    const taken = await led();
    expect([first, undefined]).not.toContain(taken);
    expect(await world.publisher.blobs.has('files', taken ?? '')).toBe(true);
    await back((await files.filesOf(world.context(), world.one)).find((one) => one.id === id)?.version ?? 0);
    await doAll(maker.works());
    expect(await led()).toBe(first);
    await expect(files.deleteFile(world.context(), world.one, id)).rejects.toThrow(/Page \/fares shows it/);
  });
});

describe('icon and share picture of a site', () => {
  it('the first picture of a page is shared like one that was chosen, described as it is on the page', async () => {
    const { picture } = await send(await colour(90, 1600, 1600).jpeg().toBuffer());
    const page = await world.page('/first-shared');
    const { document } = await draft(world.context(), world.one, page);
    const use = { pictureId: picture?.id as PictureId, description: 'The quay', isDecorative: false };
    const blocks = [...document.blocks, newBlock('picture', 'pict1', { picture: use })];
    await saveDraft(world.context(), world.one, page, 1, { ...document, blocks });
    await doAll(maker.works());
    const { id: released } = await world.press([world.put(page, 'now')]);
    await publishReleases(world.publisher, world.one, [released as never]);
    expect(await served(page)).toMatch(
      /og:image" content="[^"]*\.jpg">.*og:image:width" content="1200">.*og:image:height" content="630">.*The quay/s,
    );
  });
  it('are made in the form they need from any picture', async () => {
    const { picture } = await send(await colour(150, 900, 900).jpeg().toBuffer());
    const id = picture?.id ?? 0;
    const page = await world.page('/faced');
    const { id: released } = await world.press([world.put(page, 'now')]);
    await publishReleases(world.publisher, world.one, [released as never]);
    await world.setProfile(1, { iconId: id as PictureId, shareId: id as PictureId });
    expect(await served(page)).not.toContain('og:image');
    await doAll(maker.works());
    expect(await served(page)).toMatch(/og:image.*rel="icon" href="\/-\/[0-9a-f]{64}\.png"/s);
    expect((await pictures.pictureUses(world.context(), world.one, id, 'publisher')).sites).toEqual([
      { siteId: 1, name: 'Site', as: 'icon' },
      { siteId: 1, name: 'Site', as: 'share' },
    ]);
    await expect(pictures.deletePicture(world.context(), world.one, id)).rejects.toThrow(/Site shows? it/);
    const rows = (await world.database('picture').where({ of_id: id })) as {
      purpose: string;
      variants: { hash: string; width: number }[];
    }[];
    const share = rows.find(({ purpose }) => purpose === 'share')?.variants[0];
    expect(await sharp(await bytesOf(share?.hash ?? '')).metadata()).toMatchObject({
      format: 'jpeg',
      width: 1200,
      height: 630,
    });
    expect(rows.find(({ purpose }) => purpose === 'icon')?.variants.map(({ width }) => width)).toEqual([32, 180]);
  });
});

/** A PNG of a few bytes whose head says that it is enormous. */
function bomb(width: number, height: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE((crc32 as (data: Buffer) => number)(body));
    return Buffer.concat([length, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([
    signature,
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(Buffer.alloc(1000))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
