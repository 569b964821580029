import type { HistoryEntry, ReleaseChange, ReleasePreview } from '@domatium/contracts';
import { DAY } from '@domatium/core/time';
import { ImportSheet } from '../src/app/imports/import-sheet';
import { ManySheet } from '../src/app/many/many-sheet';
import { HistorySheet } from '../src/app/pages/history-sheet';
import { NewPageSheet } from '../src/app/pages/new-page-sheet';
import { MoveSheet } from '../src/app/releases/move-sheet';
import { Cancelled } from '../src/app/hub/api';
import {
  buttons,
  element,
  NOW,
  open,
  press,
  previewOf,
  rowOf,
  settle,
  surround,
  text,
  type,
  type FakeApi,
  pass,
} from './help';

const rows = [
  rowOf(7, 'Night boat', { periods: [{ from: NOW - DAY, until: NOW + 9 * DAY, revision: 1 }] }),
  rowOf(8, 'Day boat', { host: 'other.example', siteId: 2 }),
];
const pause = () => pass(240);

/** Answers previews with what is wrong with each page, by identity. */
function judge(api: FakeApi, wrong: Record<number, string> = {}, more: Partial<ReleasePreview> = {}): void {
  api.on('POST releases/preview', ({ body }): ReleasePreview => {
    const changes = (body as { changes: ReleaseChange[] }).changes;
    return previewOf({
      faults: changes.flatMap(({ pageId }, index) =>
        wrong[pageId]
          ? [{ path: `changes[${index}].from`, code: 'in-the-past' as const, params: {}, message: wrong[pageId] }]
          : [],
      ),
      pages: changes.map(({ pageId }) => ({
        pageId,
        revision: 1,
        draftVersion: pageId * 10,
        canGoBackToPlan: false,
        proposedUntil: null,
        proposedAfterwards: null,
      })),
      lineCount: changes.length,
      ...more,
    });
  });
  api.on('POST releases', () => ({ id: 1, at: NOW, summary: '' }));
}

describe('an act on many pages', () => {
  it('lets out those that can’t, says why, and releases the drafts that were looked at', async () => {
    const { api, said, went } = surround({ rows, chosen: [7, 8] });
    judge(api, { 8: 'Its address is taken then.' });
    const fixture = await open(ManySheet, { act: 'release' });
    await pause();
    await settle(fixture);
    expect(text(fixture)).toContain('2 pages on 2 hosts');
    expect(text(fixture)).toContain('1 can’t, because:');
    expect(text(fixture)).toContain('Its address is taken then.');
    await press(fixture, 'Leave it out');
    await pause();
    await settle(fixture);
    await press(fixture, 'Put 1 page live now');
    expect(api.sent('POST releases')).toEqual([
      {
        idempotencyKey: expect.any(String) as string,
        stock: [],
        changes: [expect.objectContaining({ act: 'release', pageId: 7, from: 'now', draftVersion: 70 })],
      },
    ]);
    expect(said).toEqual(['1 pages are on their way to visitors.']);
    expect(went).toEqual([{ panel: null }]);
  });
  it('tells how many links elsewhere will lead through redirects, or nowhere', async () => {
    const { api } = surround({ rows, chosen: [7, 8] });
    judge(api, {}, { links: { redirect: 4, nowhere: 1 }, lineCount: 9 });
    const fixture = await open(ManySheet, { act: 'take-off' });
    await pause();
    await settle(fixture);
    expect(text(fixture)).toContain('9 changes for visitors · 4 links elsewhere will lead through redirects');
    expect(text(fixture)).toContain('1 links elsewhere will lead nowhere');
  });
  it('shifts by days, later or earlier', async () => {
    const { api } = surround({ rows, chosen: [7] });
    judge(api);
    const fixture = await open(ManySheet, { act: 'shift' });
    await press(fixture, 'earlier');
    await pause();
    await settle(fixture);
    await press(fixture, 'Shift 1 page by 7 days earlier');
    expect(api.sent('POST releases')).toMatchObject([{ changes: [{ act: 'shift', pageId: 7, days: -7 }] }]);
  });
  it('puts the page it was opened from in the bin by its name', async () => {
    const { api, said } = surround({ rows, pageId: 7 });
    judge(api);
    const fixture = await open(ManySheet, { act: 'bin' });
    await pause();
    await settle(fixture);
    await press(fixture, 'Put Night boat in the bin now');
    expect(api.sent('POST releases')).toMatchObject([
      { changes: [{ act: 'bin', pageId: 7, afterwards: { kind: 'not-found' } }] },
    ]);
    expect(said).toEqual(['Night boat put in the bin.']);
  });
  it('that was cancelled asks whether it was decided before, and says which', async () => {
    const { api, said } = surround({ rows, chosen: [7] });
    judge(api);
    api.on('POST releases', () => {
      throw new Cancelled('x');
    });
    api.on('GET releases/of-key/:key', () => ({ release: null }));
    const fixture = await open(ManySheet, { act: 'shift' });
    await pause();
    await settle(fixture);
    await press(fixture, /^Shift 1 page/);
    expect(said).toEqual(['Cancelled. Nothing has changed.']);
    api.on('GET releases/of-key/:key', () => ({ release: { id: 2, at: NOW, summary: '' } }));
    await press(fixture, /^Shift 1 page/);
    expect(said.at(-1)).toMatch(/^It was decided before the cancel arrived\./);
  });
});

