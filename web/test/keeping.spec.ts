import { TestBed } from '@angular/core/testing';
import type { CampaignView, CopyPreview, NamedView } from '@domatium/contracts';
import { DAY, type Instant } from '@domatium/core/time';
import { AgainSheet } from '../src/app/campaigns/again-sheet';
import { NoticeService, Notices } from '../src/app/hub/notices';
import { PlaceService } from '../src/app/hub/place.service';
import { RegisterService } from '../src/app/hub/register.service';
import { ViewMenu } from '../src/app/views/view-menu';
import { element, NOW, open, pass, press, rowOf, settle, surround, text } from './help';

const fill = async (fixture: Awaited<ReturnType<typeof open>>, id: string, value: string, event = 'change') => {
  const field = document.querySelector<HTMLInputElement>(id);
  if (!field) throw new Error(`No field ${id}`);
  field.value = value;
  field.dispatchEvent(new Event(event));
  await settle(fixture);
};

describe('notices', () => {
  it('go by themselves, trouble later; no more than three are shown, and what is offered is done once', async () => {
    surround();
    TestBed.overrideProvider(NoticeService, { useFactory: () => new NoticeService(), deps: [] });
    const notices = TestBed.inject(NoticeService);
    const fixture = await open(Notices);
    let undone = 0;
    notices.say({ kind: 'done', text: 'First', action: { label: 'Undo', run: () => undone++ } });
    notices.say({ kind: 'trouble', text: 'Not saved' });
    await settle(fixture);
    await press(fixture, 'Undo');
    expect([undone, text(fixture).trim()]).toEqual([1, 'Not saved']);
    for (const words of ['Second', 'Third', 'Fourth'])
      notices.say({ kind: 'done', text: words, link: { label: 'See it', href: '/pages' } });
    await settle(fixture);
    expect(text(fixture)).toMatch(/Second.*Third.*Fourth/);
    expect(text(fixture)).not.toContain('Not saved');
    await pass(9_100);
    await settle(fixture);
    expect(text(fixture).trim()).toBe('');
    notices.say({ kind: 'trouble', text: 'Still not saved' });
    await pass(9_100);
    await settle(fixture);
    expect(text(fixture)).toContain('Still not saved');
    element(fixture).querySelector<HTMLElement>('[aria-label="Dismiss"]')?.click();
    await settle(fixture);
    expect(text(fixture).trim()).toBe('');
  });
});

describe('named views', () => {
  const view = (id: number, more: Partial<NamedView> = {}): NamedView => ({
    ...{ id, name: `View ${id}`, isShared: false, isOwn: true, by: 'Ingrid', parts: { state: 'live' } },
    ...more,
  });
  const start = async (role = 'owner') => {
    const world = surround({ role, scope: { kind: 'site', id: 1 } });
    const acts: (() => void)[] = [];
    Object.assign(TestBed.inject(NoticeService), {
      say: ({ text: words, action }: { text: string; action?: { run: () => void } }) => {
        world.said.push(words);
        if (action) acts.push(action.run);
      },
    });
    world.api.on('GET views', () => [view(1), view(2, { isOwn: false, isShared: true, by: 'Tomas' })]);
    world.api.on('GET feeds', () => []);
    const fixture = await open(ViewMenu);
    await settle(fixture);
    await press(fixture, /^View/);
    const menu = () => document.querySelector('.view-menu')?.textContent?.replace(/\s+/g, ' ') ?? '';
    const button = (label: string) => document.querySelector<HTMLElement>(`.view-menu [aria-label="${label}"]`);
    return { ...world, fixture, acts, menu, button };
  };
  it('are shown with whose they are; one’s own can be removed, and put back', async () => {
    const { fixture, menu, button, api, said, acts } = await start();
    expect(menu()).toMatch(/View 1 mine.*View 2 team, by Tomas/i);
    expect(button('Remove the view View 2')).toBeNull();
    button('Remove the view View 1')?.click();
    await settle(fixture);
    expect(said).toEqual(['The view “View 1” is removed.']);
    acts[0]?.();
    await settle(fixture);
    expect(api.sent('POST views')).toEqual([{ name: 'View 1', isShared: false, parts: { state: 'live' } }]);
  });
  it('need a name, hold what is shown, and can be had as a file', async () => {
    const { fixture, menu, api } = await start();
    const form = document.querySelector('.view-menu form') as HTMLFormElement;
    form.dispatchEvent(new Event('submit', { cancelable: true }));
    await settle(fixture);
    expect(menu()).toContain('A view needs a name.');
    (form.querySelector('input') as HTMLInputElement).value = 'Ferries';
    (form.querySelector('[type=checkbox]') as HTMLInputElement).click();
    await settle(fixture);
    form.dispatchEvent(new Event('submit', { cancelable: true }));
    await settle(fixture);
    const columns = 'choose.name.address.when.visits.change.line.fixes.changed';
    const parts = { scope: 'site:1', columns };
    expect(api.sent('POST views')).toEqual([{ name: 'Ferries', isShared: true, parts }]);
    const file = document.querySelector<HTMLAnchorElement>('.view-menu a[href*="export.csv"]');
    expect(file?.getAttribute('href')).toBe('/api/portfolios/1/register/export.csv?scope=site%3A1');
    expect(menu()).toContain('Copy the whole site');
  });
  it('offer a reader nothing that changes pages', async () => {
    const { menu } = await start('reader');
    expect(menu()).not.toMatch(/Copy the whole site|Import/);
  });
});

