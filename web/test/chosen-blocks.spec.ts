import { TestBed } from '@angular/core/testing';
import { newBlock, type PageDocument } from '@domatium/core/document';
import { ChosenBlocks } from '../src/app/editor/chosen-blocks';
import { DraftService } from '../src/app/editor/draft.service';
import { NoticeService } from '../src/app/hub/notices';

const page = (...ids: string[]): PageDocument => ({
  metadata: { title: 'A page', description: '' },
  blocks: ids.map((id) => newBlock('quote', id, { text: `Words of ${id}` })),
});
/** A clipboard as the browser hands it over. */
class Clipboard {
  readonly kept = new Map<string, string>();
  setData(type: string, text: string): void {
    this.kept.set(type, text);
  }
  getData(type: string): string {
    return this.kept.get(type) ?? '';
  }
  get transfer(): DataTransfer {
    return this as unknown as DataTransfer;
  }
}

let draft: DraftService;
let chosen: ChosenBlocks;
const order = () => draft.document()?.blocks.map(({ id }) => id);
const ids = () => [...chosen.ids()];

beforeEach(() => {
  TestBed.configureTestingModule({ providers: [DraftService, ChosenBlocks] });
  draft = TestBed.inject(DraftService);
  chosen = TestBed.inject(ChosenBlocks);
  draft.document.set(page('anna', 'bert', 'cora', 'dora'));
});

it('chooses one, all up to another, and others beside them, in the order of the page', () => {
  chosen.choose('cora');
  expect(ids()).toEqual(['cora']);
  chosen.choose('anna', 'range');
  expect([ids(), chosen.main()]).toEqual([['anna', 'bert', 'cora'], 'cora']);
  chosen.choose('bert', 'beside');
  chosen.choose('dora', 'beside');
  expect([ids(), chosen.main()]).toEqual([['anna', 'cora', 'dora'], 'dora']);
  chosen.choose('dora', 'beside');
  expect([ids(), chosen.main()]).toEqual([['anna', 'cora'], 'anna']);
  chosen.choose('page');
  expect(ids()).toEqual([]);
});

it('removes all at once, goes on with the next, and takes one step to bring them back', () => {
  chosen.choose('bert');
  chosen.choose('cora', 'range');
  chosen.remove();
  expect([order(), chosen.main()]).toEqual([['anna', 'dora'], 'dora']);
  chosen.choose('anna', 'range');
  chosen.remove();
  expect([order(), chosen.main()]).toEqual([[], 'page']);
  draft.undo();
  draft.undo();
  expect(order()).toEqual(['anna', 'bert', 'cora', 'dora']);
});

it('moves them together, and says when they are at the end', () => {
  chosen.choose('anna');
  chosen.choose('cora', 'beside');
  expect([chosen.move(-1), chosen.move(1), order()]).toEqual([false, true, ['bert', 'anna', 'dora', 'cora']]);
  expect([chosen.move(1), ids()]).toEqual([false, ['anna', 'cora']]);
});

it('doubles them behind the last, and chooses the twins', () => {
  chosen.choose('anna');
  chosen.choose('bert', 'range');
  chosen.double();
  expect(order()).toEqual(['anna', 'bert', ...ids(), 'cora', 'dora']);
  expect(chosen.blocks().map(({ fields }) => fields['text'])).toEqual(['Words of anna', 'Words of bert']);
});

it('carries them by the clipboard, also where it keeps plain text only, and ignores what is no block', () => {
  const clipboard = new Clipboard();
  chosen.choose('dora');
  chosen.copyTo(clipboard.transfer, 1);
  expect(TestBed.inject(NoticeService).notices()[0]?.text).toContain('Quote “Words of dora” copied');
  for (const type of [...clipboard.kept.keys()]) if (type !== 'text/plain') clipboard.kept.delete(type);
  chosen.choose('anna');
  expect(chosen.pasteFrom(clipboard.transfer, 1)).toBe(true);
  expect(order()).toEqual(['anna', ...ids(), 'bert', 'cora', 'dora']);
  const before = draft.document();
  clipboard.setData('text/plain', 'A sentence.');
  expect(chosen.pasteFrom(clipboard.transfer, 1)).toBe(false);
  expect(draft.document()).toBe(before);
});

it('says what did not come along from another portfolio', () => {
  const clipboard = new Clipboard();
  chosen.choose('anna');
  chosen.copyTo(clipboard.transfer, 1);
  chosen.pasteFrom(clipboard.transfer, 2);
  expect(TestBed.inject(NoticeService).notices().at(-1)?.text).toContain('were left out');
});
