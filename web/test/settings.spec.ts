import { TestBed } from '@angular/core/testing';
import type { DraftView, StockHeld } from '@domatium/contracts';
import { newBlock, type PageDocument } from '@domatium/core/document';
import { SelectionService } from '../src/app/hub/selection.service';
import { SettingsSheet } from '../src/app/pages/settings-sheet';
import { buttons, element, NOW, open, pass, press, rowOf, settle, surround, text, type } from './help';

const LONG = 'A title that goes on and on about boats and piers until nobody reads it any more';

describe('the settings of a page', () => {
  const start = async (role = 'owner') => {
    const world = surround({ rows: [rowOf(7, 'Night boat', { labels: ['Winter'], owner: 'Ingrid' })], role });
    const document: PageDocument = {
      metadata: { title: LONG, description: 'Said' },
      blocks: [newBlock('opening', 'opening1', { heading: 'Night boat' })],
    };
    const view: DraftView = {
      ...{ version: 3, document, changedAt: NOW, changedBy: 'Ingrid', name: 'Night boat', siteId: 1 },
      ...{ host: 'marrowick.example', path: '/p7', latestRevision: 1, differsFromLatest: false, overridden: [] },
    };
    world.api.on('GET pages/:pageId/draft', () => view);
    world.api.on('PUT pages/:pageId/draft', () => ({ version: 4, changedAt: NOW }));
    for (const path of ['GET stock/held', 'GET pictures', 'GET files', 'GET stock', 'GET register/alike'])
      world.api.on(path, () => (path === 'GET stock/held' ? held : []));
    const fixture = await open(SettingsSheet, { pageId: 7 });
    await settle(fixture);
    return { ...world, fixture };
  };
  const held: StockHeld = {
    ...{
      themes: {},
      values: [],
      profiles: [],
      css: [],
      pieces: [],
      parts: [],
      standings: [],
      menus: [],
      legal: [],
      metadata: [],
      codes: [],
    },
  };

  it('says what is wrong with them and mends it; all of it is kept in the draft', async () => {
    const { api, fixture, went } = await start();
    expect(text(fixture)).toContain(`Title is ${LONG.length} characters`);
    await press(fixture, 'Shorten it at a word');
    expect(text(fixture)).not.toContain(`Title is ${LONG.length} characters`);
    type(fixture, 'description', 'Another one');
    await pass(1000);
    await settle(fixture);
    const [kept] = api.sent('PUT pages/:pageId/draft').slice(-1) as { document: PageDocument }[];
    expect(kept?.document.metadata.description).toBe('Another one');
    expect(kept?.document.metadata.title.length).toBeLessThanOrEqual(60);
    expect(text(fixture)).toContain('Saved');
    await press(fixture, 'Release…');
    expect(went.at(-1)).toEqual({ panel: 'release' });
  });
  it('renames the page apart from its title, and goes on to what else changes it', async () => {
    const { api, fixture, went } = await start();
    const field = element(fixture).querySelector<HTMLInputElement>('#internal-name');
    if (!field) throw new Error('There is no name');
    field.value = 'Late boat';
    field.dispatchEvent(new Event('change'));
    await settle(fixture);
    expect(api.sent('PATCH pages/:pageId')).toEqual([{ name: 'Late boat', version: 1 }]);
    expect(text(fixture)).toContain('Ingrid · Winter');
    await press(fixture, 'Change…');
    expect([...TestBed.inject(SelectionService).ids()]).toEqual([7]);
    expect(went.at(-1)).toEqual({ panel: 'arrange' });
    await press(fixture, 'Move…');
    expect(went.at(-1)).toEqual({ panel: 'move' });
  });
  it('shows where each target phrase stands, and who else aims at it', async () => {
    const { api, fixture } = await start();
    api.on('GET register/alike', () => [
      {
        ...{ pageId: 9, name: 'Day boat', address: 'marrowick.example/day', likeness: 'same' },
        ...{ what: 'phrase', phrase: 'Night boat' },
      },
    ]);
    const add = async (phrase: string) => {
      const field = element(fixture).querySelector<HTMLInputElement>('dm-page-phrases input');
      if (!field) throw new Error('There is no room for a phrase');
      field.value = phrase;
      field.form?.dispatchEvent(new Event('submit', { cancelable: true }));
      await settle(fixture);
    };
    const card = () => element(fixture).querySelector('dm-page-phrases')?.textContent?.replace(/\s+/g, ' ') ?? '';
    await add('Night boat');
    expect(card()).toContain('First heading: there');
    expect(card()).toContain('Description: not there');
    await pass(600);
    await settle(fixture);
    expect(api.calls.at(-1)?.query).toMatchObject({ phrases: 'Night boat' });
    expect(card()).toContain('Day boat, marrowick.example/day, aims at it too.');
    await add('night  BOAT');
    expect(card()).toContain('At most 5 phrases, each once');
    element(fixture).querySelector<HTMLElement>('[aria-label="Remove Night boat"]')?.click();
    await settle(fixture);
    expect(card()).not.toContain('First heading');
  });
  it('states facts for machines, says what the page gives by itself and what is missing, and keeps what is right alone', async () => {
    const { api, fixture } = await start();
    const card = () => element(fixture).querySelector('dm-page-facts')?.textContent?.replace(/\s+/g, ' ') ?? '';
    const fill = async (id: string, value: string) => {
      type(fixture, `fact-${id}`, value);
      await settle(fixture);
    };
    expect(card()).toContain('Made of the page by itself: the page and its site');
    await press(fixture, 'Product or offer');
    expect(card()).toContain('Missing: price, currency.');
    expect(element(fixture).querySelector('#fact-product-name')?.getAttribute('placeholder')).toBe(
      `From the page: ${LONG}`,
    );
    await fill('product-price', '49,50');
    expect(card()).toContain('Enter a number');
    await fill('product-price', '49.50');
    await fill('product-currency', 'EUR');
    expect(card()).not.toContain('Missing');
    await press(fixture, 'Event');
    await fill('event-place', 'Old pier');
    await pass(1000);
    await settle(fixture);
    const kept = () =>
      (api.sent('PUT pages/:pageId/draft').at(-1) as { document: PageDocument }).document.metadata.facts;
    expect(kept()).toEqual([
      { kind: 'product', values: { price: '49.50', currency: 'EUR' } },
      { kind: 'event', values: { place: 'Old pier' } },
    ]);
    expect(text(fixture)).toContain('begins, address are missing');
    element(fixture).querySelector<HTMLElement>('[aria-label="Remove Event"]')?.click();
    await pass(1000);
    await settle(fixture);
    expect(kept()).toHaveLength(1);
  });
  it('lets those who only write neither move nor release it', async () => {
    const { fixture } = await start('author');
    expect(buttons(fixture).filter((label) => /Release|Move/.test(label))).toEqual([]);
  });
});
