import { TestBed } from '@angular/core/testing';
import type { DraftView } from '@domatium/contracts';
import { newBlock, type PageDocument } from '@domatium/core/document';
import { NO_METADATA } from '@domatium/core/stock';
import { DAY } from '@domatium/core/time';
import { BlockMargin } from '../src/app/editor/block-margin';
import { ChosenBlocks } from '../src/app/editor/chosen-blocks';
import { ConflictBar } from '../src/app/editor/conflict-bar';
import { DraftFindings } from '../src/app/editor/draft-findings';
import { DraftService } from '../src/app/editor/draft.service';
import { OverriddenCard } from '../src/app/editor/overridden-card';
import { EditorHead } from '../src/app/editor/editor-head';
import { StockService } from '../src/app/hub/stock.service';
import { PageWorld } from '../src/app/editor/page-world';
import { SeenAt } from '../src/app/editor/seen-at';
import { PresenceService } from '../src/app/presence/presence.service';
import { element, NOW, open, pass, press, profileWith, rowOf, settle, surround, text } from './help';

const page: PageDocument = {
  metadata: { title: 'Night boat', description: 'Words' },
  blocks: [
    newBlock('opening', 'opening1', { heading: 'Night boat', text: '‹One sentence›' }),
    newBlock('quote', 'quote001', { text: 'We slept.', who: '‹Name›' }),
  ],
};
const view = (document: PageDocument): DraftView => ({
  ...{ version: 3, document, changedAt: NOW, changedBy: 'Ingrid', name: 'Night boat', siteId: 1 },
  ...{ host: 'marrowick.example', path: '/night', latestRevision: 2, differsFromLatest: true, overridden: [] },
});

async function editing(role = 'owner') {
  const world = surround({ rows: [rowOf(2, 'Night boat')], role });
  localStorage.clear();
  TestBed.configureTestingModule({
    providers: [
      ...[DraftService, ChosenBlocks, PageWorld, DraftFindings],
      { provide: PresenceService, useValue: { words: () => 'Oda is here' } },
    ],
  });
  world.api.on('GET pages/:pageId/draft', () => view(page));
  world.api.on('PUT pages/:pageId/draft', ({ body }) => ({ version: Number(body?.['version']) + 1, changedAt: NOW }));
  const draft = TestBed.inject(DraftService);
  await draft.open(1, 2);
  return { ...world, draft, choice: TestBed.inject(ChosenBlocks), seen: TestBed.inject(PageWorld) };
}
const fieldOf = (draft: DraftService, blockId: string, field: string) =>
  draft.document()?.blocks.find(({ id }) => id === blockId)?.fields[field];

