import { TestBed } from '@angular/core/testing';
import type { CopyPreview, PeopleView, PreparedView, PrivateLinkView } from '@domatium/contracts';
import { DAY } from '@domatium/core/time';
import { CopySheet } from '../src/app/copies/copy-sheet';
import { PeopleSheet } from '../src/app/people/people-sheet';
import { PreparedSheet } from '../src/app/prepared/prepared-sheet';
import { ShareSheet } from '../src/app/reviews/share-sheet';
import { buttons, choose, element, NOW, open, press, previewOf, rowOf, surround, text, pass } from './help';

const boat = rowOf(7, 'Night boat');

describe('private links', () => {
  const link: PrivateLinkView = {
    id: 3,
    name: 'For the crew',
    madeAt: NOW,
    madeBy: 'Ingrid',
    endsAt: NOW + 9 * DAY,
    hasPassword: true,
    isEnded: false,
    site: null,
    pages: [
      { id: 7, name: 'Night boat' },
      { id: 8, name: 'Day boat' },
    ],
  };
  it('are of the open page, to the end of a day a fortnight ahead, and told once', async () => {
    const { api } = surround({ rows: [boat], pageId: 7 });
    api.on('GET private-links', () => [link]);
    api.on('POST private-links', () => ({ id: 4, address: 'http://private.localhost/private/x' }));
    const fixture = await open(ShareSheet);
    expect(text(fixture)).toMatch(/For the crew ?password Night boat and 1 more · open to .*4 Dec.* · by Ingrid/);
    await press(fixture, 'Create the link');
    expect(api.sent('POST private-links')).toEqual([
      { name: 'Night boat', pages: [7], siteId: null, endsAt: '2026-12-09T23:00:00.000Z', password: null },
    ]);
    expect(text(fixture)).toContain('http://private.localhost/private/x');
    await press(fixture, 'Take it back');
    expect(api.calls.some(({ path }) => path === 'POST private-links/:linkId/revoke')).toBe(true);
  });
  it('are of the chosen pages, or of the site one is at, or of nothing yet', async () => {
    const { api } = surround({ rows: [boat], chosen: [7, 8] });
    api.on('GET private-links', () => []);
    expect(text(await open(ShareSheet))).toContain('A link to 2 pages');
  });
  it('of a site names the site', async () => {
    const { api } = surround({ rows: [boat], scope: { kind: 'site', id: 1 } });
    api.on('GET private-links', () => []);
    const fixture = await open(ShareSheet);
    await press(fixture, 'Create the link');
    expect(api.sent('POST private-links')[0]).toMatchObject({ pages: [], siteId: 1 });
  });
  it('say what is wrong beside the field, before anything is sent', async () => {
    const { api } = surround({ rows: [boat], pageId: 7 });
    api.on('GET private-links', () => []);
    const fixture = await open(ShareSheet);
    (element(fixture).querySelector('#link-password') as HTMLInputElement).value = 'short';
    await press(fixture, 'Create the link');
    expect(text(fixture)).toContain('At least 6 characters.');
    expect(api.sent('POST private-links')).toEqual([]);
  });
});

