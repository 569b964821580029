import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { DraftView, PageState } from '@domatium/contracts';
import { newBlock, plainTextOf, type FieldValues, type PageDocument, type RichText } from '@domatium/core/document';
import { BlockDrag } from '../src/app/editor/block-drag';
import { BlockFields } from '../src/app/editor/block-fields';
import { ChosenBlocks } from '../src/app/editor/chosen-blocks';
import { DraftService } from '../src/app/editor/draft.service';
import { HistoryPanel } from '../src/app/editor/history-panel';
import { ImportPanel } from '../src/app/editor/import-panel';
import { LinkField } from '../src/app/editor/link-field';
import { Outline } from '../src/app/editor/outline';
import { PageWorld } from '../src/app/editor/page-world';
import { PageSearch } from '../src/app/editor/page-search';
import { PhonePanel } from '../src/app/editor/phone-panel';
import { PicturesService } from '../src/app/pictures/pictures.service';
import { SourcePanel } from '../src/app/editor/source-panel';
import { StartPanel } from '../src/app/editor/start-panel';
import { OwnCssField } from '../src/app/source/own-css-field';
import { blockTypes } from '@domatium/core/blocks';
import { NOW, buttons, choose, element, open, press, rowOf, settle, surround, text, withPlainCode } from './help';

const page: PageDocument = {
  metadata: { title: 'Night boat', description: 'Words' },
  blocks: [
    newBlock('opening', 'opening1', { heading: 'Night boat', text: 'Sleep across.', asks: 'email' }),
    newBlock('quote', 'quote001', { text: 'We slept.', who: 'Signe' }),
    newBlock('callToAction', 'ask00001', { heading: 'Book' }),
  ],
};
const there: PageDocument = {
  metadata: { title: 'Timetable', description: '' },
  blocks: [
    newBlock('opening', 'top00001', { heading: 'All sailings', asks: 'email' }),
    newBlock('text', 'text0001', {}),
  ],
};
const view = (document: PageDocument): DraftView => ({
  ...{ version: 3, document, changedAt: NOW, changedBy: 'Ingrid', name: 'Night boat', siteId: 1 },
  ...{ host: 'marrowick.example', path: '/night', latestRevision: 2, differsFromLatest: true, overridden: [] },
});

async function editor(document: PageDocument = page) {
  localStorage.clear();
  sessionStorage.clear();
  const world = surround({ rows: [rowOf(2, 'Night boat'), rowOf(9, 'Timetable')] });
  TestBed.configureTestingModule({ providers: [DraftService, ChosenBlocks, PageWorld, BlockDrag] });
  withPlainCode(SourcePanel, BlockFields, OwnCssField);
  world.api.on('GET pages/:pageId/draft', ({ params }) => view(params?.['pageId'] === 9 ? there : document));
  world.api.on('PUT pages/:pageId/draft', ({ body }) => ({ version: Number(body?.['version']) + 1, changedAt: NOW }));
  world.api.on('GET stock', () => [{ id: 30, kind: 'css', siteId: 1, name: 'CSS of Ferries' }]);
  const draft = TestBed.inject(DraftService);
  const chosen = TestBed.inject(ChosenBlocks);
  await draft.open(1, 2);
  const field = (of: string, key: string) =>
    draft.document()?.blocks.find(({ id }) => id === of)?.fields[key] as unknown;
  return { ...world, draft, chosen, field, order: () => draft.document()?.blocks.map(({ id }) => id) };
}
/** Types into the field of that name. */
async function write(fixture: ComponentFixture<unknown>, label: string, value: string): Promise<void> {
  const found = element(fixture).querySelector<HTMLInputElement>(`[aria-label="${label}"]`);
  if (!found) throw new Error(`No field ${label}`);
  found.value = value;
  for (const kind of ['input', 'change']) found.dispatchEvent(new Event(kind));
  await settle(fixture);
}
const shown = (fixture: ComponentFixture<unknown>, label: string) =>
  element(fixture).querySelector<HTMLTextAreaElement>(`[aria-label="${label}"]`)?.value ?? '';

