import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { FileView, PictureView } from '@domatium/contracts';
import { newBlock, type PictureUse } from '@domatium/core/document';
import { PictureField } from '../src/app/editor/picture-field';
import { ReferenceField } from '../src/app/editor/reference-field';
import { PicturesService } from '../src/app/pictures/pictures.service';
import { MomentField } from '../src/app/shared/moment-field';
import { PagePicker } from '../src/app/shared/page-picker';
import { StockService } from '../src/app/hub/stock.service';
import { NOW, buttons, choose, element, open, press, rowOf, settle, surround, text } from './help';

const picture = (id: number, changes: Partial<PictureView> = {}): PictureView => ({
  ...{ id, name: `picture ${id}`, description: `Boat ${id}`, width: 1800, height: 1200, state: 'ready', progress: 1 },
  ...{ failure: null, labels: [], version: 1, crop: null, ofId: null, similar: [] },
  ...{ original: { bytes: 9, format: 'jpeg' }, former: null, formerWords: [] },
  variants: [{ width: 480, src: `/f/${id}.webp`, bytes: 20_000 }],
  ...changes,
});
const film: FileView = {
  id: 7,
  name: 'crossing.mp4',
  ending: 'mp4',
  bytes: 5_400_000,
  src: '/f/7.mp4',
  version: 1,
  former: null,
};
const paper: FileView = {
  id: 8,
  name: 'fares.pdf',
  ending: 'pdf',
  bytes: 900,
  src: '/f/8.pdf',
  version: 1,
  former: null,
};

async function shelf(all: readonly PictureView[], files: readonly FileView[] = []) {
  const world = surround();
  world.api.on('GET pictures', () => all);
  world.api.on('GET stored-files', () => files);
  const pictures = TestBed.inject(PicturesService);
  await pictures.open(1);
  return { ...world, pictures };
}
async function heard<T>(fixture: ComponentFixture<{ changed: { subscribe(to: (value: T) => void): unknown } }>) {
  const all: T[] = [];
  fixture.componentInstance.changed.subscribe((value) => all.push(value));
  return Promise.resolve(all);
}
const give = async (fixture: ComponentFixture<unknown>, file: File, place = 0) => {
  const field = element(fixture).querySelectorAll<HTMLInputElement>('input[type="file"]')[place] as HTMLInputElement;
  Object.defineProperty(field, 'files', { value: [file], configurable: true });
  field.dispatchEvent(new Event('change'));
  await settle(fixture);
};

