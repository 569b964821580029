import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  applyEdit,
  mergeDocuments,
  newBlock,
  takeTheirs,
  type Block,
  type Edit,
  type PageDocument,
} from '../../src/document/index.js';
import { changeStart, STARTS, startDocument } from '../../src/starts/index.js';

const metadata = { title: 'T', description: 'D' };
const quote = (id: string, text = id): Block => newBlock('quote', id, { text });
const page = (...ids: string[]): PageDocument => ({ metadata, blocks: ids.map((id) => quote(id)) });
const order = ({ blocks }: PageDocument) => blocks.map(({ id }) => id).join(' ');
const BASE = page('aaaa', 'bbbb', 'cccc', 'dddd', 'eeee', 'ffff');

/** Edits of one person, who touches only some of the blocks; new ones have names of their own. */
const editsOf = (own: readonly string[], prefix: string): fc.Arbitrary<Edit[]> =>
  fc.array(
    fc.oneof(
      fc.record({
        kind: fc.constant('set' as const),
        blockId: fc.constantFrom(...own),
        field: fc.constant('text'),
        value: fc.string({ maxLength: 5 }),
      }),
      fc.record({
        kind: fc.constant('move' as const),
        blockId: fc.constantFrom(...own),
        to: fc.integer({ min: 0, max: 7 }),
      }),
      fc.record({ kind: fc.constant('remove' as const), blockId: fc.constantFrom(...own) }),
      fc
        .tuple(fc.integer({ min: 0, max: 7 }), fc.integer({ min: 1, max: 99 }))
        .map(([at, n]): Edit => ({ kind: 'insert', at, block: quote(`${prefix}new${n}`) })),
    ),
    { maxLength: 6 },
  );
/** By what each moved itself, `ffff` (or `eeee`) counts as moved in both lists, and both put something behind it. */
const BOTH_MOVED_ONE: [Edit[], Edit[]] = [
  [
    { kind: 'remove', blockId: 'cccc' },
    { kind: 'insert', at: 5, block: quote('xnew1') },
    { kind: 'move', blockId: 'eeee', to: 5 },
  ],
  [
    { kind: 'move', blockId: 'dddd', to: 1 },
    { kind: 'move', blockId: 'ffff', to: 1 },
    { kind: 'remove', blockId: 'bbbb' },
  ],
];
const after = (document: PageDocument, edits: readonly Edit[]) =>
  edits.reduce((now, edit) => applyEdit(now, edit)?.document ?? now, document);