describe('what a page asks of search engines', () => {
  it('is kept with its draft only where it is not the usual, one step each, and can be taken back', async () => {
    const { draft } = await editor();
    const fixture = await open(PageSearch);
    const robots = () => draft.document()?.metadata.robots;
    const tick = async (n: number) => {
      element(fixture).querySelectorAll<HTMLInputElement>('input[type=checkbox]')[n]?.click();
      await settle(fixture);
    };
    const pick = async (id: string, value: string) => {
      const field = element(fixture).querySelector<HTMLSelectElement>(`#${id}`);
      if (!field) throw new Error(`No field ${id}`);
      field.value = value;
      field.dispatchEvent(new Event('change'));
      await settle(fixture);
    };
    await tick(0);
    await pick('snippet', 'most');
    await write(fixture, 'Most characters of text below a result', '80');
    // What is no number of characters is said, and leaves what was there.
    await write(fixture, 'Most characters of text below a result', '0');
    expect(text(fixture)).toContain('Enter a number from 1 to 10,000.');
    await pick('previews', 'large');
    await write(fixture, 'Out of search results from, day', '3 Dec 2026');
    expect(robots()).toEqual({
      noindex: true,
      maxSnippet: 80,
      maxImagePreview: 'large',
      unavailableAfter: { at: Date.UTC(2026, 11, 2, 23), zone: 'Europe/Oslo' },
    });
    draft.undo();
    await settle(fixture);
    expect(robots()).not.toHaveProperty('unavailableAfter');
    await tick(0);
    await pick('snippet', '');
    await pick('previews', '');
    expect(draft.document()?.metadata).not.toHaveProperty('robots');
  });
});

describe('a block by hand', () => {
  it('is shown as HTML, changed as one types, in one step each, and follows what is changed elsewhere', async () => {
    const { draft, chosen, field } = await editor();
    chosen.choose('quote001');
    const fixture = await open(SourcePanel);
    const source = shown(fixture, 'Block as HTML');
    expect(source).toContain('<div data-field="text">We slept.</div>');
    // Written otherwise, meaning the same: it stands as it was typed, and nothing is changed.
    await write(fixture, 'Block as HTML', source.replace('<div data-field="text">We', '<div\n data-field="text" >We'));
    expect(shown(fixture, 'Block as HTML')).toContain('<div\n data-field="text" >');
    expect(draft.canUndo()).toBe(false);
    await write(fixture, 'Block as HTML', source.replace('Signe', 'Signe Dahl'));
    expect(field('quote001', 'who')).toBe('Signe Dahl');
    draft.undo();
    await settle(fixture);
    expect(field('quote001', 'who')).toBe('Signe');
    expect(shown(fixture, 'Block as HTML')).toBe(source);
  });
  it('that can’t be taken changes nothing, stays as it was typed, and says where it is wrong', async () => {
    const { draft, chosen } = await editor();
    chosen.choose('quote001');
    const fixture = await open(SourcePanel);
    const typed = shown(fixture, 'Block as HTML').replace('data-layout="tint"', 'data-layout="loud"');
    await write(fixture, 'Block as HTML', typed);
    expect(text(fixture)).toContain('Line 1: Layout: Choose one of the options.');
    expect([draft.canUndo(), shown(fixture, 'Block as HTML')]).toEqual([false, typed]);
    chosen.choose('ask00001');
    await settle(fixture);
    expect(shown(fixture, 'Block as HTML')).toContain('data-block="callToAction"');
    expect(text(fixture)).not.toContain('Choose one of the options');
  });
  it('stands beside the CSS of its page, and leads to that of its site', async () => {
    const { draft } = await editor();
    const fixture = await open(SourcePanel);
    expect(text(fixture)).toContain('Select a block to see its HTML');
    await write(fixture, 'Own CSS of this page', '.button { background: red }\nbody { display: none }');
    expect(draft.document()?.metadata.css).toContain('background: red');
    expect(text(fixture)).toMatch(/Line 2: “body” hides the whole page.*overrides \.button: background/);
    expect(text(fixture)).toContain('Own CSS of Ferries, for all of its pages');
  });
});

