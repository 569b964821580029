import { TestBed } from '@angular/core/testing';
import { problem, type DraftView, type Problem, type ProblemCode } from '@domatium/contracts';
import { newBlock, type PageDocument } from '@domatium/core/document';
import { DraftService } from '../src/app/editor/draft.service';
import { Api, Refusal } from '../src/app/hub/api';

const opening = newBlock('opening', 'block1', { heading: 'First' });
const document: PageDocument = { metadata: { title: 'Title', description: '' }, blocks: [opening] };
const view = (version: number, of: PageDocument = document): DraftView => ({
  version,
  document: of,
  changedAt: 1,
  changedBy: 'Tomas',
  name: 'Page',
  siteId: 1,
  host: 'a.example',
  path: '/',
  latestRevision: null,
  differsFromLatest: true,
  overridden: [],
});
const refused = (code: ProblemCode, current?: unknown): Problem => problem(code, `refused ${code}`, { current });
const heading = (value: string) => ({ kind: 'set', blockId: 'block1', field: 'heading', value }) as const;

/** A server that keeps drafts by version, and can be away. */
class FakeServer {
  version = 3;
  kept: PageDocument = document;
  answer: () => Refusal | null = () => null;
  saves = 0;
  over: string[] = [];
  call(
    endpoint: { method: string },
    input: { body?: { version: number; document: PageDocument; over: string[] } },
  ): Promise<unknown> {
    if (endpoint.method === 'GET') return Promise.resolve(view(this.version, this.kept));
    const refusal = this.answer();
    if (refusal) return Promise.reject(refusal);
    if (input.body?.version !== this.version)
      return Promise.reject(new Refusal(refused('stale', view(this.version, this.kept))));
    this.saves++;
    this.over = input.body.over;
    this.kept = input.body.document;
    return Promise.resolve({ version: ++this.version, changedAt: 5 });
  }
}

