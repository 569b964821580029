import { Injector, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { newBlock, type PageDocument, type Spot, type PictureUse } from '@domatium/core/document';
import type { GridApi } from 'ag-grid-community';
import { ChosenBlocks } from '../src/app/editor/chosen-blocks';
import { DraftService } from '../src/app/editor/draft.service';
import { EditorClipboard } from '../src/app/editor/editor-clipboard';
import { FileDrop, type DroppedPictures } from '../src/app/editor/file-drop';
import { RegisterService } from '../src/app/hub/register.service';
import { PicturesService } from '../src/app/pictures/pictures.service';
import { Glance } from '../src/app/register/glance';
import { PlaceService } from '../src/app/hub/place.service';
import { KeptColumns } from '../src/app/register/kept-columns';
import { isTyping, KEYS, onKeys } from '../src/app/shared/keys';
import { pass, rowOf } from './help';

describe('keys', () => {
  const press = (key: string, more: KeyboardEventInit = {}) =>
    new KeyboardEvent('keydown', { key, cancelable: true, bubbles: true, ...more });

  it('do what they are for, with the modifiers they have and no others', () => {
    const done: string[] = [];
    const keys = onKeys({
      find: () => void done.push('find'),
      undo: () => void done.push('undo'),
      redo: () => void done.push('redo'),
      help: () => void done.push('help'),
      moveUp: () => void done.push('up'),
    });
    // A slash may need Shift, as on many keyboards.
    for (const event of [press('/'), press('/', { shiftKey: true }), press('?', { shiftKey: true })]) keys(event);
    keys(press('z', { ctrlKey: true }));
    keys(press('Z', { ctrlKey: true, shiftKey: true }));
    keys(press('y', { ctrlKey: true }));
    keys(press('ArrowUp', { altKey: true }));
    for (const event of [press('z'), press('ArrowUp'), press('/', { altKey: true }), press('y')]) keys(event);
    expect(done).toEqual(['find', 'find', 'help', 'undo', 'redo', 'redo', 'up']);
  });

  it('go on to what stands there where nothing was done', () => {
    const [taken, left] = [press('n'), press('e')];
    const keys = onKeys({ newPage: () => true, edit: () => false });
    for (const event of [taken, left]) keys(event);
    expect([taken.defaultPrevented, left.defaultPrevented]).toEqual([true, false]);
  });

  it('are letters where somebody types', () => {
    const field = document.createElement('input');
    const list = document.createElement('div');
    document.body.append(field, list);
    const heard: boolean[] = [];
    document.addEventListener('keydown', (event) => heard.push(Boolean(isTyping(event))));
    for (const element of [field, list]) element.dispatchEvent(press('n'));
    expect(heard).toEqual([true, false]);
  });

  it('that are shown say what they do, and no press has two meanings in one place', () => {
    for (const { shown, does } of Object.values(KEYS)) expect(Boolean(shown)).toBe(Boolean(does));
    const presses = Object.values<{ readonly presses: readonly string[] }>(KEYS).flatMap(({ presses: all }) => all);
    expect(new Set(presses).size).toBe(presses.length);
  });
});

describe('the clipboard of the editor', () => {
  const photo = new File(['x'], 'photo.png', { type: 'image/png' });
  let brought: File[];
  const begin = (mayWrite = true) => {
    brought = [];
    const page: PageDocument = {
      metadata: { title: 'A page', description: '' },
      blocks: [newBlock('picture', 'pic', {}), newBlock('quote', 'quo', { text: 'Calm seas.' })],
    };
    const bring = (file: File) => {
      brought.push(file);
      return Promise.resolve({ picture: { id: 40 + brought.length, description: 'The quay' } });
    };
    TestBed.configureTestingModule({
      providers: [
        ...[DraftService, ChosenBlocks, EditorClipboard],
        { provide: RegisterService, useValue: { portfolioId: signal(1), mayWrite: signal(mayWrite) } },
        { provide: PicturesService, useValue: { bring } },
      ],
    });
    const draft = TestBed.inject(DraftService);
    draft.document.set(page);
    return { draft, choice: TestBed.inject(ChosenBlocks), clipboard: TestBed.inject(EditorClipboard) };
  };
  const transfer = (data: Record<string, string>, files: readonly File[] = []) => {
    const kept = new Map(Object.entries(data));
    return {
      files,
      getData: (type: string) => kept.get(type) ?? '',
      setData: (type: string, text: string) => void kept.set(type, text),
    };
  };
  const event = (
    type: 'copy' | 'cut' | 'paste',
    data: ReturnType<typeof transfer>,
    target: Element = document.body,
  ) => {
    const made = new Event(type, { cancelable: true }) as ClipboardEvent;
    Object.defineProperties(made, { clipboardData: { value: data }, target: { value: target } });
    return made;
  };
  const use = (draft: DraftService, id: string) =>
    draft.document()?.blocks.find((block) => block.id === id)?.fields['picture'] as PictureUse | null | undefined;

  it('puts pictures into the chosen block where it shows one, and the rest after it', async () => {
    const { draft, choice, clipboard } = begin();
    choice.choose('pic');
    const pasted = event('paste', transfer({}, [photo, new File(['y'], 'notes.txt', { type: 'text/plain' }), photo]));
    clipboard.take(pasted);
    await pass(1);
    expect(brought.map(({ name }) => name)).toEqual(['photo.png', 'photo.png']);
    expect(use(draft, 'pic')).toMatchObject({ pictureId: 41, description: 'The quay' });
    const [, second, third] = draft.document()?.blocks ?? [];
    expect([second?.type, third?.id]).toEqual(['picture', 'quo']);
    expect(use(draft, second?.id ?? '')).toMatchObject({ pictureId: 42 });
    expect(pasted.defaultPrevented).toBe(true);
  });

  it('cuts blocks and brings them back, and loses none of their words', () => {
    const { draft, choice, clipboard } = begin();
    choice.choose('quo');
    const kept = transfer({});
    clipboard.take(event('cut', kept));
    expect(draft.document()?.blocks.map(({ id }) => id)).toEqual(['pic']);
    clipboard.take(event('paste', kept));
    expect(draft.document()?.blocks.map(({ fields }) => fields['text'])).toContain('Calm seas.');
  });

  it('shows HTML before it becomes blocks, to those who may write', () => {
    const html = transfer({ 'text/html': '<h2>Fares</h2><p>Children travel free.</p>' });
    const own = begin();
    own.clipboard.take(event('paste', html));
    expect(own.clipboard.pasted()).toContain('Children travel free.');
    expect(own.draft.document()?.blocks).toHaveLength(2);
    TestBed.resetTestingModule();
    const reader = begin(false);
    const pasted = event('paste', html);
    reader.clipboard.take(pasted);
    expect([reader.clipboard.pasted(), pasted.defaultPrevented]).toEqual([null, false]);
  });

  it('leaves texts to the field they are in', () => {
    const { draft, choice, clipboard } = begin();
    choice.choose('quo');
    const cut = event('cut', transfer({}), document.createElement('textarea'));
    clipboard.take(cut);
    expect([cut.defaultPrevented, draft.document()?.blocks.length]).toEqual([false, 2]);
  });
});

describe('files dragged over the page', () => {
  const begin = (mayEdit = true) => {
    // A page of its own: what listens to it goes with it.
    const shownPage = document.implementation.createHTMLDocument();
    shownPage.body.innerHTML = '<main><section id="b-pic"><img></section><section id="b-quo"><p></p></section></main>';
    const sections = () => [...shownPage.querySelectorAll<HTMLElement>('main > section')];
    const shown: (Spot | null)[] = [];
    const dropped: DroppedPictures[] = [];
    const page: PageDocument = {
      metadata: { title: 'A page', description: '' },
      blocks: [newBlock('picture', 'pic', {}), newBlock('quote', 'quo', {})],
    };
    new FileDrop({
      places: { sections } as never,
      document: () => page,
      mayEdit: () => mayEdit,
      show: (spot) => shown.push(spot),
      dropped: (pictures) => dropped.push(pictures),
    }).listen(shownPage);
    const drag = (type: 'dragover' | 'drop', on: string, files: readonly File[]) => {
      const made = new Event(type, { bubbles: true, cancelable: true });
      Object.defineProperty(made, 'dataTransfer', { value: { types: ['Files'], files } });
      shownPage.querySelector(on)?.dispatchEvent(made);
      return made;
    };
    return { sections, shown, dropped, drag };
  };

  it('go into the picture of a block, which says so, or before the block under them', () => {
    const { sections, shown, dropped, drag } = begin();
    drag('dragover', 'img', []);
    expect(sections().map(({ className }) => className)).toEqual(['takes-picture', '']);
    drag('dragover', 'p', []);
    expect(shown.at(-1)).toEqual({ id: 'pic', side: 'past' });
    const file = new File(['x'], 'a.png');
    drag('drop', 'img', [file]);
    drag('drop', 'main', [file]);
    expect(dropped).toEqual([
      { files: [file], blockId: 'pic', field: 'picture', at: 0 },
      { files: [file], blockId: null, field: null, at: 2 },
    ]);
    expect(sections().map(({ className }) => className)).toEqual(['', '']);
  });

  it('are not taken where nothing may be changed, and open nothing in the place of the page', () => {
    const { dropped, drag } = begin(false);
    expect(drag('dragover', 'img', []).defaultPrevented).toBe(false);
    expect(drag('drop', 'img', [new File(['x'], 'a.png')]).defaultPrevented).toBe(true);
    expect(dropped).toEqual([]);
  });
});

describe('the list', () => {
  it('shows the columns its address says, else those one likes here, and says them in the address', () => {
    localStorage.clear();
    const said = signal<readonly string[] | null>(null);
    const place = {
      columns: said,
      go: ({ columns }: { columns: string | null }) => said.set(columns?.split('.') ?? null),
    };
    const start = () =>
      Injector.create({
        providers: [{ provide: PlaceService, useValue: place }, { provide: KeptColumns }],
      }).get(KeptColumns);
    const first = start();
    expect([...first.hidden()]).toContain('owner');
    first.toggle('owner');
    // Where it usually stands, and in the address.
    expect(said()).toEqual([
      ...['choose', 'name', 'address', 'when', 'visits', 'change', 'line'],
      'fixes',
      'owner',
      'changed',
    ]);
    const state = ['choose', 'name', 'owner', 'when', 'site'].map((colId) => ({ colId, width: 90 }));
    first.keep({ getColumnState: () => state } as unknown as GridApi);
    expect(said()).toEqual(['choose', 'name', 'owner', 'when']);
    // Somebody else's view shows its own, and changes nothing that is liked here.
    said.set(['name', 'visits', 'nothing']);
    expect(first.shown()).toEqual(['choose', 'name', 'visits']);
    said.set(null);
    const second = start();
    expect(second.shown()).toEqual(['choose', 'name', 'owner', 'when']);
    second.say();
    expect(said()).toEqual(['choose', 'name', 'owner', 'when']);
    const applied: { state: object[] }[] = [];
    second.apply({ applyColumnState: (one: { state: object[] }) => applied.push(one) } as unknown as GridApi);
    expect(applied[0]?.state[2]).toEqual({ colId: 'owner', width: 90 });
    localStorage.setItem('domatium.register.columns', '{"not": "a list"');
    said.set(null);
    expect([...start().hidden()]).toContain('owner');
  });

  it('shows a page small once one rests on its name, not in passing, and not beside a sheet', async () => {
    const frame = document.createElement('div');
    const row = document.createElement('div');
    frame.append(row);
    document.body.append(frame);
    let isOff = false;
    const glance = new Glance(
      () => frame,
      () => isOff,
    );
    const boat = rowOf(7, 'Night boat');
    glance.rest(boat, () => row);
    await pass(200);
    glance.rest(rowOf(8, 'Day boat'), () => row);
    await pass(460);
    expect(glance.at()?.page.name).toBe('Day boat');
    glance.rest(null, () => null);
    expect(glance.at()).toBeNull();
    glance.rest(boat, () => row);
    isOff = true;
    await pass(460);
    expect(glance.at()).toBeNull();
    isOff = false;
    glance.rest(boat, () => row);
    glance.end();
    await pass(460);
    expect(glance.at()).toBeNull();
  });
});
