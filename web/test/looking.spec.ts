import { TestBed } from '@angular/core/testing';
import type { PictureUses, PictureView, PreparedView } from '@domatium/contracts';
import { DAY, type Instant } from '@domatium/core/time';
import { PlaceService } from '../src/app/hub/place.service';
import { PageCondition } from '../src/app/pages/page-condition';
import { SeenPage } from '../src/app/pages/seen-view';
import { PicturesService } from '../src/app/pictures/pictures.service';
import { reachWords } from '../src/app/pictures/reach-words';
import { ReplaceSheet } from '../src/app/pictures/replace-sheet';
import { PreparedSheet } from '../src/app/prepared/prepared-sheet';
import { element, NOW, open, pass, press, previewOf, rowOf, settle, surround, text } from './help';

describe('a page as of another moment', () => {
  const start = async (at: number, answer: object | null) => {
    const world = surround({ rows: [rowOf(7, 'Night boat')] });
    Object.assign(TestBed.inject(PlaceService), { asOf: () => at, dragged: () => null });
    const seen = { host: 'marrowick.example', path: '/night', words: 'gone (410)', isPage: false, isLate: false };
    world.api.on('GET pages/:pageId/seen', () =>
      answer ? { ...seen, outAt: null, ...answer } : world.api.refuse('not-found', 'There is no such page here.'),
    );
    return { ...world, fixture: await open(SeenPage, { pageId: 7 }) };
  };
  it('is the page that was served then, in a frame that runs nothing, wide and narrow', async () => {
    const { fixture } = await start(NOW - DAY, { isPage: true, words: 'Night boat, revision 3' });
    const frame = () => element(fixture).querySelector('iframe');
    expect(frame()?.getAttribute('src')).toBe('/api/portfolios/1/pages/7/seen.html?at=2026-11-24T08%3A00%3A00.000Z');
    expect(frame()?.getAttribute('sandbox')).toBe('allow-popups');
    expect(text(fixture)).toMatch(/Night boat as of Tue 24 Nov, 09:00.*\/night gave Night boat, revision 3/);
    await press(fixture, 'Narrow');
    expect(frame()?.classList.contains('narrow')).toBe(true);
  });
  it('says what was given instead, that a release was late, or that there was no such page yet', async () => {
    const late = await start(NOW + DAY, { isLate: true, outAt: NOW + 2 * DAY });
    expect(element(late.fixture).querySelector('iframe')).toBeNull();
    expect(text(late.fixture)).toMatch(/will give gone \(410\)/);
    expect(text(late.fixture)).toMatch(/Late: a release had been decided.*Fri 27 Nov, 09:00/);
    TestBed.resetTestingModule();
    const before = await start(NOW - 900 * DAY, null);
    expect(text(before.fixture)).toContain('This page did not exist then.');
  });
});

describe('the condition of a page', () => {
  it('is its weight against the budget, and what speaks for keeping it; where neither can be had, nothing', async () => {
    const { api } = surround();
    const weight = { page: 20_000, style: 5_000, fonts: 60_000, pictures: 900_000 };
    api.on('GET pages/:pageId/weight', () => ({
      view: { weight, total: 985_000, budget: 600_000, seconds: 5.24, patience: 3 },
    }));
    api.on('GET pages/:pageId/evidence', () => [
      { speaksFor: 'keeping', words: 'Three pages link to it' },
      { speaksFor: 'taking-off', words: 'No visit in 90 days' },
    ]);
    const fixture = await open(PageCondition, { pageId: 7 });
    await settle(fixture);
    expect(text(fixture)).toMatch(/985 KB of 600 KB.*5\.2 s of 3 s on a slow line.*over budget/);
    expect(text(fixture)).toContain('pictures 900 KB · fonts 60 KB · text and style 25 KB');
    expect(text(fixture)).toMatch(/keep ?Three pages link to it.*take off ?No visit in 90 days/);
    TestBed.resetTestingModule();
    const second = surround();
    second.api.on('GET pages/:pageId/weight', () => second.api.refuse('not-found', 'There is no such page here.'));
    const none = await open(PageCondition, { pageId: 7 });
    await settle(none);
    expect(text(none).trim()).toBe('');
  });
});