describe('where a link leads', () => {
  const start = async (value: unknown = null) => {
    const world = await editor();
    const fixture = await open(LinkField, { label: 'Leads to', value });
    const chosen: unknown[] = [];
    fixture.componentInstance.changed.subscribe((target) => chosen.push(target));
    return { ...world, fixture, chosen };
  };
  it('is a block or a form of this page, chosen by its words', async () => {
    const { fixture, chosen } = await start();
    await press(fixture, 'A block here');
    await choose(fixture, 'Leads to, block', 'quote001');
    await press(fixture, 'A form');
    const forms = [...element(fixture).querySelectorAll('option')].map((one) => one.textContent?.trim());
    expect(forms).toEqual(['Choose a form of this page', 'Opening “Night boat” (form)']);
    await choose(fixture, 'Leads to, form', 'opening1');
    expect(chosen).toEqual([
      { kind: 'block', blockId: 'quote001' },
      { kind: 'block', blockId: 'opening1' },
    ]);
  });
  it('is a place on another page, with its form named', async () => {
    const { fixture, chosen } = await start({ kind: 'page', pageId: 9 });
    const places = [...element(fixture).querySelectorAll('option')].map((one) => one.textContent?.trim());
    expect(places[0]).toBe('to its top');
    expect(places[1]).toContain('All sailings” (form)');
    await choose(fixture, 'Leads to, where on that page', 'top00001');
    await choose(fixture, 'Leads to, where on that page', '');
    expect(chosen).toEqual([
      { kind: 'page', pageId: 9, blockId: 'top00001' },
      { kind: 'page', pageId: 9 },
    ]);
  });
  it.each([
    [
      'Mail',
      'Leads to, mailbox',
      'desk@',
      'desk@marrowick.example',
      { kind: 'mail', address: 'desk@marrowick.example' },
    ],
    ['Phone', 'Leads to, telephone', 'call us', '+47 75 12 00 31', { kind: 'phone', number: '+4775120031' }],
    [
      'Outside',
      'Leads to, outside address',
      'ftp://x',
      'https://a.example/b',
      { kind: 'outside', url: 'https://a.example/b' },
    ],
  ])('%s: what is none is refused beside the field', async (kind, label, wrong, right, target) => {
    const { fixture, chosen } = await start();
    await press(fixture, kind);
    await write(fixture, label, wrong);
    expect(element(fixture).querySelector('.field-error')?.textContent).toBeTruthy();
    expect(chosen).toEqual([]);
    await write(fixture, label, right);
    expect(chosen).toEqual([target]);
    expect(element(fixture).querySelector('.field-error')).toBeNull();
  });
});

describe('the address of an own page', () => {
  it('that somebody pastes becomes a link to that page, or to a place on it; others stay what they are', async () => {
    await editor();
    const fixture = await open(LinkField, { label: 'Leads to', value: null });
    const chosen: unknown[] = [];
    fixture.componentInstance.changed.subscribe((target) => chosen.push(target));
    await press(fixture, 'Outside');
    await write(fixture, 'Leads to, outside address', 'https://marrowick.example/p9#b-top00001');
    expect(chosen.at(-1)).toEqual({ kind: 'page', pageId: 9, blockId: 'top00001' });
    expect(text(fixture)).toContain('the address of your own page “Timetable”: the link follows it now');
    await press(fixture, 'Outside');
    await write(fixture, 'Leads to, outside address', 'https://elsewhere.example/p9');
    expect(chosen.at(-1)).toEqual({ kind: 'outside', url: 'https://elsewhere.example/p9' });
    expect(text(fixture)).not.toContain('your own page');
  });
});