describe('a picture of a block', () => {
  const use: PictureUse = { pictureId: 1 as never, description: 'Boat 1', isDecorative: false };
  it('is found on the shelf by its words, and brings its description along', async () => {
    await shelf([picture(1), picture(2, { labels: ['winter'] }), picture(3, { ofId: 2 })]);
    const fixture = await open(PictureField, { label: 'Picture', value: null });
    const changes = await heard<PictureUse | null>(fixture);
    await press(fixture, 'Choose from Pictures');
    const field = element(fixture).querySelector('input[type="search"]') as HTMLInputElement;
    field.value = 'winter';
    field.dispatchEvent(new Event('input'));
    await settle(fixture);
    const found = element(fixture).querySelectorAll<HTMLElement>('[role="option"]');
    expect(found).toHaveLength(1);
    found[0]?.click();
    expect(changes).toEqual([{ pictureId: 2, description: 'Boat 2', isDecorative: false }]);
  });
  it('says what it weighs against what it should, and asks for words unless it only decorates', async () => {
    await shelf([picture(1, { variants: [{ width: 1800, src: '/f/1.webp', bytes: 400_000 }] })]);
    const fixture = await open(PictureField, { label: 'Picture', value: use });
    const changes = await heard<PictureUse | null>(fixture);
    expect(text(fixture)).toContain('1,800 × 1,200 · 391 KB at most, of 200 KB · heavy: crop it, or take a calmer one');
    const words = element(fixture).querySelector('[id="description-Picture"]') as HTMLTextAreaElement;
    words.value = 'The night boat';
    words.dispatchEvent(new Event('input'));
    element(fixture).querySelector<HTMLElement>('input[type="checkbox"]')?.click();
    expect(changes).toMatchObject([{ description: 'The night boat' }, { isDecorative: true }]);
    fixture.componentRef.setInput('value', { ...use, isDecorative: true });
    await settle(fixture);
    expect(words.disabled).toBe(true);
    await press(fixture, 'remove');
    expect(changes.at(-1)).toBeNull();
  });
  it('can be used while its sizes are made; a damaged one says so, and only a ready one is cropped', async () => {
    await shelf([
      picture(1, { state: 'waiting', progress: 0.4 }),
      picture(2, { state: 'failed', failure: 'It is damaged.' }),
    ]);
    const fixture = await open(PictureField, { label: 'Picture', value: use });
    expect(text(fixture)).toContain('Its sizes are being made: 40 %. The page can go out meanwhile.');
    expect(buttons(fixture)).not.toContain('crop');
    fixture.componentRef.setInput('value', { ...use, pictureId: 2 });
    await settle(fixture);
    expect(element(fixture).querySelector('[role="alert"]')?.textContent).toContain('It is damaged.');
  });
  it('is replaced everywhere as what it is a part of, once who will see it was said', async () => {
    const { pictures, api, said } = await shelf([picture(1), picture(5, { ofId: 1 })]);
    const pages = [{ pageId: 7, name: 'Night boat', where: ['plan'] }];
    api.on('GET pictures/:pictureId/uses', () => ({
      ...{ pages, pieces: [], sites: [], count: 31, live: 30, refusal: null },
    }));
    const received = { picture: picture(1), file: null, isKnown: false };
    const brought = jest.spyOn(pictures, 'bring').mockResolvedValue(received);
    const fixture = await open(PictureField, { label: 'Picture', value: { ...use, pictureId: 5 as never } });
    await press(fixture, 'change');
    await give(fixture, new File(['x'], 'new.jpg'), 1);
    expect(brought).not.toHaveBeenCalled();
    expect(text(fixture)).toMatch(
      /Replace “picture 1” everywhere.*30 pages that are live or planned will show the new one.*; 1 draft too\. ?Night boat and 30 more/,
    );
    element(fixture).querySelector<HTMLInputElement>('[role="dialog"] input[type="radio"]')?.click();
    await settle(fixture);
    await press(fixture, 'Replace everywhere');
    expect(brought).toHaveBeenCalledWith(expect.objectContaining({ name: 'new.jpg' }), { replaces: 1 });
    expect(said).toEqual([expect.stringContaining('“picture 1” replaced')]);
    expect(element(fixture).querySelector('[role="dialog"]')).toBeNull();
  });
  it('is not replaced by who may not, and why is said before anything is sent', async () => {
    const { pictures, api } = await shelf([picture(1)]);
    const refusal = 'Visitors of Ferries would see it at once; only a publisher or an owner may do that.';
    api.on('GET pictures/:pictureId/uses', () => ({ pages: [], pieces: [], sites: [], count: 2, live: 2, refusal }));
    const brought = jest.spyOn(pictures, 'bring');
    const fixture = await open(PictureField, { label: 'Picture', value: use });
    await press(fixture, 'change');
    await give(fixture, new File(['x'], 'new.jpg'), 1);
    expect(element(fixture).querySelector('[role="alert"]')?.textContent).toContain(refusal);
    await press(fixture, 'Replace everywhere');
    expect(brought).not.toHaveBeenCalled();
  });
});

