import { TestBed } from '@angular/core/testing';
import type { FillingView, PlacingView, StockHeld } from '@domatium/contracts';
import { DAY } from '@domatium/core/time';
import { FillSheet } from '../src/app/many/fill-sheet';
import { PlaceSheet } from '../src/app/many/place-sheet';
import { ShiftList } from '../src/app/many/shift-list';
import { SelectionService } from '../src/app/hub/selection.service';
import { buttons, element, NOW, open, pass, press, rowOf, settle, surround, text, type } from './help';

const rows = [
  rowOf(7, 'Night boat', { periods: [{ from: NOW - DAY, until: NOW + 9 * DAY, revision: 1 }] }),
  rowOf(8, 'Day boat', { periods: [{ from: NOW + 2 * DAY, until: null, revision: 1 }] }),
  rowOf(9, 'Old boat', { periods: [{ from: NOW - 9 * DAY, until: NOW - DAY, revision: 1 }] }),
];

describe('what a shift moves', () => {
  it('is every start and end still to come, as it is and as it will be, the next first', async () => {
    surround({ rows });
    const fixture = await open(ShiftList, { pages: rows, days: 7 });
    const lines = [...element(fixture).querySelectorAll('li')].map((line) =>
      line.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(lines).toEqual([
      expect.stringMatching(/^Day boat starts Fri 27 Nov, 09:00 ?becomes Fri 4 Dec, 09:00$/),
      expect.stringMatching(/^Night boat ends Fri 4 Dec, 09:00 ?becomes Fri 11 Dec, 09:00$/),
    ]);
    fixture.componentRef.setInput('days', -1);
    await settle(fixture);
    expect(text(fixture)).toContain('Thu 26 Nov, 09:00');
  });
});

describe('a piece on many pages', () => {
  const held: StockHeld = {
    ...{ themes: {}, values: [], profiles: [], css: [] },
    pieces: [{ id: 4, name: 'Desk', blocks: [], draft: null }],
    ...{ parts: [], standings: [], menus: [], legal: [], metadata: [], codes: [] },
  };
  const page = (pageId: number, hasMore: boolean): PlacingView['pages'][number] => ({
    ...{ pageId, name: `Page ${pageId}`, version: 3, hasMore },
    lines: [
      { words: 'Opening', how: 'same' },
      { words: '“Desk”', how: 'new' },
    ],
  });
  it('is looked at, leaves out what would take more along, and goes on to the release of what was written', async () => {
    const { api, went, said } = surround({ rows, chosen: [7, 8, 9] });
    api.on('GET stock/held', () => held);
    api.on('GET stock', () => []);
    const asked: { seen: readonly { pageId: number }[] | null; byType: string | null }[] = [];
    api.on('POST pieces/placing', ({ body }): PlacingView => {
      const { seen } = body as (typeof asked)[number];
      asked.push(body as (typeof asked)[number]);
      const pages = [page(7, false), page(8, true)].filter((one) => !seen || seen.some((s) => s.pageId === one.pageId));
      return { pages, out: [{ pageId: 9, name: 'Page 9', why: 'no-place' }] };
    });
    const fixture = await open(PlaceSheet, {});
    await settle(fixture);
    const pick = async (id: string, value: string) => {
      const select = element(fixture).querySelector<HTMLSelectElement>(`#${id}`);
      if (!select) throw new Error(`There is no ${id}`);
      select.value = value;
      select.dispatchEvent(new Event('change'));
      await settle(fixture);
    };
    await pick('place-piece', '4');
    await pick('place-where', 'before');
    // Before a block is not asked until it is said which.
    expect(asked.at(-1)?.byType ?? null).toBeNull();
    await pick('place-by', 'type:contact');
    expect(asked.at(-1)).toMatchObject({ byType: 'contact', seen: null });
    expect(text(fixture)).toContain('has no such block');
    expect(text(fixture)).toContain('The draft of one page has other changes');
    await press(fixture, 'Leave them out');
    expect(buttons(fixture)).toContain('Change 1 draft and go on to release');
    await press(fixture, 'Change 1 draft and go on to release');
    expect(asked.at(-1)?.seen).toEqual([{ pageId: 7, version: 3 }]);
    expect([...TestBed.inject(SelectionService).ids()]).toEqual([7]);
    expect(went.at(-1)).toEqual({ panel: 'many-release' });
    expect(said.at(-1)).toContain('1 draft changed');
  });
});

describe('a text by a pattern on many pages', () => {
  it('is seen on each before it is written, with who takes no part; a pattern that can’t be read writes nothing', async () => {
    const { api, went, said } = surround({ rows: [7, 8, 9].map((id) => rowOf(id, `Page ${id}`)), chosen: [7, 8, 9] });
    const asked: { pattern: string; over: boolean; seen: unknown }[] = [];
    api.on('POST drafts/filling', ({ body }): FillingView => {
      const one = body as (typeof asked)[number];
      asked.push(one);
      const left = one.over ? [] : [{ pageId: 8, name: 'Page 8', why: 'has-own' as const }];
      const pages = [7, ...(one.over ? [8] : [])].map((pageId) => ({
        ...{ pageId, name: `Page ${pageId}`, version: 3, hasMore: false },
        ...{ before: pageId === 8 ? 'Its own' : '', after: `Page ${pageId} | Coast` },
      }));
      return { pages, out: [...left, { pageId: 9, name: 'Page 9', why: 'missing', missing: '{campaign}' }] };
    });
    const fixture = await open(FillSheet, {});
    const typed = async (pattern: string) => {
      type(fixture, 'fill-pattern', pattern);
      await pass(300);
      await settle(fixture);
    };
    expect(asked).toEqual([]);
    await typed('{page name} | ');
    await press(fixture, 'site name');
    await pass(300);
    await settle(fixture);
    expect(asked.at(-1)).toMatchObject({ pattern: '{page name} | {site name}', over: false, seen: null });
    expect(text(fixture)).toContain('Page 7 | Coast 14 of about 60');
    expect(text(fixture)).toContain('Page 9 has nothing for {campaign}, and is left out.');
    expect(text(fixture)).toContain('One page has something of its own, and keeps it.');
    element(fixture).querySelector<HTMLInputElement>('.flag input')?.click();
    await pass(300);
    await settle(fixture);
    expect(text(fixture)).toContain('Removed: Its own');
    await press(fixture, 'Change 2 drafts and go on to release');
    expect(asked.at(-1)?.seen).toEqual([7, 8].map((pageId) => ({ pageId, version: 3 })));
    expect([went.at(-1), said.at(-1)]).toEqual([
      { panel: 'many-release' },
      expect.stringContaining('2 drafts changed'),
    ]);

    api.on('POST drafts/filling', () => api.refuse('invalid', 'A { or } has no partner.'));
    await typed('{page');
    expect(text(fixture)).toContain('A { or } has no partner.');
    expect(buttons(fixture)).toContain('Nothing to change yet');
  });
});