describe('the outline', () => {
  const start = async () => {
    const world = await editor();
    const inputs = { document: page, chosen: 'quote001', all: new Set(['quote001']) };
    const fixture = await open(Outline, inputs);
    const heard: unknown[] = [];
    for (const name of ['choose', 'move', 'remove', 'type'] as const)
      (fixture.componentInstance[name] as { subscribe(to: (value: unknown) => void): void }).subscribe((value) =>
        heard.push([name, value]),
      );
    const key = (blockId: string, event: KeyboardEventInit & { key: string }) =>
      element(fixture)
        .querySelector(`[data-block="${blockId}"]`)
        ?.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...event }));
    return { ...world, fixture, heard, key };
  };
  it('is gone through, changed in its order, emptied and typed in by keys alone', async () => {
    const { heard, key } = await start();
    key('quote001', { key: 'ArrowDown' });
    key('quote001', { key: 'ArrowUp', shiftKey: true });
    key('quote001', { key: 'ArrowDown', altKey: true });
    key('quote001', { key: 'Delete' });
    key('quote001', { key: 'Enter' });
    key('ask00001', { key: 'Enter' });
    key('ask00001', { key: 'ArrowDown' });
    expect(heard).toEqual([
      ['choose', { id: 'ask00001', how: 'alone' }],
      ['choose', { id: 'opening1', how: 'range' }],
      ['move', { blockId: 'quote001', by: 1 }],
      ['remove', 'quote001'],
      ['type', 'quote001'],
    ]);
  });
  it('says what is wrong and who is where in words, not by colour alone', async () => {
    const { fixture } = await start();
    fixture.componentRef.setInput(
      'marks',
      new Map([
        ['quote001', 'blocks'],
        ['ask00001', 'worth-fixing'],
      ]),
    );
    fixture.componentRef.setInput('others', new Map([['ask00001', 'Tomas Renn']]));
    await settle(fixture);
    const labels = [...element(fixture).querySelectorAll('[aria-label]')].map((one) => one.getAttribute('aria-label'));
    expect(labels).toEqual(expect.arrayContaining(['blocks release', 'worth fixing', 'Tomas Renn is here']));
    expect(text(fixture)).toContain('TR');
  });
});

describe('the fields of a block', () => {
  const { steps } = blockTypes;
  const start = async (count: number) => {
    await editor();
    const values: FieldValues = {
      ...newBlock('steps', 's', {}).fields,
      items: Array.from({ length: count }, (_, n) => ({ title: `Step ${n + 1}`, text: '' })),
    };
    const fixture = await open(BlockFields, { fields: steps.fields, values });
    const changes: { field: string; value: unknown }[] = [];
    fixture.componentInstance.changed.subscribe((change) => changes.push(change));
    return { fixture, changes };
  };
  const titles = (change: { value: unknown } | undefined) =>
    (change?.value as readonly { title: string }[]).map(({ title }) => title);
  it('of a list are added, moved and removed, never below what a layout needs', async () => {
    const { fixture, changes } = await start(3);
    await press(fixture, 'Add a step');
    await press(fixture, 'down');
    await press(fixture, 'remove');
    expect(changes.map(titles)).toEqual([
      ['Step 1', 'Step 2', 'Step 3', ''],
      ['Step 2', 'Step 1', 'Step 3'],
      ['Step 2', 'Step 3'],
    ]);
    fixture.componentRef.setInput('values', { ...newBlock('steps', 's', {}).fields });
    await settle(fixture);
    const removes = [...element(fixture).querySelectorAll('button')].filter(
      (one) => one.textContent?.trim() === 'remove',
    );
    expect(removes.every(({ disabled }) => disabled)).toBe(true);
  });
  it('say where they end, what they are for, and which item is which', async () => {
    const { fixture, changes } = await start(12);
    expect(buttons(fixture)).not.toContain('Add a step');
    expect(text(fixture)).toContain('Step 2 Step 2');
    expect(text(fixture)).toContain('What they do, and what they get.');
    const title = element(fixture).querySelector<HTMLInputElement>('[id="f-items[0].title"]') as HTMLInputElement;
    expect(title.maxLength).toBe(120);
    title.value = 'Aboard';
    title.dispatchEvent(new Event('input'));
    expect(changes).toEqual([{ field: 'items[0].title', value: 'Aboard' }]);
  });
});