describe('a prepared release that waits for an approval', () => {
  const preview = previewOf({
    faults: [
      { path: 'approvals', code: 'approvals-missing', params: {}, message: 'Crew wants an approval before a release.' },
    ],
  });
  const prepared = (changes: Partial<PreparedView['approvals']>, isLapsed = false): PreparedView => ({
    id: 5,
    name: 'Crew wanted',
    version: 2,
    madeAt: NOW,
    madeBy: 'Maren',
    changedAt: NOW,
    changedBy: 'Maren',
    changes: [{ act: 'release', pageId: 7, from: 'now', until: null, afterwards: null, cutsLater: false }],
    pages: [{ id: 7, name: 'Night boat' }],
    ...{ stock: [], items: [] },
    startsAt: null,
    isLapsed,
    approvals: { needed: 1, given: [], waitsFor: [{ id: 1, name: 'Ingrid' }], ...changes },
    words: [{ id: 1, at: NOW, by: 'Maren', text: 'Wages as agreed', sendsBack: false }],
    isSentBack: false,
  });
  const show = async (one: PreparedView, role = 'owner') => {
    const around = surround({ rows: [boat], role });
    around.api.on('GET prepared', () => [one]);
    around.api.on('POST releases/preview', () => preview);
    around.api.on('POST prepared/:preparedId/press', () => ({ id: 9, at: NOW, summary: 'x' }));
    around.api.on('GET pages/:pageId/review', () => ({ remarks: [], since: [] }));
    const fixture = await open(PreparedSheet);
    await press(fixture, /^Crew wanted/);
    await pass(230);
    await pass(1);
    return { ...around, fixture };
  };
  it('says whom it waits for, and goes with the last approval', async () => {
    const { api, fixture } = await show(prepared({}));
    expect(text(fixture)).toContain('Waits for an approval by Ingrid');
    expect(text(fixture)).not.toContain('Crew wants an approval before a release.');
    await press(fixture, 'Approve and release');
    expect(api.sent('POST prepared/:preparedId/approve')).toEqual([{ version: 2 }]);
    expect(api.sent('POST prepared/:preparedId/press')).toEqual([
      { version: 2, idempotencyKey: expect.stringMatching(/^[0-9a-f-]{36}$/) as string },
    ]);
  });
  it('of two only approves', async () => {
    const { api, fixture } = await show(prepared({ needed: 2 }));
    await press(fixture, 'Approve');
    expect(api.sent('POST prepared/:preparedId/approve')).toHaveLength(1);
    expect(api.sent('POST prepared/:preparedId/press')).toEqual([]);
  });
  it('is not approved by whoever prepared it, nor by somebody who may not release', async () => {
    const own = await show(prepared({ waitsFor: [{ id: 2, name: 'Tomas' }] }));
    expect(buttons(own.fixture)).not.toContain('Approve and release');
    expect(text(own.fixture)).toContain('Waits for an approval by Tomas');
  });
  it('is spoken of, and sent back with words by whoever may approve', async () => {
    const { api, fixture } = await show(prepared({}));
    expect(text(fixture)).toContain('Wages as agreed');
    expect(buttons(fixture)).not.toContain('Send it back with this');
    const field = element(fixture).querySelector('.spoken textarea') as HTMLTextAreaElement;
    Object.assign(field, { value: 'The date is wrong' }).dispatchEvent(new Event('input'));
    await pass(1);
    await press(fixture, 'Send it back with this');
    expect(api.sent('POST prepared/:preparedId/words')).toEqual([
      { version: 2, text: 'The date is wrong', sendsBack: true },
    ]);
    TestBed.resetTestingModule();
    const author = await show(prepared({}), 'author');
    const own = element(author.fixture).querySelector('.spoken textarea') as HTMLTextAreaElement;
    Object.assign(own, { value: 'Please look' }).dispatchEvent(new Event('input'));
    await pass(1);
    expect(buttons(author.fixture)).toContain('Say it');
    expect(buttons(author.fixture)).not.toContain('Send it back with this');
  });
  it('with its approval is released like any other', async () => {
    const { fixture } = await show(prepared({ given: [{ id: 2, name: 'Tomas' }], waitsFor: [] }));
    expect(text(fixture)).toContain('Approved by Tomas');
    expect(buttons(fixture)).toContain('Release it as prepared');
  });
  it('tells an author whom it waits for, and offers nothing to press', async () => {
    const { fixture } = await show(prepared({}), 'author');
    expect(buttons(fixture).filter((words) => /Approve|Release/.test(words))).toEqual([]);
    expect(buttons(fixture)).toContain('Drop it');
  });
});

