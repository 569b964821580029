import { TestBed } from '@angular/core/testing';
import type { HistoryEntry, ReleaseChange, ReleasePreview } from '@domatium/contracts';
import { DAY, isoInstant, type Instant } from '@domatium/core/time';
import { ImportSheet } from '../src/app/imports/import-sheet';
import { ManySheet } from '../src/app/many/many-sheet';
import { HistorySheet } from '../src/app/pages/history-sheet';
import { NewPageSheet } from '../src/app/pages/new-page-sheet';
import { MoveSheet } from '../src/app/releases/move-sheet';
import { PeriodSheet } from '../src/app/releases/period-sheet';
import { Cancelled } from '../src/app/hub/api';
import { PlaceService } from '../src/app/hub/place.service';
import { RegisterService } from '../src/app/hub/register.service';
import {
  buttons,
  choose,
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
        basis: 'basis',
        stock: [],
        changes: [expect.objectContaining({ act: 'release', pageId: 7, from: 'now', draftVersion: 70 })],
      },
    ]);
    expect(said).toEqual(['1 page is on its way to visitors.']);
    expect(went).toEqual([{ panel: null }]);
  });
  it('takes pieces along that pages would show nothing of', async () => {
    const { api } = surround({ rows, chosen: [7, 8] });
    const params = { piece: 'Contact', itemId: 12, at: null };
    const missing = { check: 'shared', code: 'piece-not-out' as const, params, place: null, pageId: 7, pageName: 'N' };
    judge(api, {}, { findings: [{ ...missing, severity: 'blocks', message: 'Contact isn’t live.', mend: '' }] });
    const fixture = await open(ManySheet, { act: 'release' });
    await pause();
    await settle(fixture);
    expect(text(fixture)).toContain('Contact isn’t live.');
    judge(api);
    await press(fixture, 'Release the piece too');
    await pause();
    await settle(fixture);
    await press(fixture, 'Put 2 pages live now');
    expect(api.sent('POST releases')).toMatchObject([
      { stock: [{ act: 'put', itemId: 12, from: 'now', until: null }] },
    ]);
  });
  it('says what somebody else did meanwhile, and goes on only once that was seen', async () => {
    const { api } = surround({ rows, chosen: [7, 8] });
    judge(api, {}, { latest: { at: NOW - 1000, by: 'Ingrid', summary: 'Night boat moved' } });
    const fixture = await open(ManySheet, { act: 'release' });
    await pause();
    await settle(fixture);
    expect(text(fixture)).not.toContain('Changed while you were looking');
    judge(api, {}, { basis: 'other', latest: { at: NOW, by: 'Tomas', summary: 'Night boat taken off' } });
    TestBed.inject(RegisterService).version.update((version) => version + 1);
    await pause();
    await settle(fixture);
    expect(text(fixture)).toMatch(/Tomas, .*: Night boat taken off/);
    await press(fixture, 'Put 2 pages live now');
    expect(api.sent('POST releases')).toEqual([]);
    await press(fixture, 'I’ve seen it');
    await press(fixture, 'Put 2 pages live now');
    expect(api.sent('POST releases')).toMatchObject([{ basis: 'other' }]);
  });
  it('tells how many links elsewhere will lead through redirects, or nowhere', async () => {
    const { api } = surround({ rows, chosen: [7, 8] });
    judge(api, {}, { links: { redirect: 4, nowhere: 1 }, lineCount: 9 });
    const fixture = await open(ManySheet, { act: 'take-off' });
    await pause();
    await settle(fixture);
    expect(text(fixture)).toContain('9 changes for visitors · 4 links elsewhere will lead through redirects');
    expect(text(fixture)).toContain('1 link elsewhere will lead nowhere');
  });
  it('leaves alone what the addresses of pages give that are off already, unless that is chosen', async () => {
    const off = rowOf(9, 'Old boat', { periods: [{ from: NOW - 9 * DAY, until: NOW - DAY, revision: 1 }] });
    const { api } = surround({ rows: [rows[0] as never, off], chosen: [7, 9] });
    judge(api);
    const fixture = await open(ManySheet, { act: 'take-off' });
    await pause();
    await settle(fixture);
    expect(text(fixture)).toContain('1 of them is off already, and what its address gives stays.');
    await press(fixture, /^Take 1 page off now$/);
    expect(api.sent('POST releases')).toMatchObject([{ changes: [{ act: 'take-off', pageId: 7 }] }]);
    element(fixture).querySelector<HTMLInputElement>('.cutting input')?.click();
    await pause();
    await settle(fixture);
    await press(fixture, /^Take 2 pages off now$/);
    expect((api.sent('POST releases')[1] as { changes: object[] }).changes).toHaveLength(2);
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

describe('an address that another page has', () => {
  it('is taken over or swapped in the same release, and left again', async () => {
    const { api } = surround({ rows, pageId: 7 });
    const params = { pageId: 8, page: 'Day boat' };
    api.on('POST releases/preview', ({ body }): ReleasePreview => {
      const { changes } = body as { changes: ReleaseChange[] };
      const fault = { path: 'changes[0].path', code: 'address-taken' as const, params, message: 'It is Day boat.' };
      return previewOf({ faults: changes.length > 1 ? [] : [fault] });
    });
    api.on('GET address', () => ({ address: '', isValid: true, isFreeNow: false, words: '', holders: [] }));
    const fixture = await open(MoveSheet, { pageId: 7 });
    const field = element(fixture).querySelector<HTMLInputElement>('#path') as HTMLInputElement;
    const write = async (value: string) => {
      Object.assign(field, { value }).dispatchEvent(new Event('input'));
      await pause();
      await settle(fixture);
    };
    const asked = () => (api.sent('POST releases/preview').at(-1) as { changes: ReleaseChange[] }).changes.slice(1);
    await write('/p8');
    await press(fixture, 'Swap addresses with Day boat');
    await pause();
    expect(asked()).toEqual([{ act: 'move', pageId: 8, at: 'now', siteId: 1, path: '/p7', leaves: null }]);
    expect(text(fixture)).toContain('Day boat gets the address of this page at the same moment');
    await press(fixture, 'Leave it there');
    await pause();
    expect(asked()).toEqual([]);
    await press(fixture, /^Take the address over/);
    await pause();
    expect(asked()).toMatchObject([{ act: 'take-off', pageId: 8, from: 'now', until: null }]);
    // At another address it has nothing to make room for.
    await write('/p9');
    expect(asked()).toEqual([]);
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
  const act = (id: number, words: string, canUndo = true) => ({
    ...{ id, at: NOW - 2.5 * DAY, by: 'Ingrid', kind: 'pages' as const, act: 'arrange', words, subject: 'Night boat' },
    ...{ pageId: 7, count: 1, releaseId: null, canUndo },
  });
  it('undoes what can be undone, and says beside the rest why it can’t', async () => {
    const { api, said } = surround({ rows, pageId: 7 });
    api.on('GET record', () => ({ entries: [act(5, 'Owner from Tomas to Ingrid')], earlier: null }));
    const entries = [
      entry(1),
      entry(2, { undoRefusal: 'Release 1 changed the same page later.' }),
      entry(3, { undoneBy: 9 }),
    ];
    api.on('GET pages/:pageId/history', () => entries);
    api.on('POST releases/:releaseId/undo', () => ({ id: 9, at: NOW, summary: '' }));
    const fixture = await open(HistorySheet, { pageId: 7 });
    const undo = [...element(fixture).querySelectorAll<HTMLButtonElement>('li button')];
    expect(undo.map((one) => one.getAttribute('aria-label'))).toEqual([
      ...['Undo: Release 1', 'Undo: Release 2', 'Undo: Owner from Tomas to Ingrid'],
    ]);
    // Owner, campaign and labels are undone here too, for as long as they are as they were given.
    api.on('POST record/:entryId/undo', () => api.refuse('conflict', 'Night boat has been changed since.'));
    undo[2]?.click();
    await settle(fixture);
    expect(text(fixture)).toContain('Night boat has been changed since.');
    expect(api.calls.find(({ path }) => path === 'POST record/:entryId/undo')?.params).toMatchObject({ entryId: 5 });
    undo[1]?.click();
    await settle(fixture);
    expect(text(fixture)).toContain('Release 1 changed the same page later.');
    expect(api.sent('POST releases/:releaseId/undo')).toEqual([]);
    undo[0]?.click();
    await settle(fixture);
    expect(api.calls.find(({ path }) => path === 'POST releases/:releaseId/undo')?.params).toMatchObject({
      releaseId: 1,
    });
    expect(said).toEqual(['Undone. Visitors get what they got before.']);
  });
  it('of a page that was never released says what will stand there', async () => {
    const { api } = surround({ rows, pageId: 7, role: 'reader' });
    api.on('GET pages/:pageId/history', () => []);
    api.on('GET record', () => ({ entries: [], earlier: null }));
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
    expect(said).toEqual(['1 page made, 0 changed.']);
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

describe('the period of a page', () => {
  it('gets other times, in a zone that is chosen, and keeps what comes after it unless something else is chosen', async () => {
    const { api } = surround({ rows });
    judge(api);
    // Its end was chosen in another zone than the portfolio's: it is read in that.
    api.on('GET pages/:pageId', () => ({ zones: [{ at: NOW + 9 * DAY, zone: 'Asia/Tokyo' }] }));
    const fixture = await open(PeriodSheet, { pageId: 7 });
    expect(element(fixture).querySelector('select')?.value).toBe('Asia/Tokyo');
    expect(element(fixture).querySelector<HTMLInputElement>('.time')?.value).toBe('17:00');
    await pause();
    // It has begun: only its end is asked for.
    expect(text(fixture)).toContain('it has begun, and that stays');
    const write = async (label: string, value: string) => {
      const field = element(fixture).querySelector<HTMLInputElement>(`input[aria-label^="${label}"]`);
      Object.assign(field as HTMLInputElement, { value }).dispatchEvent(new Event('change'));
      await pause();
    };
    const [day, time] = [...element(fixture).querySelectorAll<HTMLInputElement>('dm-moment-field input')].map(
      (field) => field.getAttribute('aria-label') ?? '',
    );
    await write(time ?? '', '08:00 UTC');
    expect(text(fixture)).toContain('“08:00 UTC” isn’t a time');
    expect(element(fixture).querySelector<HTMLInputElement>(`input[aria-label="${day}"]`)?.value).not.toMatch(/UT/);
    await write(time ?? '', '8 pm');
    expect(text(fixture)).not.toContain('isn’t a time');
    expect(text(fixture)).toContain('What was planned for its end.');
    await press(fixture, 'Change the period');
    const zone = 'UTC';
    expect(api.sent('POST releases')).toMatchObject([
      {
        changes: [
          {
            ...{ act: 'retime', pageId: 7, start: isoInstant((NOW - DAY) as Instant), from: null, afterwards: null },
            until: { local: expect.stringMatching(/T20:00$/) as string },
          },
        ],
      },
    ]);
    await choose(fixture, 'Times in', zone);
    await pause();
    await press(fixture, 'Something else');
    await pause();
    await press(fixture, 'Change the period');
    expect(api.sent('POST releases').at(-1)).toMatchObject({
      changes: [{ until: { zone }, afterwards: { kind: 'not-found' } }],
    });
  });
  it('is moved by its ends on the drawing, never before now', async () => {
    const { api } = surround({ rows });
    judge(api);
    api.on('GET pages/:pageId', () => ({ zones: [] }));
    const place = TestBed.inject(PlaceService);
    place.movedEnd.set({ start: NOW - DAY, end: 'until', at: NOW + 20 * DAY });
    const fixture = await open(PeriodSheet, { pageId: 7 });
    await pause();
    const until = () => {
      const changes = (api.sent('POST releases/preview').at(-1) as { changes: { until: { local: string } }[] }).changes;
      return changes[0]?.until.local;
    };
    expect(until()).toBe('2026-12-15T09:00');
    // What has begun can't begin at another time: there is one end to take hold of.
    const grips = element(fixture).querySelectorAll<HTMLElement>('[role="slider"]');
    expect([...grips].map((grip) => grip.getAttribute('aria-label'))).toEqual(['Its end']);
    const key = async (name: string) => {
      element(fixture)
        .querySelector('[role="slider"]')
        ?.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
      await pause();
    };
    await key('ArrowRight');
    expect(until()).toBe('2026-12-16T09:00');
    for (let n = 0; n < 5; n++) await key('PageDown');
    expect(Date.parse(`${until()}Z`)).toBeGreaterThan(NOW);
    expect(until()).toMatch(/^2026-11-25/);
  });
});