describe('states of a page', () => {
  const states: PageState[] = [
    { key: 'v7', at: NOW - 60_000, by: 'Tomas', revision: null, name: null, isLive: false },
    { key: 'r2', at: NOW - 600_000, by: 'Ingrid', revision: 2, name: 'First night', isLive: true },
  ];
  const older: PageDocument = {
    metadata: page.metadata,
    blocks: [
      newBlock('opening', 'opening1', { heading: 'Night boat', text: 'Sleep over.', asks: 'email' }),
      newBlock('text', 'gone0001', {}),
      newBlock('callToAction', 'ask00001', { heading: 'Book' }),
    ],
  };
  const start = async () => {
    const world = await editor();
    world.api.on('GET pages/:pageId/states', () => states);
    world.api.on('GET pages/:pageId/states/:key', () => ({ document: older }));
    const fixture = await open(HistoryPanel);
    return { ...world, fixture };
  };
  it('are listed with who and when, compared as marked text with what is live, and brought back by block', async () => {
    const { fixture, order, field, draft } = await start();
    expect(text(fixture)).toMatch(/Draft as left.*Tomas.*Revision 2: First night.*Ingrid.*live/);
    await press(fixture, 'As marked text');
    expect(
      [...element(fixture).querySelectorAll('del, ins')].map((one) => `${one.tagName} ${one.textContent}`),
    ).toEqual(expect.arrayContaining(['DEL over', 'INS across']));
    expect(text(fixture)).toMatch(/Quote.*new/);
    const bring = () =>
      [...element(fixture).querySelectorAll('button')].filter((one) =>
        /Restore this block/.test(one.textContent ?? ''),
      );
    bring()[1]?.click();
    await settle(fixture);
    // It stood behind the opening: there it is again.
    expect(order()).toEqual(['opening1', 'gone0001', 'quote001', 'ask00001']);
    bring()[0]?.click();
    await settle(fixture);
    expect(field('opening1', 'text')).toBe('Sleep over.');
    draft.undo();
    draft.undo();
    expect(draft.document()).toEqual(page);
  });
  it('are brought back whole in one step, and get a name', async () => {
    const { fixture, draft, api } = await start();
    await write(fixture, 'Name the draft', 'Before the holidays');
    await press(fixture, 'Name it');
    expect(api.calls.at(-2)?.body).toMatchObject({ name: 'Before the holidays', draftVersion: 3 });
    await press(fixture, /^Bring back Revision 2/);
    expect(draft.document()).toEqual(older);
    draft.undo();
    expect(draft.document()).toEqual(page);
  });
});

describe('another start', () => {
  it('shows what goes where before it is done, puts the rest into the tray, and is undone in one step', async () => {
    const { draft, order } = await editor();
    const fixture = await open(StartPanel);
    await press(fixture, /^Holding page/);
    expect(text(fixture)).toMatch(/What goes where.*Opening “Night boat”.*In the tray \d/);
    expect(order()).toEqual(page.blocks.map(({ id }) => id));
    await press(fixture, /^Take “Holding page/);
    const now = draft.document() as PageDocument;
    const kept = JSON.stringify([now.blocks, now.tray]);
    for (const words of ['Night boat', 'Sleep across.', 'We slept.', 'Signe']) expect(kept).toContain(words);
    draft.undo();
    expect(draft.document()).toEqual(page);
  });
});

describe('HTML that is brought in', () => {
  it('is cleaned into blocks, shown, and put behind the chosen one', async () => {
    const { chosen, order, draft } = await editor();
    chosen.choose('quote001');
    const pasted =
      '<p style="font:9px x">One <b>bold</b> word<script>alert(1)</script></p><blockquote>Said</blockquote>';
    const fixture = await open(ImportPanel, { pasted });
    await press(fixture, /selected block/);
    expect(order()).toHaveLength(5);
    const blocks = draft.document()?.blocks ?? [];
    expect(blocks.slice(2, 4).map(({ type }) => type)).toEqual(['text', 'quote']);
    expect(plainTextOf(blocks[2]?.fields['body'] as RichText)).toBe('One bold word');
    expect(JSON.stringify(blocks)).not.toMatch(/alert|9px/);
  });
});

