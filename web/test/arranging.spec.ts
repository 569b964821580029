import { Cancelled } from '../src/app/hub/api';
import { ArrangeSheet } from '../src/app/many/arrange-sheet';
import { DeleteSheet } from '../src/app/many/delete-sheet';
import { TemplateSheet } from '../src/app/pages/template-sheet';
import { PageTasks } from '../src/app/tasks/page-tasks';
import { FeedsSheet } from '../src/app/views/feeds-sheet';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { PlaceService } from '../src/app/hub/place.service';
import { RegisterService } from '../src/app/hub/register.service';
import { SelectionService } from '../src/app/hub/selection.service';
import { ViewService } from '../src/app/hub/view.service';
import { buttons, choose, element, NOW, open, pass, press, rowOf, settle, surround, text, type } from './help';

const rows = [
  rowOf(7, 'Night boat', { labels: ['night', 'winter'], owner: 'Ingrid', version: 3 }),
  rowOf(8, 'Day boat', { labels: ['winter'], version: 5 }),
];

describe('campaign, owner and labels of many pages', () => {
  it('change only the pages that change, each in the version that was seen', async () => {
    const { api, went } = surround({ rows, chosen: [7, 8] });
    api.on('PATCH pages', () => ({ versions: [[8, 6]] }));
    const fixture = await open(ArrangeSheet);
    expect(buttons(fixture)).toContain('Nothing to change yet');
    await choose(fixture, 'arrange-owner', '1');
    expect(buttons(fixture)).toContain('Change 1 page');
    await press(fixture, 'Change 1 page');
    expect(api.sent('PATCH pages')).toEqual([{ pages: [{ id: 8, version: 5, ownerId: 1, labels: ['winter'] }] }]);
    expect(went).toEqual([{ panel: null }]);
  });
  it('say who changed a page meanwhile, and stay open', async () => {
    const { api, went } = surround({ rows, chosen: [7] });
    api.on('PATCH pages', () => api.refuse('stale', 'Night boat has been changed since you looked.'));
    const fixture = await open(ArrangeSheet);
    await choose(fixture, 'arrange-owner', 'none');
    await press(fixture, 'Change 1 page');
    expect(text(fixture)).toContain('Night boat has been changed since you looked.');
    expect(went).toEqual([]);
  });
});

describe('deleting for ever', () => {
  const binned = rows.map((row) => ({ ...row, binnedSince: 1 }));
  it('waits for the name, or for how many they are', async () => {
    const { api, said } = surround({ rows: binned, pageId: 7 });
    api.on('POST pages/delete', () => ({ deleted: 1 }));
    const fixture = await open(DeleteSheet);
    const button = () => element(fixture).querySelector<HTMLButtonElement>('.btn-danger');
    expect(button()?.textContent?.trim()).toBe('Delete Night boat for ever');
    expect(button()?.disabled).toBe(true);
    type(fixture, 'confirmation', 'night boat');
    await settle(fixture);
    expect(button()?.disabled).toBe(true);
    type(fixture, 'confirmation', 'Night boat ');
    await settle(fixture);
    await press(fixture, 'Delete Night boat for ever');
    expect(api.sent('POST pages/delete')).toEqual([{ pages: [7], confirmation: 'Night boat' }]);
    expect(said).toEqual(['Night boat is deleted.']);
  });
  it('acts on what is in the bin alone, and says so before', async () => {
    const { api, said } = surround({ rows: [binned[0] as never, rows[1] as never], chosen: [7, 8] });
    api.on('POST pages/delete', () => ({ deleted: 1 }));
    const fixture = await open(DeleteSheet);
    expect(text(fixture)).toContain('1 of the chosen pages isn’t in the bin: it stays as it is.');
    type(fixture, 'confirmation', 'Night boat');
    await settle(fixture);
    await press(fixture, 'Delete Night boat for ever');
    expect(api.sent('POST pages/delete')).toEqual([{ pages: [7], confirmation: 'Night boat' }]);
    expect(said).toEqual(['Night boat is deleted.']);
  });
  it('does nothing where all of them were restored meanwhile', async () => {
    surround({ rows, chosen: [7, 8] });
    const fixture = await open(DeleteSheet);
    type(fixture, 'confirmation', '0');
    await settle(fixture);
    expect(text(fixture)).toContain('2 of the chosen pages aren’t in the bin');
    expect(element(fixture).querySelector<HTMLButtonElement>('.btn-danger')?.disabled).toBe(true);
  });
  it('says what is gone where it was stopped', async () => {
    const { api, said } = surround({ rows: binned, chosen: [7, 8] });
    api.on('POST pages/delete', () => {
      throw new Cancelled('x');
    });
    const fixture = await open(DeleteSheet);
    type(fixture, 'confirmation', '2');
    await settle(fixture);
    await press(fixture, 'Delete 2 pages for ever');
    expect(said).toEqual(['Stopped. Pages deleted so far are gone; the rest are in the bin.']);
  });
});

