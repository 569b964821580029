import { THEMES } from '@domatium/core/theme';
import { TestBed } from '@angular/core/testing';
import type { PrivatePage, ReviewView, ThumbnailView } from '@domatium/contracts';
import type { Subject } from 'rxjs';
import { PresenceService } from '../src/app/presence/presence.service';
import type { PortfolioEvent } from '../src/app/hub/portfolio-events';
import { PageReview } from '../src/app/remarks/page-review';
import { PrivateLink } from '../src/app/reviews/private-view';
import { ThumbnailCard } from '../src/app/thumbnails/thumbnail-card';
import { element, open, press, rowOf, settle, surround, text, type, type FakeApi, pass } from './help';

let api: FakeApi;
let events: Subject<PortfolioEvent>;
beforeEach(() => {
  localStorage.clear();
  const unheard = { addListener: () => undefined, removeListener: () => undefined };
  window.matchMedia = () => ({ matches: false, ...unheard }) as never;
  ({ api, events } = surround());
});

describe('what others say of a page', () => {
  const remark = {
    id: 4,
    kind: 'change' as const,
    text: '<b>Nine</b>, not eight',
    name: 'Ana',
    link: 'Harbour',
    block: 'Opening “Boats”',
    blockId: 'o1',
    revision: 2,
    at: 1_789_000_000_000,
    settledAt: null,
    settledBy: null,
    answers: [{ id: 1, at: 1_789_000_100_000, name: 'Maren', text: 'Nine it is', isOurs: true }],
  };
  it('is shown as it was typed, with the revision and what changed since, until it is settled', async () => {
    let view: ReviewView = { remarks: [remark], since: [[2, ['Opening “Boats”: changed']]] };
    api.on('GET pages/:pageId/review', () => view);
    const fixture = await open(PageReview, { pageId: 7 });
    expect(text(fixture)).toContain('please change Ana on revision 2');
    expect(text(fixture)).toContain('<b>Nine</b>, not eight');
    expect(element(fixture).querySelector('b')).toBeNull();
    expect(text(fixture)).toContain('Since then: Opening “Boats”: changed');
    expect(text(fixture)).toContain('Nine it is');
    await press(fixture, 'Answer');
    (element(fixture).querySelector('textarea') as HTMLTextAreaElement).value = 'Changed';
    await press(fixture, 'Answer');
    expect(api.sent('POST remarks/:remarkId/answers')).toEqual([{ text: 'Changed' }]);
    // It stands beside its block, and at no other.
    const beside = await open(PageReview, { pageId: 7, blockId: 'o1' });
    expect(text(beside)).toContain('not eight');
    expect(text(await open(PageReview, { pageId: 7, blockId: 'page' }))).not.toContain('not eight');
    view = { remarks: [{ ...remark, settledAt: 1, settledBy: 'Ingrid' }], since: view.since };
    await press(fixture, 'Settled');
    expect(api.calls.map(({ path }) => path)).toContain('POST remarks/:remarkId/settle');
    // It leaves a trace, with who settled it.
    expect(text(fixture)).not.toContain('Since then');
    expect(element(fixture).querySelector('details')?.textContent).toMatch(/not eight[^]*Settled by Ingrid/);
  });
});