describe('a move', () => {
  it('asks nothing until another path is typed, says who lies there, and names both addresses', async () => {
    const { api } = surround({ rows, pageId: 7 });
    judge(api);
    api.on('GET address-check', () => ({
      address: '',
      isValid: true,
      isFreeNow: true,
      words: 'Free, and nothing is planned.',
      holders: [],
    }));
    const fixture = await open(MoveSheet, { pageId: 7 });
    expect(api.sent('POST releases/preview')).toEqual([]);
    expect(element(fixture).querySelector('.skeleton')).toBeNull();
    const field = element(fixture).querySelector<HTMLInputElement>('input.mono, #path, input[aria-label]');
    if (!field) throw new Error('No field for the path');
    field.value = 'no spaces?#';
    field.dispatchEvent(new Event('input'));
    await pause();
    await settle(fixture);
    expect(api.sent('POST releases/preview')).toEqual([]);
    field.value = 'night-boat';
    field.dispatchEvent(new Event('input'));
    await pause();
    await settle(fixture);
    expect(text(fixture)).toContain('Free, and nothing is planned.');
    await press(fixture, 'Move to marrowick.example/night-boat now');
    expect(api.sent('POST releases')).toMatchObject([
      { changes: [{ act: 'move', pageId: 7, at: 'now', siteId: 1, path: '/night-boat', leaves: null }] },
    ]);
  });
});

describe('a history', () => {
  const entry = (releaseId: number, changes: Partial<HistoryEntry> = {}): HistoryEntry => ({
    releaseId,
    at: NOW - releaseId * DAY,
    by: 'Tomas',
    act: 'release',
    summary: `Release ${releaseId}`,
    outAt: NOW,
    failure: null,
    undoneBy: null,
    undoes: null,
    undoRefusal: null,
    ...changes,
  });
  it('undoes what can be undone, and says beside the rest why it can’t', async () => {
    const { api, said } = surround({ rows, pageId: 7 });
    const entries = [
      entry(1),
      entry(2, { undoRefusal: 'Release 1 changed the same page later.' }),
      entry(3, { undoneBy: 9 }),
    ];
    api.on('GET pages/:pageId/history', () => entries);
    api.on('POST releases/:releaseId/undo', () => ({ id: 9, at: NOW, summary: '' }));
    const fixture = await open(HistorySheet, { pageId: 7 });
    const undo = [...element(fixture).querySelectorAll<HTMLButtonElement>('li button')];
    expect(undo.map((one) => one.getAttribute('aria-label'))).toEqual(['Undo: Release 1', 'Undo: Release 2']);
    undo[1]?.click();
    await settle(fixture);
    expect(text(fixture)).toContain('Release 1 changed the same page later.');
    expect(api.sent('POST releases/:releaseId/undo')).toEqual([]);
    undo[0]?.click();
    await settle(fixture);
    expect(api.calls.find(({ path }) => path.endsWith('/undo'))?.params).toMatchObject({ releaseId: 1 });
    expect(said).toEqual(['Undone. Visitors get what they got before.']);
  });
  it('of a page that was never released says what will stand there', async () => {
    const { api } = surround({ rows, pageId: 7, role: 'reader' });
    api.on('GET pages/:pageId/history', () => []);
    expect(text(await open(HistorySheet, { pageId: 7 }))).toContain('This page hasn’t been released yet.');
  });
});

