import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { blockTypes, type BlockType } from '../../src/blocks/index.js';
import {
  applyEdit,
  blankValues,
  documentFromJSON,
  mergeDocuments,
  newBlock,
  takeTheirs,
  type Block,
  richTextOf,
  type Edit,
  type FieldDefinition,
  type FieldValues,
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
        kind: fc.constant('set' as const),
        blockId: fc.constantFrom(...own),
        field: fc.constant('ground'),
        value: fc.constantFrom('page', 'tint', 'strong'),
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
  it('of one block keeps what each wrote in fields of their own, entry by entry; one field of both is a choice', () => {
    const entry = (title: string, text: string) => ({ title, text, picture: null });
    const reasons = (heading: string, ...items: ReturnType<typeof entry>[]): PageDocument => ({
      metadata,
      blocks: [newBlock('reasons', 'reas1', { heading, items })],
    });
    const base = reasons('Why', entry('One', 'a'), entry('Two', 'b'), entry('Three', 'c'));
    const mine = reasons('Why so', entry('One', 'mine'), entry('Two', 'b'), entry('Three', 'mine'));
    const theirs = reasons('Why', entry('First', 'a'), entry('Two', 'theirs'), entry('Three', 'theirs'));
    const { document, conflicts } = mergeDocuments(base, mine, theirs);
    const merged = (last: string) =>
      reasons('Why so', entry('First', 'mine'), entry('Two', 'theirs'), entry('Three', last));
    expect(document).toEqual(merged('mine'));
    expect(conflicts).toEqual([
      { blockId: 'reas1', mine: merged('mine').blocks[0], theirs: merged('theirs').blocks[0] },
    ]);
  });
  it('loses no word that anybody wrote: it is on the page, in the tray, or among what is shown for a choice', () => {
    const ids = ['aaaa', 'bbbb', 'cccc', 'dddd', 'eeee', 'ffff'];
    let said = 0;
    const act = fc.oneof(
      {
        weight: 4,
        arbitrary: fc.tuple(fc.constant('set' as const), fc.constantFrom(...ids), fc.constantFrom('text', 'who')),
      },
      { weight: 2, arbitrary: fc.tuple(fc.constant('remove' as const), fc.constantFrom(...ids), fc.constant('')) },
      { weight: 2, arbitrary: fc.tuple(fc.constant('aside' as const), fc.constantFrom(...ids), fc.constant('')) },
      { weight: 1, arbitrary: fc.tuple(fc.constant('back' as const), fc.constantFrom(...ids), fc.constant('')) },
      { weight: 1, arbitrary: fc.tuple(fc.constant('insert' as const), fc.constantFrom('n', 'm'), fc.constant('')) },
      { weight: 1, arbitrary: fc.tuple(fc.constant('start' as const), fc.constantFrom(...STARTS), fc.constant('')) },
    );
    const done = (document: PageDocument, [kind, what, field]: readonly [string, string, string]): PageDocument => {
      const word = `w${said++}e`;
      const { blocks, tray = [] } = document;
      const [onPage, inTray] = [blocks.find(({ id }) => id === what), tray.find(({ id }) => id === what)];
      const without = (list: readonly Block[]) => list.filter(({ id }) => id !== what);
      if (kind === 'start')
        return changeStart(document, what as (typeof STARTS)[number], 'N', () => `s${said++}xx`).document;
      if (kind === 'set') return after(document, [{ kind: 'set', blockId: what, field, value: word }]);
      if (kind === 'insert') return { ...document, blocks: [...blocks, quote(`${what}${said}xx`, word)] };
      if (kind === 'remove') return { ...document, blocks: without(blocks) };
      if (kind === 'aside' && onPage) return { ...document, blocks: without(blocks), tray: [...tray, onPage] };
      if (kind === 'back' && inTray) return { ...document, blocks: [...blocks, inTray], tray: without(tray) };
      return document;
    };
    const acts = fc.array(act, { maxLength: 8 });
    const wordsIn = (what: unknown) => new Set(JSON.stringify(what).match(/w\d+e/g));
    fc.assert(
      fc.property(acts, acts, acts, (before, a, b) => {
        const base = before.reduce(done, BASE);
        const [mine, theirs] = [a.reduce(done, base), b.reduce(done, base)];
        const merged = mergeDocuments(base, mine, theirs);
        const [known, there] = [wordsIn(base), wordsIn(merged)];
        for (const word of [...wordsIn(mine), ...wordsIn(theirs)])
          if (!known.has(word)) expect(there.has(word)).toBe(true);
        const all = [...merged.document.blocks, ...(merged.document.tray ?? [])].map(({ id }) => id);
        expect(new Set(all).size).toBe(all.length);
        const other = mergeDocuments(base, theirs, mine);
        if (!merged.conflicts.length) expect(other.document).toEqual(merged.document);
      }),
      { numRuns: 400 },
    );
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
  it('keeps every text of every entry, whatever the page holds and however often it takes another', () => {
    let said = 0;
    /** Words of their own, as long as the field takes them. */
    const words = (max: number, isLong: boolean) => {
      const word = `w${said++}e`;
      return isLong ? word.padEnd(Math.min(max, 5000), 'x') : word;
    };
    const valuesOf = (fields: readonly FieldDefinition[], size: number, isLong: boolean): FieldValues =>
      Object.fromEntries(
        fields.map((field) => {
          const { key } = field;
          if (field.kind === 'line' || field.kind === 'paragraph') return [key, words(field.max, isLong)];
          if (field.kind === 'rich') return [key, richTextOf(words(50, false))];
          if (field.kind === 'button') return [key, { label: words(80, isLong), target: null }];
          if (field.kind !== 'list') return [key, blankValues([field])[key] ?? null];
          const count = Math.max(field.min, Math.min(size, field.max));
          return [key, Array.from({ length: count }, () => valuesOf(field.fields, size, isLong))];
        }),
      ) as FieldValues;
    const types = Object.keys(blockTypes) as BlockType[];
    const one = fc.record({
      type: fc.constantFrom(...types),
      size: fc.constantFrom(1, 3, 12, 60),
      isLong: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(one, { minLength: 1, maxLength: 8 }),
        fc.array(fc.constantFrom(...STARTS), { minLength: 1, maxLength: 3 }),
        (made, taken) => {
          const next = ids();
          const blocks = made.map(({ type, size, isLong }) =>
            newBlock(type, next(), valuesOf(blockTypes[type].fields, size, isLong)),
          );
          const wanted = JSON.stringify(blocks).match(/w\d+ex*/g) ?? [];
          const after = taken.reduce((document, start) => changeStart(document, start, 'N', next).document, {
            metadata,
            blocks,
          } as PageDocument);
          const there = new Set(JSON.stringify(after).match(/w\d+ex*/g));
          expect(wanted.filter((text) => !there.has(text))).toEqual([]);
          // What it has become can be saved.
          expect(documentFromJSON(JSON.parse(JSON.stringify(after)))).toMatchObject({ ok: true });
        },
      ),
      { numRuns: 150 },
    );
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