describe('a private link', () => {
  const page: PrivatePage = {
    id: 7,
    name: 'Night boat',
    address: 'marrowick.example/night',
    draftVersion: 3,
    document: { metadata: { title: 'Night boat', description: '' }, blocks: [] },
    theme: THEMES.ferry,
    pieces: [],
    parts: { header: null, footer: null, bands: [] },
    nav: null,
    values: [],
    titles: [],
    brand: 'Marrowick',
    language: 'en',
    pictures: [],
    files: [],
    siteCss: '',
    endsAt: null,
    remarks: [],
  };
  const answers = () => {
    const pages = [{ id: 7, name: page.name, address: page.address }];
    api.on('GET private/:token', () => ({ name: 'Crew', portfolio: 'Coast', zone: 'UTC', endsAt: 0, pages }));
    api.on('GET private/:token/pages/:pageId', () => page);
  };
  it('asks for its password first, and says when it is wrong', async () => {
    api.on('GET private/:token', () => api.refuse('password-needed', 'Password'));
    api.on('POST private/:token/open', () =>
      api.refuse('invalid', 'No', [{ path: 'password', message: 'That isn’t the password for this link.' }]),
    );
    const fixture = await open(PrivateLink, { token: 'abc' });
    expect(text(fixture)).toContain('This link has a password');
    await press(fixture, 'Open');
    expect(text(fixture)).toContain('That isn’t the password for this link.');
    answers();
    api.on('POST private/:token/open', () => ({}));
    await press(fixture, 'Open');
    expect(text(fixture)).toContain('Night boat');
  });
  it('wants a name, sends what was seen, and keeps what was typed where it is refused', async () => {
    answers();
    const fixture = await open(PrivateLink, { token: 'abc' });
    type(fixture, 'words', 'Too long');
    await press(fixture, 'Please change');
    expect(text(fixture)).toContain('Enter your name.');
    type(fixture, 'reviewer', 'Ana');
    api.on('POST private/:token/pages/:pageId/remarks', () => api.refuse('stale', 'Look again.'));
    await press(fixture, 'Please change');
    expect(api.calls.find(({ path }) => path.endsWith('/remarks'))?.body).toEqual({
      kind: 'change',
      text: 'Too long',
      name: 'Ana',
      blockId: null,
      draftVersion: 3,
    });
    expect(text(fixture)).toContain('Look again.');
    expect(element(fixture).querySelector<HTMLTextAreaElement>('#words')?.value).toBe('Too long');
    api.on('POST private/:token/pages/:pageId/remarks', () => ({ id: 1 }));
    await press(fixture, 'Please change');
    expect(element(fixture).querySelector<HTMLTextAreaElement>('#words')?.value).toBe('');
  });
  it('that has ended says so', async () => {
    api.on('GET private/:token', () => api.refuse('link-ended', 'It opens nothing any more.'));
    expect(text(await open(PrivateLink, { token: 'abc' }))).toContain('It opens nothing any more.');
  });
});

describe('the small picture of a page', () => {
  it('is asked for until it is made, and says what is missing', async () => {
    const states: ThumbnailView[] = [
      { state: 'making', words: 'revision 1' },
      { state: 'ready', words: 'revision 1', file: 'f1' },
    ];
    api.on('GET pages/:pageId/thumbnail', () => states.shift());
    const fixture = await open(ThumbnailCard, { page: rowOf(7, 'Night boat') });
    expect(text(fixture)).toContain('Making the thumbnail…');
    await pass(700);
    await settle(fixture);
    expect(element(fixture).querySelector('img')?.src).toContain('/pages/7/thumbnail.webp?at=');
    api.on('GET pages/:pageId/thumbnail', () => ({ state: 'none', words: 'gone (410)' }));
    fixture.componentRef.setInput('page', rowOf(8, 'Old'));
    await settle(fixture);
    expect(text(fixture)).toContain('Visitors get: gone (410)');
  });
});

describe('who else has a page open', () => {
  const heard = (window: string, name: string, changes: object = {}, pageId = 7) =>
    events.next({
      kind: 'presence',
      pageIds: [pageId],
      presence: { window, name, isEditing: false, isLeaving: false, ...changes },
    });
  const said = () => api.calls.map(({ body }) => body?.['isLeaving']);
  it('is told in words; newcomers are answered, and whoever leaves is gone', () => {
    const service = TestBed.inject(PresenceService);
    const leave = service.watch(7, false);
    expect(said()).toEqual([false]);
    heard('a', 'Tomas');
    expect(said()).toEqual([false, false]);
    heard('a', 'Tomas');
    heard('x', 'Elsewhere', {}, 8);
    expect(said()).toHaveLength(2);
    expect(service.words()).toBe('Tomas has it open');
    heard('b', 'Maren', { isEditing: true });
    heard('c', 'Ana');
    expect(service.words()).toBe('Maren is editing this page; Ana and Tomas have it open');
    heard('b', 'Maren', { isLeaving: true });
    heard('a', 'Tomas', { isLeaving: true });
    expect(service.words()).toBe('Ana has it open');
    // The editor opens before the sheet is gone: the page stays open, and is left once.
    const leaveEditor = service.watch(7, true);
    leave();
    expect(said().at(-1)).toBe(false);
    leaveEditor();
    expect(said().at(-1)).toBe(true);
    expect(service.words()).toBeNull();
  });
});