describe('something of the portfolio in a block', () => {
  it('is a film that browsers play; one they can’t is refused beside the field, and not sent', async () => {
    const { pictures } = await shelf([], [film, paper]);
    const brought = jest
      .spyOn(pictures, 'bring')
      .mockResolvedValue({ picture: null, file: { ...film, id: 9 }, isKnown: false });
    URL.createObjectURL = () => 'blob:x';
    URL.revokeObjectURL = () => undefined;
    let plays = false;
    const make = document.createElement.bind(document);
    jest.spyOn(document, 'createElement').mockImplementation((tag: string) => {
      const made = make(tag);
      if (tag !== 'video') return made;
      Object.defineProperty(made, 'videoWidth', { value: 640 });
      Object.defineProperty(made, 'src', {
        set: () =>
          setTimeout(() => (made as HTMLVideoElement)[plays ? 'onloadeddata' : 'onerror']?.(new Event('x') as never)),
      });
      return made;
    });
    const fixture = await open(ReferenceField, { label: 'Own film', of: 'file', value: null });
    const changes = await heard(fixture as never);
    expect([...element(fixture).querySelectorAll('option')].map((one) => one.textContent?.trim())).toEqual([
      'None',
      'crossing.mp4 · 5.1 MB',
    ]);
    await give(fixture, new File(['x'], 'old.mov'));
    await settle(fixture);
    expect(element(fixture).querySelector('[role="alert"]')?.textContent).toContain(
      '“old.mov” can’t be played by browsers',
    );
    expect(brought).not.toHaveBeenCalled();
    plays = true;
    await give(fixture, new File(['x'], 'new.mp4'));
    await settle(fixture);
    await choose(fixture, 'Own film', '0');
    expect(changes).toEqual([{ id: 9 }, null]);
    jest.restoreAllMocks();
  });
  it('is a piece, named with whether pages show anything of it yet', async () => {
    const { api } = await shelf([]);
    const pieces = [
      { id: 4, name: 'Harbour desk', blocks: [newBlock('text', 'text0001', {})] },
      { id: 5, name: 'New one', blocks: null },
    ];
    api.on('GET stock', () => []);
    api.on('GET stock/held', () => ({ themes: {}, values: [], css: [], pieces }));
    await TestBed.inject(StockService).open(1);
    const fixture = await open(ReferenceField, { label: 'Piece', of: 'piece', value: { id: 4 } });
    const changes = await heard(fixture as never);
    expect(text(fixture)).toMatch(/Harbour desk.*New one \(not released\)/);
    await choose(fixture, 'Piece', '5');
    expect(changes).toEqual([{ id: 5 }]);
  });
});

describe('a page that is chosen by its name', () => {
  const periods = [{ from: NOW - 86_400_000, until: NOW + 26 * 86_400_000, revision: 1 }] as never;
  it('says how long it is live, or that it is in the bin', async () => {
    surround({
      rows: [
        rowOf(1, 'Night boat', { periods }),
        rowOf(2, 'Old offer', { binnedSince: NOW - 3_600_000 }),
        rowOf(3, 'Draft'),
      ],
    });
    const fixture = await open(PagePicker, { label: 'Page', pageId: 1 });
    expect(text(fixture)).toMatch(/live since .*24 Nov.* to .*21 Dec/);
    fixture.componentRef.setInput('pageId', 2);
    await settle(fixture);
    expect(text(fixture)).toContain('In the bin since');
    expect(text(fixture)).toContain('In the bin since');
    fixture.componentRef.setInput('pageId', 3);
    await settle(fixture);
    expect(text(fixture)).toContain('Draft: never live, nothing planned');
  });
});

describe('a moment', () => {
  it('is typed as people write days and times; what is none is kept and refused where it is used', async () => {
    surround();
    const fixture = await open(MomentField, { label: 'From', value: '2026-12-24T18:00' });
    const changes = await heard<string | null>(fixture);
    const [day, time] = [...element(fixture).querySelectorAll('input')] as HTMLInputElement[];
    const set = (field: HTMLInputElement | undefined, value: string) => {
      (field as HTMLInputElement).value = value;
      field?.dispatchEvent(new Event('change'));
    };
    expect([day?.value, time?.value]).toEqual(['Thu 24 Dec 2026', '18:00']);
    set(day, '6 Jan 2027');
    set(time, '9');
    set(day, 'some day');
    set(day, '');
    expect(changes[0]).toBe('2027-01-06T18:00');
    expect(changes[1]).toBe('2026-12-24T09:00');
    expect(changes[2]).not.toMatch(/^\d{4}-\d\d-\d\dT/);
    expect(changes[3]).toBeNull();
  });
});