describe('a draft while it is edited', () => {
  let server: FakeServer;
  const open = async () => {
    const service = TestBed.runInInjectionContext(() => new DraftService());
    await service.open(1, 2);
    return service;
  };
  beforeEach(() => {
    jest.useFakeTimers();
    localStorage.clear();
    sessionStorage.clear();
    server = new FakeServer();
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: server }] });
  });
  afterEach(() => jest.useRealTimers());

  it('that is refused says which block and field, and is not released until it is saved', async () => {
    const draft = await open();
    const fields = [{ path: 'blocks[0].fields.button', message: 'The page this link points to is not here.' }];
    server.answer = () => new Refusal(problem('invalid', 'It is not here.', { fields }));
    draft.edit(heading('Second'));
    await jest.advanceTimersByTimeAsync(800);
    expect([draft.keeping(), draft.isUnsaved()]).toEqual(['refused', true]);
    expect(draft.refusals()).toEqual([
      { blockId: 'block1', field: 'button', words: 'Opening “Second”', message: fields[0]?.message },
    ]);
    server.answer = () => null;
    draft.edit(heading('Third'));
    await jest.advanceTimersByTimeAsync(800);
    expect([draft.keeping(), draft.isUnsaved(), draft.refusals(), draft.trouble()]).toEqual(['kept', false, [], null]);
    server.answer = () => new Refusal(refused('database-away'));
    draft.edit(heading('Fourth'));
    await jest.advanceTimersByTimeAsync(800);
    expect([draft.keeping(), draft.isUnsaved()]).toEqual(['offline', true]);
  });
  it('is kept a moment after the last key, as one step to undo', async () => {
    const draft = await open();
    for (const text of ['F', 'Fi', 'Fin']) draft.edit(heading(text));
    expect([draft.keeping(), server.saves]).toEqual(['changed', 0]);
    await jest.advanceTimersByTimeAsync(800);
    expect([draft.keeping(), server.saves, server.kept.blocks[0]?.fields['heading']]).toEqual(['kept', 1, 'Fin']);
    draft.undo();
    expect(draft.document()).toEqual(document);
    draft.redo();
    expect(draft.document()?.blocks[0]?.fields['heading']).toBe('Fin');
    await jest.advanceTimersByTimeAsync(100);
    expect(localStorage.length).toBe(1);
    await jest.advanceTimersByTimeAsync(800);
    expect(localStorage.length).toBe(0);
  });

  it('stays on the machine while the server is away, is sent when it is back, and survives a reload', async () => {
    const draft = await open();
    server.answer = () => new Refusal(refused('database-away'));
    draft.edit(heading('Typed in a tunnel'));
    await jest.advanceTimersByTimeAsync(800);
    expect(draft.keeping()).toBe('offline');
    const again = await open();
    expect(again.document()?.blocks[0]?.fields['heading']).toBe('Typed in a tunnel');
    server.answer = () => null;
    await jest.advanceTimersByTimeAsync(4000);
    expect(server.kept.blocks[0]?.fields['heading']).toBe('Typed in a tunnel');
    expect(again.keeping()).toBe('kept');
  });

  it('shows both texts when somebody else was faster, and loses neither before the choice', async () => {
    for (const which of ['mine', 'theirs'] as const) {
      const draft = await open();
      server.version++;
      server.kept = { ...document, metadata: { title: 'Theirs', description: '' } };
      const mine = `Mine, then ${which}`;
      draft.edit({ kind: 'metadata', key: 'title', value: mine });
      await jest.advanceTimersByTimeAsync(800);
      expect([draft.keeping(), draft.other()?.document.metadata.title, draft.document()?.metadata.title]).toEqual([
        'refused',
        'Theirs',
        mine,
      ]);
      draft.choose(which);
      await jest.advanceTimersByTimeAsync(800);
      expect([draft.document()?.metadata.title, server.kept.metadata.title]).toEqual(
        which === 'mine' ? [mine, mine] : ['Theirs', 'Theirs'],
      );
      // The other is told of what was decided for this text, once.
      if (which === 'mine') expect(server.over).toEqual(['page']);
    }
  });

  it('brings both together by itself where they changed different blocks, and says so', async () => {
    const draft = await open();
    const said: string[] = [];
    draft.merged.subscribe((words) => said.push(words));
    server.version++;
    server.kept = { ...document, metadata: { title: 'Theirs', description: '' } };
    draft.edit(heading('Mine'));
    await jest.advanceTimersByTimeAsync(2000);
    expect([draft.keeping(), draft.conflicts()]).toEqual(['kept', []]);
    expect([server.kept.metadata.title, server.kept.blocks[0]?.fields['heading']]).toEqual(['Theirs', 'Mine']);
    expect(said).toHaveLength(1);
    // What is undone is one's own.
    draft.undo();
    await jest.advanceTimersByTimeAsync(1000);
    expect([server.kept.metadata.title, server.kept.blocks]).toEqual(['Theirs', document.blocks]);
  });

  it('never goes back behind what was kept here while another text was on its way', async () => {
    const draft = await open();
    const { call } = server;
    let arrive: (view: unknown) => void = () => undefined;
    server.call = (endpoint, input) =>
      endpoint.method === 'GET' ? new Promise((done) => (arrive = done)) : call.call(server, endpoint, input);
    const followed = draft.follow();
    await jest.advanceTimersByTimeAsync(1);
    draft.edit(heading('Typed meanwhile'));
    await jest.advanceTimersByTimeAsync(1000);
    expect(draft.keeping()).toBe('kept');
    arrive(view(3, document));
    await followed;
    await jest.advanceTimersByTimeAsync(1000);
    expect(draft.document()?.blocks[0]?.fields['heading']).toBe('Typed meanwhile');
    expect(server.kept.blocks[0]?.fields['heading']).toBe('Typed meanwhile');
  });

  it('decides block by block where both changed the same ones, an hour after the line was cut', async () => {
    const draft = await open();
    server.answer = () => new Refusal(refused('database-away'));
    draft.edit(heading('Mine'));
    draft.edit({ kind: 'metadata', key: 'title', value: 'Mine' });
    await jest.advanceTimersByTimeAsync(3_600_000);
    expect(draft.keeping()).toBe('offline');
    server.answer = () => null;
    server.version++;
    const [block] = document.blocks;
    if (!block) throw new Error('The draft has no block');
    server.kept = {
      metadata: { title: 'Theirs', description: '' },
      blocks: [{ ...block, fields: { ...block.fields, heading: 'Theirs' } }],
    };
    const again = await open();
    expect(again.conflicts().map(({ blockId }) => blockId)).toEqual(['page', block.id]);
    const [page, heads] = again.conflicts();
    if (page) again.decide(page, 'mine');
    expect(again.other()).not.toBeNull();
    if (heads) again.decide(heads, 'theirs');
    await jest.advanceTimersByTimeAsync(1000);
    expect(again.other()).toBeNull();
    expect([server.kept.metadata.title, server.kept.blocks[0]?.fields['heading']]).toEqual(['Mine', 'Theirs']);
    expect(server.over).toEqual(['page']);
    again.edit(heading('Later'));
    await jest.advanceTimersByTimeAsync(1000);
    expect(server.over).toEqual([]);
  });

  it('goes on with undo and redo after a reload, unless somebody else has kept a text meanwhile', async () => {
    const first = await open();
    first.edit(heading('Second'));
    await jest.advanceTimersByTimeAsync(1000);
    first.edit(heading('Third'));
    first.undo();
    await jest.advanceTimersByTimeAsync(1000);
    expect(first.keeping()).toBe('kept');
    const again = await open();
    again.redo();
    expect(again.document()?.blocks[0]?.fields['heading']).toBe('Third');
    again.undo();
    again.undo();
    expect(again.document()?.blocks[0]?.fields['heading']).toBe('First');
    await jest.advanceTimersByTimeAsync(1000);
    server.version++;
    const later = await open();
    expect([later.canUndo(), later.canRedo()]).toEqual([false, false]);
  });
});