describe('a campaign that runs again', () => {
  const campaign = {
    ...{ id: 5, name: 'Midwinter 2026', purpose: 'Berths', fromDay: '2026-12-01', untilDay: '2026-12-24' },
    ...{ ownerId: 1, version: 2 },
  } as CampaignView;
  const rows = [rowOf(7, 'Night boat 2026', { path: '/night-2026' }), rowOf(8, 'Markets', { path: '/markets' })];
  const begins = (NOW + 371 * DAY) as Instant;
  const preview = {
    pages: [
      { pageId: 7, newName: 'Night boat 2027', address: 'a.example/night-2027', isFree: true, fault: null, words: '' },
      { pageId: 8, newName: 'Markets', address: 'a.example/markets', isFree: false, fault: null, words: 'in use' },
    ].map((page) => ({ ...page, periods: [{ from: begins, until: null }] })),
    hits: [
      { pageId: 7, place: 'open1.text', start: 3, end: 13, found: '1 Dec 2026', proposal: '30 Nov 2027' },
      { pageId: 8, place: 'open1.text', start: 9, end: 13, found: '2026', proposal: '2027' },
    ].map((hit) => ({ ...hit, before: 'on ', after: ' at nine', kind: 'date', options: [] })),
    missing: [],
    leftBehind: [],
  } as unknown as CopyPreview;
  const start = async () => {
    const world = surround({ rows });
    world.api.on('GET campaigns', () => [campaign]);
    world.api.on('POST copies/preview', () => preview);
    world.api.on('POST campaigns/:campaignId/again', () => ({ campaignId: 9, pages: [1, 2], preparedId: 3 }));
    Object.assign(TestBed.inject(RegisterService).desk, { ofCampaign: () => Promise.resolve(rows) });
    Object.assign(TestBed.inject(PlaceService), { scopeKey: () => null });
    const fixture = await open(AgainSheet, { campaignId: 5 });
    await settle(fixture);
    await pass(300);
    await settle(fixture);
    return { ...world, fixture };
  };
  it('begins a year later on the same day of the week, under names and addresses of that year', async () => {
    const { fixture, api } = await start();
    expect((document.querySelector('#again-name') as HTMLInputElement).value).toBe('Midwinter 2027');
    // A Tuesday stays a Tuesday: 364 days, not 365.
    expect(text(fixture)).toContain('Everything moves by 364 days: it begins on Tue 30 Nov 2027');
    const asked = api.calls.filter(({ path }) => /preview/.test(path)).at(-1)?.body;
    expect(asked).toMatchObject({ pages: [7, 8], days: 364, withPeriods: true });
    expect(asked?.['replacements']).toEqual([
      { from: '2027', to: '2028' },
      { from: '2026', to: '2027' },
    ]);
    element(fixture).querySelector<HTMLElement>('[type=checkbox]')?.click();
    await settle(fixture);
    expect(text(fixture)).toContain('Everything moves by 365 days: it begins on Wed 1 Dec 2027');
  });
  it('changes only the dates that were decided on, and ends as drafts with a prepared release', async () => {
    const { fixture, api, went, said } = await start();
    expect(text(fixture)).toMatch(/Night boat 2027.*a\.example\/night-2027/);
    const make = () => element(fixture).querySelector<HTMLButtonElement>('.btn-primary');
    await fill(fixture, '#again-name', '');
    expect(make()?.disabled).toBe(true);
    element(fixture).querySelector<HTMLElement>('[aria-label="Change 2026 on Markets"]')?.click();
    await fill(fixture, '[aria-label="1 Dec 2026 becomes"]', '29 Nov 2027');
    await fill(fixture, '#again-name', 'Next midwinter');
    await pass(300);
    await settle(fixture);
    make()?.click();
    await settle(fixture);
    const sent = api.calls.find(({ path }) => /again/.test(path))?.body as {
      campaign: object;
      copy: { texts: object[]; days: number };
    };
    expect(sent.campaign).toMatchObject({ name: 'Next midwinter', fromDay: '2027-11-30', untilDay: '2027-12-23' });
    expect(sent.copy).toMatchObject({ days: 364, texts: [{ pageId: 7, by: '29 Nov 2027' }] });
    expect(sent.copy.texts).toHaveLength(1);
    expect(went).toEqual([{ scope: 'campaign:9', panel: null }]);
    expect(said).toEqual(['Next midwinter: 2 drafts and a prepared release. Nothing is released yet.']);
  });
});
