import { TestBed } from '@angular/core/testing';
import type { PlacingView, StockHeld } from '@domatium/contracts';
import { DAY } from '@domatium/core/time';
import { PlaceSheet } from '../src/app/many/place-sheet';
import { ShiftList } from '../src/app/many/shift-list';
import { SelectionService } from '../src/app/hub/selection.service';
import { buttons, element, NOW, open, press, rowOf, settle, surround, text } from './help';

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
    ...{ parts: [], standings: [], menus: [], legal: [], metadata: [] },
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