describe('an HTML file that is brought in', () => {
  const file = (name: string, type: string, words: string) => {
    const made = new File([words], name, { type });
    made.text = () => Promise.resolve(words);
    return made;
  };
  const bring = async (fixture: ComponentFixture<unknown>, files: readonly File[]) => {
    const field = element(fixture).querySelector('input[type="file"]') as HTMLInputElement;
    Object.defineProperty(field, 'files', { value: files, configurable: true });
    field.dispatchEvent(new Event('change'));
    await settle(fixture);
  };
  const html =
    '<title>Autumn</title><meta name="description" content="Fares in autumn"><h1>Autumn fares</h1><p>Less.</p><img src="img/quay.jpg?x=1" alt="The quay"><img src="lost.png">';
  it('stands in place of the content, with its title, and with those pictures that came along', async () => {
    const { draft } = await editor();
    const fixture = await open(ImportPanel);
    await bring(fixture, [file('notes.txt', 'text/plain', 'x')]);
    expect(text(fixture)).toContain('None of these is an HTML file.');
    const pictures = TestBed.inject(PicturesService);
    const brought = jest
      .spyOn(pictures, 'bring')
      .mockResolvedValue({ picture: { id: 31, description: '' } as never, file: null, isKnown: false });
    await bring(fixture, [file('page.html', 'text/html', html), file('quay.jpg', 'image/jpeg', 'x')]);
    expect(text(fixture)).toMatch(/Opening “Autumn fares”.*quay\.jpg.*lost\.png.*not at hand/);
    await press(fixture, /^Replace this page/);
    expect(brought.mock.calls.map(([one]) => one.name)).toEqual(['quay.jpg']);
    const made = draft.document() as PageDocument;
    expect(made.metadata).toMatchObject({ title: 'Autumn', description: 'Fares in autumn' });
    expect(made.blocks.map(({ type }) => type)).toEqual(['opening', 'text', 'picture', 'picture']);
    expect(made.blocks.slice(2).map(({ fields }) => fields['picture'])).toEqual([
      { pictureId: 31, description: 'The quay', isDecorative: false },
      null,
    ]);
    draft.undo();
    expect(draft.document()).toEqual(page);
  });
});

describe('a page that is full', () => {
  it('takes no more blocks, says so, and stays as it is', async () => {
    const full = { ...page, blocks: Array.from({ length: 499 }, (_, n) => newBlock('text', `block${n}`, {})) };
    const { chosen, order, said } = await editor(full);
    chosen.put([newBlock('quote', 'quote998', {}), newBlock('quote', 'quote999', {})]);
    expect([order()?.length, said.at(-1)]).toEqual([499, 'A page has at most 500 blocks: 2 more find no place.']);
    chosen.put([newBlock('quote', 'quote998', {})]);
    chosen.put([newBlock('quote', 'quote999', {})]);
    expect([order()?.length, said.at(-1)]).toEqual([500, 'A page has at most 500 blocks: one more finds no place.']);
  });
});

describe('on a phone', () => {
  it('the draft is kept first, shown for a day, as a code; what is refused is said', async () => {
    const { api, draft } = await editor();
    draft.edit({ kind: 'set', blockId: 'quote001', field: 'who', value: 'Ana' });
    api.on('POST private-links', () => ({ id: 1, address: 'http://private.localhost/private/abc' }));
    const fixture = await open(PhonePanel);
    await press(fixture, /^Make a private link/);
    await settle(fixture);
    expect(
      api.calls
        .map(({ path }) => path)
        .filter((path) => /draft|links/.test(path))
        .slice(-2),
    ).toEqual(['PUT pages/:pageId/draft', 'POST private-links']);
    expect(api.sent('POST private-links')).toMatchObject([{ pages: [2], endsAt: '2026-11-26T08:00:00.000Z' }]);
    api.on('POST private-links', () => api.refuse('database-away', 'The database can’t be reached.'));
    const again = await open(PhonePanel);
    await press(again, /^Make a private link/);
    expect(text(again)).toContain('The database can’t be reached.');
  });
});
