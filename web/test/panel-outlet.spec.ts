import { Component, input, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { PlaceService, type Panel } from '../src/app/hub/place.service';
import { PanelOutlet } from '../src/app/shell/panel-outlet';
import { PANEL_TABLE, type PanelEntry } from '../src/app/shell/panels';
import { settle, surround, text } from './help';

@Component({ template: 'of page {{ pageId() }}' })
class OfPage {
  readonly pageId = input<number>();
}
@Component({ template: 'of nothing' })
class OfNothing {}

const entries = PANEL_TABLE as Record<Panel, { -readonly [Key in keyof PanelEntry]: PanelEntry[Key] }>;
const loads = Object.fromEntries(Object.entries(entries).map(([name, { load }]) => [name, load]));
afterEach(() => {
  for (const [name, load] of Object.entries(loads)) entries[name as Panel].load = load;
});

async function opened(panel: Panel, pageId: number | null = null) {
  const around = surround();
  const place = { panel: signal<Panel | null>(panel), pageId: signal(pageId), scope: signal(null) };
  TestBed.overrideProvider(PlaceService, { useValue: place });
  const fixture = TestBed.createComponent(PanelOutlet);
  await settle(fixture);
  return { ...around, place, fixture };
}

it('opens what the address bar names, of the page that is open, and nothing where there is none', async () => {
  entries.move.load = () => Promise.resolve(OfPage);
  entries.people.load = () => Promise.resolve(OfNothing);
  const { fixture, place } = await opened('move', 7);
  expect(text(fixture)).toBe('of page 7');
  place.pageId.set(8);
  await settle(fixture);
  expect(text(fixture)).toBe('of page 8');
  place.panel.set('people');
  await settle(fixture);
  expect(text(fixture)).toBe('of nothing');
  place.panel.set('move');
  place.pageId.set(null);
  await settle(fixture);
  expect(text(fixture)).toBe('');
});
it('shows how a page was seen at another moment only', async () => {
  entries.seen.load = () => Promise.resolve(OfPage);
  const { fixture, register } = await opened('seen', 7);
  expect(text(fixture)).toBe('');
  register.isNow.set(false);
  await settle(fixture);
  expect(text(fixture)).toBe('of page 7');
});
it('says that a panel can’t be fetched, and opens it when it can', async () => {
  entries.people.load = () => Promise.reject(new Error('offline'));
  const { fixture, place, said } = await opened('people');
  expect([text(fixture), said]).toEqual(['', ['This can’t be fetched just now. Try again in a moment.']]);
  entries.people.load = () => Promise.resolve(OfNothing);
  place.panel.set(null);
  await settle(fixture);
  place.panel.set('people');
  await settle(fixture);
  expect(text(fixture)).toBe('of nothing');
});
it('fetches every panel that there is', async () => {
  for (const { load } of Object.values(PANEL_TABLE)) expect(typeof (await load())).toBe('function');
}, 60_000);