describe('two texts of one page', () => {
  const theirs: PageDocument = {
    ...page,
    blocks: [newBlock('opening', 'opening1', { heading: 'The night boat', text: '‹One sentence›' })],
  };

  it('say who changed what, are both looked at, and one is chosen', async () => {
    const { draft } = await editing();
    draft.other.set({ ...view(theirs), changedBy: 'Sven' });
    const fixture = await open(ConflictBar);
    expect(text(fixture)).toContain('Changed by Sven meanwhile');
    // Without a conflict block by block, what differs stands there.
    expect(element(fixture).querySelectorAll('li').length).toBeGreaterThan(1);
    await press(fixture, /^Show theirs/);
    expect(fixture.componentInstance.look()).toBe('theirs');
    await press(fixture, /^Keep mine/);
    expect([draft.other(), fixture.componentInstance.look()]).toEqual([null, 'mine']);
    expect(fieldOf(draft, 'opening1', 'heading')).toBe('Night boat');
  });

  it('that somebody decided for theirs: one reads what one had written, and puts it back as a step like others', async () => {
    const { draft, api } = await editing();
    const mine = newBlock('quote', 'quote001', { text: 'We slept like stones.', who: 'Signe' });
    const gone = newBlock('text', 'text0001');
    const told = { at: NOW, by: 'Sven', metadata: null };
    draft.draft.set({
      ...view(page),
      overridden: [
        { ...told, id: 8, block: mine },
        { ...told, id: 9, block: gone },
      ],
    });
    const fixture = await open(OverriddenCard);
    expect(text(fixture)).toContain('Sven kept their text over yours');
    expect(text(fixture)).toContain('We slept like stones.');
    await press(fixture, 'Put mine back');
    expect(fieldOf(draft, 'quote001', 'text')).toBe('We slept like stones.');
    await press(fixture, 'Leave it as it is');
    expect(api.calls.filter(({ path }) => path.startsWith('DELETE')).map(({ params }) => params)).toEqual(
      [8, 9].map((overriddenId) => ({ portfolioId: 1, pageId: 2, overriddenId })),
    );
    expect(element(fixture).querySelector('section')).toBeNull();
    draft.undo();
    expect(fieldOf(draft, 'quote001', 'text')).toBe('We slept.');
  });

  it('lose nothing: one undo brings one’s own back, with all that was typed', async () => {
    const { draft } = await editing();
    draft.edit({ kind: 'set', blockId: 'opening1', field: 'heading', value: 'Mine' });
    draft.edit({ kind: 'set', blockId: 'quote001', field: 'text', value: 'Slept well.' });
    const changed = {
      ...page,
      blocks: [{ ...theirs.blocks[0], fields: { ...theirs.blocks[0]?.fields } }, page.blocks[1]],
    };
    draft.other.set({ ...view(changed as PageDocument), version: 4, changedBy: null });
    const fixture = await open(ConflictBar);
    expect(text(fixture)).toContain('Changed by someone else meanwhile');
    await press(fixture, /^Use theirs/);
    expect(fieldOf(draft, 'opening1', 'heading')).toBe('The night boat');
    draft.undo();
    expect([fieldOf(draft, 'opening1', 'heading'), fieldOf(draft, 'quote001', 'text')]).toEqual([
      'Mine',
      'Slept well.',
    ]);
  });
});

describe('the bar over the canvas', () => {
  it('says whether the page is saved, and who else is there', async () => {
    const { draft } = await editing();
    const fixture = await open(EditorHead, { width: 'wide' });
    const says = async (keeping: 'kept' | 'offline' | 'refused' | 'waiting') => {
      draft.keeping.set(keeping as 'kept');
      await settle(fixture);
      return element(fixture).querySelector('.kept')?.textContent?.trim();
    };
    expect(await says('kept')).toMatch(/^Revision 3 · Saved \d\d:\d\d$/);
    expect(await says('offline')).toContain('Offline. Saved on this device');
    expect(await says('refused')).toContain('Not saved');
    expect(await says('waiting')).toContain('Saving…');
    expect(text(fixture)).toContain('Oda is here');
    expect(text(fixture)).toContain('marrowick.example/night');
  });

  it('releases for those who may, and opens what one asks for', async () => {
    await editing('author');
    const author = await open(EditorHead, { width: 'wide' });
    expect(text(author)).not.toContain('Release…');
    TestBed.resetTestingModule();
    await editing();
    const fixture = await open(EditorHead, { width: 'wide' });
    const asked: string[] = [];
    fixture.componentInstance.panel.subscribe((panel) => asked.push(panel));
    fixture.componentInstance.release.subscribe(() => asked.push('release'));
    await press(fixture, /^Release…/);
    await press(fixture, /^Edit HTML and CSS/);
    await press(fixture, /^Side by side/);
    expect([asked, fixture.componentInstance.width()]).toEqual([['release', 'source'], 'both']);
  });
});