describe('a new page', () => {
  it('has a path that follows its name until another is typed, and says what is wrong at its field', async () => {
    const { api } = surround({ rows });
    api.on('GET templates', () => []);
    api.on('GET address-check', ({ query }) => ({
      address: '',
      isValid: true,
      isFreeNow: true,
      words: `Free: ${String(query?.['path'])}`,
      holders: [],
    }));
    api.on('POST pages', () => api.refuse('invalid', 'No', [{ path: 'path', message: 'Taken by Night boat.' }]));
    const fixture = await open(NewPageSheet);
    type(fixture, 'name', 'Børge’s boat');
    await pause();
    await settle(fixture);
    expect(element(fixture).querySelector<HTMLInputElement>('#path')?.value).toBe('borges-boat');
    expect(text(fixture)).toContain('Free: /borges-boat');
    type(fixture, 'path', 'own');
    type(fixture, 'name', 'Another');
    await settle(fixture);
    expect(element(fixture).querySelector<HTMLInputElement>('#path')?.value).toBe('own');
    element(fixture)
      .querySelector('form')
      ?.dispatchEvent(new Event('submit', { cancelable: true }));
    await settle(fixture);
    expect(api.sent('POST pages')).toMatchObject([{ siteId: 1, name: 'Another', path: '/own' }]);
    expect(text(fixture)).toContain('Taken by Night boat.');
  });
});

describe('pages from a file', () => {
  const pick = async (content: string) => {
    const around = surround({ rows });
    around.api.on('POST imports/preview', ({ body }) => ({
      rows: (body as { rows: { line: number; site: string; name: string }[] }).rows.map(({ line, site, name }) =>
        site === 'Ferries'
          ? { line, act: 'create', name, address: `marrowick.example/${line}`, words: [], errors: [] }
          : {
              line,
              act: 'wrong',
              name,
              address: '',
              words: [],
              errors: [{ field: 'site', message: 'Unknown site.' }],
            },
      ),
    }));
    around.api.on('POST imports', () => ({ created: 1, changed: 0, releaseId: null }));
    const fixture = await open(ImportSheet);
    const input = element(fixture).querySelector<HTMLInputElement>('input[type=file]') as HTMLInputElement;
    const file = { name: 'pages.csv', arrayBuffer: () => Promise.resolve(new TextEncoder().encode(content).buffer) };
    Object.defineProperty(input, 'files', { value: [file] });
    input.dispatchEvent(new Event('change'));
    await pause();
    await settle(fixture);
    return { ...around, fixture };
  };
  it('are looked at row by row; only what is confirmed is sent', async () => {
    const { api, said, fixture } = await pick('Name;Site;Slug\r\nOne;Ferries;/one\nTwo;Nowhere;/two\n');
    expect(text(fixture)).toContain('1 new · 0 change · 0 are as they are · 1 wrong');
    expect(text(fixture)).toContain('Unknown site.');
    expect(buttons(fixture)).toContain('Make 1 page');
    await press(fixture, 'Make 1 page');
    expect(api.sent('POST imports')).toMatchObject([{ rows: [{ line: 2, name: 'One', path: '/one' }] }]);
    expect(said).toEqual(['1 pages made, 0 changed.']);
  });
  it.each([
    ['without a row', 'Name;Site;Slug\n', 'This file has no rows below the header.'],
    ['with a quote that is not closed', 'Name;Site\n"One;Ferries\n', 'a quote isn’t closed'],
    ['with too many rows', `Name;Site\n${'x;Ferries\n'.repeat(2001)}`, 'At most 2,000 rows at once'],
  ])('%s are refused in words', async (_, content, words) => {
    const { api, fixture } = await pick(content);
    expect(text(fixture)).toContain(words);
    expect(api.sent('POST imports/preview')).toEqual([]);
  });
});