describe('bringing two texts together', () => {
  it('of edits to different blocks keeps them all, and is the same whoever comes first', () => {
    fc.assert(
      fc.property(editsOf(['aaaa', 'cccc', 'eeee'], 'x'), editsOf(['bbbb', 'dddd', 'ffff'], 'y'), (a, b) => {
        const [mine, theirs] = [after(BASE, a), after(BASE, b)];
        const one = mergeDocuments(BASE, mine, theirs);
        const other = mergeDocuments(BASE, theirs, mine);
        expect(one.conflicts).toEqual([]);
        expect(one.document).toEqual(other.document);
        const merged = new Map(one.document.blocks.map((block) => [block.id, block]));
        expect(merged.size).toBe(one.document.blocks.length);
        for (const { id } of BASE.blocks) {
          const side = 'ace'.includes(id.slice(0, 1)) ? mine : theirs;
          expect(merged.get(id)).toEqual(side.blocks.find((block) => block.id === id));
        }
        for (const side of [mine, theirs])
          for (const block of side.blocks) if (block.id.includes('new')) expect(merged.get(block.id)).toEqual(block);
      }),
      { numRuns: 300, examples: [BOTH_MOVED_ONE] },
    );
  });
  it('with an unchanged one gives the other, whatever was done to it', () => {
    fc.assert(
      fc.property(editsOf(['aaaa', 'bbbb', 'cccc', 'dddd', 'eeee', 'ffff'], 'x'), (edits) => {
        const mine = after(BASE, edits);
        expect(mergeDocuments(BASE, mine, BASE)).toEqual({ document: mine, conflicts: [] });
        expect(mergeDocuments(BASE, BASE, mine)).toEqual({ document: mine, conflicts: [] });
        expect(mergeDocuments(BASE, mine, mine)).toEqual({ document: mine, conflicts: [] });
      }),
    );
  });
  it('shows a block that both changed for a choice, also where one removed it', () => {
    const set = (id: string, value: string): Edit => ({ kind: 'set', blockId: id, field: 'text', value });
    const mine = after(BASE, [set('bbbb', 'mine'), { kind: 'remove', blockId: 'cccc' }]);
    const theirs = after(BASE, [set('bbbb', 'theirs'), set('cccc', 'theirs'), set('dddd', 'theirs')]);
    const { document, conflicts } = mergeDocuments(BASE, mine, theirs);
    expect(conflicts.map(({ blockId }) => blockId)).toEqual(['bbbb', 'cccc']);
    expect(document.blocks.find(({ id }) => id === 'bbbb')?.fields['text']).toBe('mine');
    expect(document.blocks.find(({ id }) => id === 'dddd')?.fields['text']).toBe('theirs');
    const decided = conflicts.reduce((now, conflict) => takeTheirs(now, theirs, conflict), document);
    expect(decided.blocks.find(({ id }) => id === 'bbbb')?.fields['text']).toBe('theirs');
    expect(order(decided)).toBe(order(BASE));
  });
  it('keeps new blocks where each put them', () => {
    const mine = after(BASE, [{ kind: 'insert', at: 2, block: quote('mine1') }]);
    const theirs = after(BASE, [
      { kind: 'move', blockId: 'ffff', to: 0 },
      { kind: 'insert', at: 3, block: quote('other1') },
    ]);
    expect(order(mergeDocuments(BASE, mine, theirs).document)).toBe('ffff aaaa bbbb mine1 other1 cccc dddd eeee');
  });
});

describe('another start for a page that has content', () => {
  const ids = () => {
    let n = 0;
    return () => `new${(n++).toString().padStart(4, '0')}`;
  };
  const own: PageDocument = {
    metadata,
    blocks: [
      newBlock('opening', 'open1', { heading: 'Night crossing', text: 'By lamplight' }),
      newBlock('steps', 'step1', { heading: 'How', items: [{ title: 'Book', text: 'here', picture: null }] as never }),
      newBlock('quote', 'quot1', { text: 'Once more', who: 'Aud' }),
      newBlock('map', 'mapp1', { heading: 'Quay 2' }),
      newBlock('quote', 'mark1', { text: '‹Nothing yet›' }),
    ],
  };
  it.each(STARTS)('%s loses nothing: every word of it is on the page or in the tray', (start) => {
    const { document, tray, moved } = changeStart(own, start, 'Night crossing', ids());
    const all = JSON.stringify([document.blocks, tray]);
    for (const words of ['Night crossing', 'By lamplight', 'How', 'Book', 'Once more', 'Aud', 'Quay 2'])
      expect(all).toContain(words);
    const shape = startDocument(start, 'x', ids()).blocks.map(({ type }) => type);
    expect(document.blocks.map(({ type }) => type)).toEqual(shape);
    expect(new Set(document.blocks.map(({ id }) => id)).size).toBe(document.blocks.length);
    expect(tray.some(({ id }) => id === 'mark1')).toBe(false);
    for (const { from, to, isWhole } of moved) if (isWhole && from.type === to.type) expect(to).toEqual(from);
  });
  it('puts what has the same meaning where it belongs, and a block nobody knows into the tray', () => {
    const unknown = { id: 'odd1', type: 'ornament', fields: {} } as unknown as Block;
    const { document, tray } = changeStart({ ...own, blocks: [...own.blocks, unknown] }, 'offer', 'x', ids());
    expect(document.blocks[0]).toEqual(own.blocks[0]);
    const reasons = document.blocks.find(({ type }) => type === 'reasons');
    expect(reasons?.fields['heading']).toBe('How');
    expect(tray).toContain(unknown);
  });
  it('is undone in one step', () => {
    const { document } = changeStart(own, 'event', 'x', ids());
    const done = applyEdit(own, { kind: 'whole', document });
    expect(done && applyEdit(done.document, done.inverse)?.document).toEqual(own);
  });
});