describe('how a page is looked at', () => {
  it('is now, or at a moment that is said, and goes back', async () => {
    const { seen } = await editing();
    const fixture = await open(SeenAt);
    const now = text(fixture);
    await press(fixture, /^at another time/);
    expect(seen.at()).toBe(NOW + 7 * DAY);
    expect(element(fixture).querySelector('.is-other')?.textContent).toMatch(/\d\d:\d\d/);
    await press(fixture, /^now$/);
    expect([seen.at(), text(fixture)]).toEqual([null, now]);
    await press(fixture, /dark/i);
    expect(seen.seen()).toBe('dark');
    expect(element(fixture).querySelector('.is-other')).not.toBeNull();
  });
});

describe('the margin', () => {
  it('shows what the chosen block holds, and moves it', async () => {
    const { choice } = await editing();
    choice.choose('quote001');
    const fixture = await open(BlockMargin);
    const moves: object[] = [];
    fixture.componentInstance.move.subscribe((move) => moves.push(move));
    expect(element(fixture).querySelector('h2')?.textContent).toBe('Quote');
    await press(fixture, /^up$/);
    expect(moves).toEqual([{ blockId: 'quote001', by: -1 }]);
    await press(fixture, /^copy$/);
    expect(choice.blocks().map(({ fields }) => fields['text'])).toEqual(['We slept.']);
    choice.choose('opening1', 'range');
    await settle(fixture);
    expect(element(fixture).querySelector('h2')?.textContent).toMatch(/^\d blocks$/);
  });

  it('says how the page is known elsewhere, what of it comes from further up, and who else says the same', async () => {
    const { draft, choice, api } = await editing();
    const above = {
      ...NO_METADATA,
      titleAfter: '| {site name}',
      description: 'All year',
      robots: { noindex: true as const },
    };
    api.on('GET stock', () => []);
    api.on('GET stock/held', () => ({
      ...{ themes: {}, values: [], css: [], pieces: [], parts: [], standings: [], menus: [], legal: [] },
      profiles: [{ siteId: 1, profile: profileWith({ brand: 'Marrowick' }) }],
      metadata: [{ id: 5, key: null, siteId: null, metadata: above }],
    }));
    const asked: unknown[] = [];
    api.on('GET register/alike', ({ query }) => {
      asked.push(query);
      return [{ pageId: 7, name: 'Old boat', address: 'marrowick.example/old', what: 'title', likeness: 'near' }];
    });
    await TestBed.inject(StockService).open(1);
    TestBed.inject(PageWorld).document.set(draft.document());
    choice.choose('page');
    const fixture = await open(BlockMargin);
    await pass(600);
    await settle(fixture);
    expect(asked).toEqual([{ page: 2, title: 'Night boat', description: 'Words', phrases: '' }]);
    expect(text(fixture)).toContain('Nearly the same title: Old boat, marrowick.example/old');
    expect(text(fixture)).toContain('In search results: Night boat | Marrowick');
    expect(text(fixture)).toContain('Left empty, the description of All sites is used.');
    expect(text(fixture)).toContain('Kept out of search results from All sites');
    await press(fixture, 'Own settings for this page');
    expect(draft.document()?.metadata.robots).toEqual({});
    draft.undo();
    expect(draft.document()?.metadata.robots).toBeUndefined();
  });

  it('names what is found, goes there, and mends it in a step that can be undone', async () => {
    const { draft, choice } = await editing();
    choice.choose('page');
    const fixture = await open(BlockMargin);
    const marks = TestBed.inject(DraftFindings).marks();
    expect([...marks]).toEqual([
      ['opening1', 'blocks'],
      ['quote001', 'blocks'],
    ]);
    await press(fixture, /^Go there/);
    expect(choice.main()).toBe('opening1');
    await press(fixture, /^Leave it empty/);
    expect(fieldOf(draft, 'opening1', 'text')).toBe('');
    draft.undo();
    expect(fieldOf(draft, 'opening1', 'text')).toBe('‹One sentence›');
    draft.edit({ kind: 'set', blockId: 'opening1', field: 'heading', value: '' });
    await settle(fixture);
    expect(TestBed.inject(DraftFindings).marks().get('opening1')).toBe('blocks');
    expect(text(fixture)).toContain('Blocks release');
  });
});