describe('people', () => {
  const view: PeopleView = {
    members: [{ id: 1, name: 'Ingrid', email: 'ingrid@marrowick.example', role: 'owner', hasFactor: false, links: 0 }],
    wantsFactor: false,
    keepDays: null,
    invitations: [],
    sites: [{ id: 4, name: 'Crew', approvals: 1, severities: { 'title-long': 'off' } }],
    hasMail: false,
  };
  it('set how many approve on a site; others only read it', async () => {
    const { api } = surround();
    api.on('GET people', () => view);
    api.on('PUT sites/:siteId/rules', ({ body }) => body);
    const fixture = await open(PeopleSheet);
    const field = element(fixture).querySelector<HTMLSelectElement>(
      '[aria-label="Approvals before a release on Crew"]',
    );
    expect(field?.value).toBe('1');
    await choose(fixture, 'Approvals before a release on Crew', '2');
    expect(api.calls.find(({ path }) => path.startsWith('PUT'))).toMatchObject({
      params: { portfolioId: 1, siteId: 4 },
      body: { approvals: 2, severities: { 'title-long': 'off' } },
    });
    expect(text(fixture)).toContain('1 set otherwise');
  });
  it('say what a shorter keeping period takes before it is set', async () => {
    const { api } = surround();
    api.on('GET people', () => view);
    api.on('PUT people/keeping', ({ body }) => body);
    const fixture = await open(PeopleSheet);
    await choose(fixture, 'Keep what visitors saw', '365');
    expect(api.calls.some(({ path }) => path === 'PUT people/keeping')).toBe(false);
    expect(text(fixture)).toMatch(/What visitors saw before \w+ \d+ \w+ \d{4} is removed within a day/);
    await press(fixture, 'Change');
    expect(api.calls.find(({ path }) => path === 'PUT people/keeping')?.body).toEqual({ days: 365 });
  });
  it('who are no owners see it in words', async () => {
    const { api } = surround({ role: 'publisher' });
    api.on('GET people', () => view);
    const fixture = await open(PeopleSheet);
    expect(element(fixture).querySelectorAll('select')).toHaveLength(0);
    expect(text(fixture)).toContain('Crew one other');
    expect(text(fixture)).toContain('For ever');
  });
});

describe('a copy into another portfolio', () => {
  const preview: CopyPreview = {
    pages: [
      {
        pageId: 7,
        name: 'Night boat',
        newName: 'Night boat',
        address: 'ninemile.example/p7',
        words: 'Free.',
        isFree: true,
        fault: null,
        periods: [],
      },
    ],
    links: { inside: 0, outside: 1 },
    missing: [
      { kind: 'page', id: 8, name: 'Day boat', usedBy: 1, canCopy: false },
      { kind: 'picture', id: 30, name: 'ferry-day', usedBy: 2, canCopy: true },
    ],
    leftBehind: [{ kind: 'header', name: 'Night header', usedBy: 1 }],
    bands: [],
    hits: [],
  };
  const columns = {
    sites: [{ id: 9, name: 'Orchard', addresses: [{ host: 'ninemile.example' }] }],
    ids: [90, 91],
    names: ['Find us', 'Day boat'],
  };
  const start = async () => {
    const around = surround({ rows: [boat, rowOf(8, 'Day boat')], pageId: 7 });
    around.api.on('GET register', () => ({ columns }));
    around.api.on('GET pictures', () => [{ id: 40, name: 'apples', variants: [] }]);
    around.api.on('POST copies/preview', () => preview);
    around.api.on('POST copies', () => ({ pages: [100], preparedId: null }));
    const fixture = await open(CopySheet);
    await choose(fixture, 'copy-portfolio', '2');
    expect(text(fixture)).toContain('Choose a site of that portfolio.');
    await choose(fixture, 'copy-site', '9');
    await pass(260);
    await pass(1);
    return { ...around, fixture };
  };
  it('is offered where one may write, and asks what becomes of each thing that is missing there', async () => {
    const { api, fixture } = await start();
    const targets = [...element(fixture).querySelectorAll('#copy-portfolio option')].map((one) =>
      one.textContent?.trim(),
    );
    expect(targets).toEqual(['Marrowick Coast', 'Nine Mile Orchard']);
    await choose(fixture, 'What becomes of Day boat', 'use');
    expect(text(fixture)).toMatch(/Stays behind.*Night header\s+header, used once/s);
    // The one of the same name is proposed.
    expect(element(fixture).querySelector<HTMLSelectElement>('[aria-label="Instead of Day boat"]')?.value).toBe('91');
    await choose(fixture, 'What becomes of ferry-day', 'leave');
    await press(fixture, /^Copy Night boat/);
    expect(api.sent('POST copies')[0]).toMatchObject({
      pages: [7],
      target: { portfolioId: 2, siteId: 9 },
      missing: [
        { kind: 'page', id: 8, choice: 'use', useId: 91 },
        { kind: 'picture', id: 30, choice: 'leave', useId: null },
      ],
    });
  });
  it('takes a page along that is linked to', async () => {
    const { api, fixture } = await start();
    await choose(fixture, 'What becomes of Day boat', 'also');
    await pass(260);
    expect(api.sent('POST copies/preview').at(-1)).toMatchObject({ pages: [7, 8] });
    await pass(1);
    expect(text(fixture)).toContain('Copy 2 pages');
  });
});