it('a choice ends where its page leaves the list: into the bin, or out of it', async () => {
  const version = signal(1);
  const scopeKey = signal<string | null>(null);
  let binned: number[] = [];
  const rowsOf = (ids: readonly number[]) =>
    Promise.resolve(ids.map((id) => rowOf(id, 'P', { binnedSince: binned.includes(id) ? 1 : null })));
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      { provide: RegisterService, useValue: { portfolioId: signal(1), version, rowsOf, desk: { ids: () => list() } } },
      { provide: ViewService, useValue: { summary: signal(null), answer: signal(1) } },
      { provide: PlaceService, useValue: { scopeKey } },
    ],
  });
  sessionStorage.clear();
  let listed = [7, 8];
  const list = () => Promise.resolve(listed);
  const selection = TestBed.inject(SelectionService);
  const turn = async () => {
    version.update((n) => n + 1);
    TestBed.tick();
    await pass(1);
  };
  TestBed.tick();
  for (const id of [7, 8, 9]) await selection.toggle(id, false);
  await turn();
  expect([...selection.ids()]).toEqual([7, 8, 9]);
  binned = [8];
  await turn();
  expect([...selection.ids()]).toEqual([7, 9]);
  scopeKey.set('bin');
  await turn();
  expect([...selection.ids()]).toEqual([]);
  await selection.toggle(8, false);
  await turn();
  expect([...selection.ids()]).toEqual([8]);
  // All of another list is chosen beside it, and left out without it; a reload changes nothing.
  listed = [8, 11, 12];
  await selection.toggleAll();
  expect([...selection.ids()]).toEqual([8, 11, 12]);
  listed = [11, 12];
  await selection.toggleAll();
  TestBed.tick();
  expect([...selection.ids()]).toEqual([8]);
  // Loaded anew it is the same in the list it was made in, and nothing in another, whose acts are others.
  const kept = sessionStorage.getItem('domatium.chosen.1') ?? '';
  const loaded = () => {
    sessionStorage.setItem('domatium.chosen.1', kept);
    const anew = TestBed.runInInjectionContext(() => new SelectionService());
    TestBed.tick();
    return [...anew.ids()];
  };
  expect(loaded()).toEqual([8]);
  scopeKey.set('site:1');
  expect(loaded()).toEqual([]);
});

describe('tasks of a page', () => {
  const task = {
    id: 1,
    version: 1,
    pageId: 7,
    pageName: 'Night boat',
    text: 'Check the fares',
    personId: 1,
    person: 'Ingrid',
    dueDay: '2026-11-20',
    doneAt: null,
    madeBy: 'Ingrid',
  };
  it('are those of this page that are open; another is added with its person', async () => {
    const { api } = surround({ rows, pageId: 7 });
    api.on('GET tasks', () => [
      task,
      { ...task, id: 2, text: 'Elsewhere', pageId: 8 },
      { ...task, id: 3, text: 'Over', doneAt: NOW },
    ]);
    const fixture = await open(PageTasks, { pageId: 7 });
    expect(text(fixture)).toContain('Check the fares');
    expect(text(fixture)).not.toMatch(/Elsewhere|Over/);
    await press(fixture, 'Add a task');
    await press(fixture, 'Add it');
    expect(text(fixture)).toContain('Describe the task.');
    (element(fixture).querySelector('input[aria-label="To do"]') as HTMLInputElement).value = ' Mend it ';
    await press(fixture, 'Add it');
    expect(api.sent('POST pages/:pageId/tasks')).toEqual([
      expect.objectContaining({ text: ' Mend it ', dueDay: null }),
    ]);
  });
  it('are only read by a reader', async () => {
    const { api } = surround({ rows, pageId: 7, role: 'reader' });
    api.on('GET tasks', () => []);
    expect(buttons(await open(PageTasks, { pageId: 7 }))).toEqual([]);
  });
});

describe('a template', () => {
  it('keeps its notes, says which pages were made from it, and can be none again, with a way back', async () => {
    const { api, said } = surround({ rows, pageId: 7 });
    const pages = [{ id: 8, name: 'Day boat' }];
    api.on('GET templates', () => [
      { id: 7, name: 'Night boat', version: 3, notes: 'Mind the fares', siteName: 'F', picture: null, pages },
    ]);
    api.on('PUT pages/:pageId/template', () => ({ version: 4 }));
    const fixture = await open(TemplateSheet, { pageId: 7 });
    expect(element(fixture).querySelector<HTMLTextAreaElement>('#notes')?.value).toBe('Mind the fares');
    expect(buttons(fixture)).toEqual(expect.arrayContaining(['Day boat', 'Keep the notes', 'Remove as template']));
    type(fixture, 'notes', 'x'.repeat(2001));
    await settle(fixture);
    expect(text(fixture)).toContain('2,001 of 2,000');
    await press(fixture, 'Keep the notes');
    expect(api.sent('PUT pages/:pageId/template')).toEqual([]);
    type(fixture, 'notes', 'Mind the tide');
    await settle(fixture);
    await press(fixture, 'Remove as template');
    expect(api.sent('PUT pages/:pageId/template')).toEqual([{ version: 3, isTemplate: false, notes: 'Mind the tide' }]);
    expect(said).toEqual(['Night boat is no template any more.']);
  });
});

describe('calendar feeds', () => {
  it('are of what is shown; the address is told once, and a feed is ended', async () => {
    const { api } = surround({ rows, scope: { kind: 'site', id: 1 } });
    const feed = { id: 2, name: 'Boats', madeAt: NOW, parts: { scope: 'site:1', state: 'live' } };
    api.on('GET feeds', () => [feed]);
    api.on('GET views', () => []);
    api.on('POST feeds', () => ({ id: 3, path: '/api/calendars/abc.ics' }));
    const fixture = await open(FeedsSheet);
    expect(text(fixture)).toContain('Ferries, state live');
    (element(fixture).querySelector('input[aria-label="Name of the feed"]') as HTMLInputElement).value = 'All';
    await press(fixture, 'Create the feed');
    expect(api.sent('POST feeds')).toEqual([{ name: 'All', parts: { scope: 'site:1' } }]);
    expect(text(fixture)).toContain('/api/calendars/abc.ics');
    await press(fixture, 'End it');
    expect(api.calls.find(({ path }) => path === 'POST feeds/:feedId/remove')?.params).toMatchObject({ feedId: 2 });
  });
});