describe('a picture that is replaced everywhere', () => {
  const picture = {
    ...{ id: 1, name: 'harbour', description: 'A boat', width: 1200, height: 800, ofId: null },
    variants: [{ width: 480, src: '/f/1.webp', bytes: 20_000 }],
  } as unknown as PictureView;
  const uses = (more: Partial<PictureUses> = {}): PictureUses => ({
    ...{ pages: [{ pageId: 7, name: 'Night boat', where: ['plan'] }], pieces: [], sites: [], count: 4, live: 3 },
    refusal: null,
    ...more,
  });
  const start = async (all: PictureUses | null, from?: PictureView) => {
    Object.assign(URL, { createObjectURL: () => 'blob:fresh', revokeObjectURL: () => undefined });
    const world = surround();
    world.api.on('GET pictures', () => [picture, { ...picture, id: 2, ofId: 1 }]);
    world.api.on('GET pictures/:pictureId/uses', () => all);
    const pictures = TestBed.inject(PicturesService);
    await pictures.open(1);
    const replaced = jest.spyOn(pictures, 'replace').mockResolvedValue(undefined as never);
    const file = new File(['x'.repeat(5000)], 'fresh.jpg');
    const fixture = await open(ReplaceSheet, { picture, fresh: from ?? file });
    await settle(fixture);
    const go = () => element(fixture).querySelector<HTMLButtonElement>('.btn-primary');
    return { ...world, fixture, replaced, go, file };
  };
  it('says first who will see the new one and what becomes of its parts', async () => {
    const { fixture, replaced, go, file } = await start(uses({ sites: [{ siteId: 1, name: 'Ferries', as: 'icon' }] }));
    expect(text(fixture)).toMatch(/3 pages that are live or planned will show the new one .*; 1 draft too/);
    expect(text(fixture)).toMatch(/Night boat and 3 more/);
    expect(text(fixture)).toContain('It is the face of 1 site too.');
    expect(text(fixture)).not.toContain('Its shape');
    const image = element(fixture).querySelectorAll('img')[1] as HTMLImageElement;
    for (const [side, value] of Object.entries({ naturalWidth: 800, naturalHeight: 800 }))
      Object.defineProperty(image, side, { value });
    image.dispatchEvent(new Event('load'));
    await settle(fixture);
    expect(text(fixture)).toMatch(/800 × 800 · 5 KB before it is made light/);
    expect(text(fixture)).toMatch(/shape/i);
    // Nobody replaces it without saying how the new one is described.
    expect(go()?.disabled).toBe(true);
    const [same, other] = [...element(fixture).querySelectorAll<HTMLInputElement>('input[type="radio"]')];
    other?.click();
    await settle(fixture);
    expect(go()?.disabled).toBe(true);
    const field = element(fixture).querySelector('textarea') as HTMLTextAreaElement;
    Object.assign(field, { value: 'A red boat' }).dispatchEvent(new Event('input'));
    await settle(fixture);
    go()?.click();
    expect(replaced).toHaveBeenLastCalledWith(picture, file, 'A red boat');
    same?.click();
    await settle(fixture);
    go()?.click();
    expect(replaced).toHaveBeenLastCalledWith(picture, file, null);
  });
  it('takes one from the shelf as well, which stays there, with its own words to begin with', async () => {
    const pier = { ...picture, id: 5, name: 'pier', description: 'The pier', height: 1200 } as PictureView;
    const { fixture, replaced, go } = await start(uses(), pier);
    expect(text(fixture)).toMatch(/pier · 1,200 × 1,200; it stays here as well/);
    expect(text(fixture)).toMatch(/shape/i);
    element(fixture).querySelectorAll<HTMLInputElement>('input[type="radio"]')[1]?.click();
    await settle(fixture);
    go()?.click();
    expect(replaced).toHaveBeenLastCalledWith(picture, pier, 'The pier');
  });
  it('is not replaced by whoever may not, nor before it is known who sees it', async () => {
    const { fixture, go } = await start(uses({ refusal: 'Visitors of Ferries would see it at once.' }));
    expect([go()?.disabled, text(fixture)]).toEqual([true, expect.stringContaining('Visitors of Ferries')]);
    TestBed.resetTestingModule();
    expect((await start(null)).go()?.disabled).toBe(true);
    const words = [uses(), uses({ count: 1, live: 0 }), uses({ count: 0, live: 0 })].map((all) =>
      reachWords(all, 'soon'),
    );
    expect(words[1]).toBe('1 page has it in the draft; no visitor sees it yet.');
    expect(words[2]).toBe('No page uses it.');
  });
});

describe('a prepared release of things of the stock', () => {
  it('shows their times, which can be changed; one can be left out, and the rest is kept', async () => {
    const wall = (local: string) => ({ local, zone: 'Europe/Oslo' });
    const one: PreparedView = {
      ...{ id: 5, name: 'Winter', version: 2, madeAt: NOW, madeBy: 'Ingrid', changedAt: NOW, changedBy: 'Ingrid' },
      ...{ changes: [], pages: [], startsAt: (NOW + DAY) as Instant, isLapsed: false },
      stock: [
        { act: 'put', itemId: 4, from: wall('2026-11-26T09:00'), until: wall('2026-12-09T00:00') },
        { act: 'take-off', itemId: 6, from: 'now', until: null },
      ],
      items: [
        { id: 4, name: 'Smoke' },
        { id: 6, name: 'Fares' },
      ],
      approvals: { needed: 0, given: [], waitsFor: [] },
      ...{ words: [], isSentBack: false },
    };
    const { api } = surround();
    api.on('GET prepared', () => [one]);
    api.on('POST releases/preview', () => previewOf());
    const fixture = await open(PreparedSheet);
    expect(text(fixture)).toContain('2 things of the stock');
    await press(fixture, /^Winter/);
    await pass(230);
    await settle(fixture);
    expect(text(fixture)).toMatch(/Smoke ?on its pages.*Fares ?off its pages ?with the press ?to ?open end/);
    expect(api.sent('POST releases/preview').at(-1)).toEqual({ changes: [], stock: one.stock });
    element(fixture).querySelector<HTMLElement>('[aria-label="Leave out Fares"]')?.click();
    await settle(fixture);
    await press(fixture, 'Save changes');
    expect(api.sent('PUT prepared/:preparedId')).toEqual([
      { version: 2, name: 'Winter', changes: [], stock: one.stock.slice(0, 1) },
    ]);
  });
});
