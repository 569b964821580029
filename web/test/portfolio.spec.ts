import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { EverywhereSheet } from '../src/app/everywhere/everywhere-sheet';
import { PortfolioSheet } from '../src/app/people/portfolio-sheet';
import { RecordSheet } from '../src/app/record/record-sheet';
import { choose, element, NOW, open, pass, press, rowOf, settle, surround, text } from './help';

const entry = (id: number, more: object = {}) => ({
  ...{
    id,
    at: NOW - id * 3_600_000,
    by: 'Tomas',
    kind: 'pages',
    act: 'arrange',
    words: `Act ${id}`,
    subject: 'Night boat',
  },
  ...{ pageId: 7, count: 1, releaseId: null, canUndo: false, ...more },
});

describe('the record', () => {
  it('is filtered, goes back further, undoes what can be, and comes as a file of just that', async () => {
    const { api, said } = surround({ rows: [rowOf(7, 'Night boat')] });
    api.on('GET record', ({ query }) =>
      query?.['before']
        ? { entries: [entry(9)], earlier: null }
        : { entries: [entry(1, { canUndo: true }), entry(30)], earlier: 2 },
    );
    const fixture = await open(RecordSheet);
    expect(text(fixture)).toMatch(/Wed 25 Nov 2026.*Act 1.*Tue 24 Nov 2026.*Act 30/);
    await press(fixture, 'Show earlier');
    expect(api.calls.at(-1)?.query).toEqual({ before: 2 });
    expect(text(fixture)).toContain('Act 9');
    await choose(fixture, 'Who', '1');
    await choose(fixture, 'What', 'drafts');
    expect(api.calls.at(-1)?.query).toEqual({ by: 1, kind: 'drafts' });
    const day = element(fixture).querySelector<HTMLInputElement>('input[aria-label="From day"]') as HTMLInputElement;
    const write = async (value: string) => {
      Object.assign(day, { value }).dispatchEvent(new Event('change'));
      await settle(fixture);
    };
    const calls = api.calls.length;
    await write('some day');
    expect(text(fixture)).toContain('“some day” is no day.');
    expect(api.calls.length).toBe(calls);
    await write('1 Nov 2026');
    expect(element(fixture).querySelector('a')?.getAttribute('href')).toBe(
      '/api/portfolios/1/record.csv?by=1&kind=drafts&from=2026-11-01',
    );
    await press(fixture, /^Undo/);
    expect(said).toEqual(['Undone.']);
  });
});

describe('a portfolio', () => {
  it('gets another name and clock, says what that does, and is put back', async () => {
    const { api, said } = surround();

    const fixture = await open(PortfolioSheet);
    const button = () =>
      [...element(fixture).querySelectorAll('button')].find((one) => one.textContent?.trim() === 'Save');
    expect(button()?.disabled).toBe(true);
    const zone = element(fixture).querySelector('select') as HTMLSelectElement;
    zone.value = 'Asia/Tokyo';
    zone.dispatchEvent(new Event('change'));
    await settle(fixture);
    expect(text(fixture)).toContain('What is planned stays at its instants: 09:00 in Oslo reads 17:00 in Tokyo.');
    button()?.click();
    await settle(fixture);
    expect(api.calls.find(({ path }) => path.startsWith('PATCH'))?.body).toEqual({
      ...{ name: 'Marrowick Coast', zone: 'Asia/Tokyo' },
    });
    expect(said).toEqual(['Saved.']);
  });
  it('is for owners to change', async () => {
    surround({ role: 'author' });
    expect(text(await open(PortfolioSheet))).toContain('Only owners change this.');
  });
});

it('pages of all portfolios are one list, and each opens in its own', async () => {
  const { api } = surround();
  const page = {
    ...{
      portfolioId: 2,
      portfolio: 'Nine Mile Orchard',
      id: 31,
      name: 'Cider week',
      host: 'orchard.example',
      path: '/cider',
    },
    ...{ state: 'live', from: NOW - 1, until: null, zone: 'UTC', visits: 12, owner: null, changedAt: NOW },
  };
  const states = { all: 3, live: 1, coming: 0, ending: 0, ended: 1, draft: 1 };
  api.on('GET pages', () => ({ pages: [page], all: 3, states }));
  const fixture = await open(EverywhereSheet);
  expect(text(fixture)).toMatch(/Cider week.*orchard.example\/cider.*live, no end planned.*Nine Mile Orchard.*12/);
  expect(text(fixture)).toContain('The first 1 of 3.');
  const field = element(fixture).querySelector('input') as HTMLInputElement;
  Object.assign(field, { value: 'cider' }).dispatchEvent(new Event('input'));
  await pass(300);
  await press(fixture, /^Live/);
  await pass(300);
  expect(api.calls.at(-1)?.query).toEqual({ find: 'cider', state: 'live' });
  const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
  await press(fixture, 'Cider week');
  expect(went).toHaveBeenCalledWith(['/portfolios', 2, 'pages'], { queryParams: { page: 31 } });
});
