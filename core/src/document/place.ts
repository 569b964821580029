import { appearanceOf } from '../blocks/appearance.js';
import { applyEdit, type Edit } from './edit.js';
import { isRow, MOST_COLUMNS, rowsOf, rowWith, type Column } from './rows.js';
import type { Block, PageDocument } from '../fields/types.js';

/**
 * A place for a block: above or below another, in its column where that one is in a row; beside it, as a column of its own;
 * or from edge to edge ahead of or past all its row. Of a block that is not there: the end of the page.
 */
export interface Spot {
  readonly id: string;
  readonly side: 'above' | 'below' | 'before' | 'behind' | 'ahead' | 'past';
}

/** Edits one after the other, each made for the page as the ones before it leave it; `null` where one can't be. */
class Steps {
  readonly edits: Edit[] = [];
  constructor(public document: PageDocument) {
    this.settle();
  }

  /** Every block says of itself where it stands: one that is beside nothing, that it is alone. */
  private settle(): void {
    for (const row of rowsOf(this.document.blocks))
      if (isRow(row)) this.sayRow(row.map(({ blocks }) => blocks));
      else this.say(row[0].id, 'alone');
  }

  do(edit: Edit | null): void {
    const edited = edit && applyEdit(this.document, edit);
    if (!edited) return;
    this.document = edited.document;
    this.edits.push(edit);
  }

  say(blockId: string, beside: string): void {
    const block = this.block(blockId);
    if (block && appearanceOf(block.fields).beside !== beside)
      this.do({ kind: 'set', blockId, field: 'beside', value: beside });
  }

  block(blockId: string): Block | undefined {
    return this.document.blocks.find(({ id }) => id === blockId);
  }

  at(blockId: string): number {
    return this.document.blocks.findIndex(({ id }) => id === blockId);
  }

  /** What stands in a row, said anew: one column is no row. */
  sayRow(columns: readonly (readonly Block[])[]): void {
    columns.forEach((column, n) =>
      column.forEach(({ id }, m) => this.say(id, columns.length < 2 ? 'alone' : m ? 'same' : n ? 'next' : 'row')),
    );
  }

  get all(): Edit | null {
    return this.edits.length ? { kind: 'several', edits: this.edits } : null;
  }
}

const columnsWithout = (row: readonly Column[], blockId: string): Block[][] =>
  row.map(({ blocks }) => blocks.filter(({ id }) => id !== blockId)).filter(({ length }) => length);

/** Takes a block out of its row: it stands from edge to edge, behind the row or before it. */
function leave(steps: Steps, blockId: string, side: 'before' | 'behind'): void {
  const row = rowWith(steps.document.blocks, blockId);
  if (!row) return;
  const all = row.flatMap(({ blocks }) => blocks);
  const edge = side === 'behind' ? all.at(-1) : all[0];
  const to = steps.at(edge?.id ?? '');
  steps.say(blockId, 'alone');
  steps.do({ kind: 'set', blockId, field: 'share', value: '1' });
  steps.sayRow(columnsWithout(row, blockId));
  steps.do({ kind: 'move', blockId, to });
}

/** Takes a block out of its row; `null` where it is in none. */
export function aloneEdit(document: PageDocument, blockId: string): Edit | null {
  if (!rowWith(document.blocks, blockId)) return null;
  const steps = new Steps(document);
  leave(steps, blockId, 'behind');
  return steps.all;
}

/**
 * Puts a block beside the one before it, as a column of its own; one that is a column already, below what is in the one
 * before it. `null` where nothing is before it.
 */
export function besideEdit(document: PageDocument, blockId: string): Edit | null {
  const { blocks } = document;
  const at = blocks.findIndex(({ id }) => id === blockId);
  const [before, block] = [blocks[at - 1], blocks[at]];
  if (!before || !block) return null;
  const row = rowWith(blocks, before.id);
  const isIn = row?.some((column) => column.blocks.includes(block)) ?? false;
  const isAColumn = isIn && row?.some((column) => column.blocks[0] === block);
  // Of two columns the second can’t go into the first: they would be no row any more.
  if (isIn && (!isAColumn || row?.length === 2)) return null;
  const steps = new Steps(document);
  if (isAColumn || row?.length === MOST_COLUMNS) steps.say(blockId, 'same');
  else {
    if (!row) steps.say(before.id, 'row');
    steps.say(blockId, 'next');
  }
  const mine = rowWith(steps.document.blocks, blockId);
  if (mine) steps.sayRow(mine.map((column) => column.blocks));
  else {
    steps.say(before.id, 'alone');
    steps.say(blockId, 'alone');
  }
  return steps.all;
}

/** The spot that a place among the blocks in their order is: inside a row where both neighbours are in it. */
export function spotAt(blocks: readonly Block[], at: number): Spot {
  const [before, behind] = [blocks[at - 1], blocks[at]];
  if (!before) return { id: behind?.id ?? '', side: 'ahead' };
  const row = rowWith(blocks, before.id);
  const isWithin = behind && row?.some((column) => column.blocks.includes(behind));
  return { id: before.id, side: isWithin ? 'below' : 'past' };
}

/** Puts a block, new or from elsewhere on the page, at a spot; `null` where it is there already. */
export function placeEdit(document: PageDocument, block: Block, spot: Spot): Edit | null {
  if (spot.id === block.id) return null;
  const steps = new Steps(document);
  leave(steps, block.id, 'behind');
  const put = (at: number) => {
    const from = steps.at(block.id);
    if (from < 0) steps.do({ kind: 'insert', at, block });
    else if (from !== (at > from ? at - 1 : at))
      steps.do({ kind: 'move', blockId: block.id, to: at > from ? at - 1 : at });
  };
  const row = rowWith(steps.document.blocks, spot.id);
  if (spot.side === 'ahead' || spot.side === 'past' || steps.at(spot.id) < 0) {
    const all = row?.flatMap(({ blocks }) => blocks) ?? [];
    const [first, last] = [all[0]?.id ?? spot.id, all.at(-1)?.id ?? spot.id];
    const isThere = steps.at(spot.id) >= 0;
    put(isThere ? (spot.side === 'ahead' ? steps.at(first) : steps.at(last) + 1) : steps.document.blocks.length);
    return steps.all;
  }
  const column = row?.find((one) => one.blocks.some(({ id }) => id === spot.id));
  const isBeside = (spot.side === 'before' || spot.side === 'behind') && row?.length !== MOST_COLUMNS;
  const columns = (row ?? []).map((one) => [...one.blocks]);
  const [first, last] = [column?.blocks[0]?.id ?? spot.id, column?.blocks.at(-1)?.id ?? spot.id];
  const isAhead = spot.side === 'above' || spot.side === 'before';
  const anchor = isBeside ? (isAhead ? first : last) : spot.id;
  put(steps.at(anchor) + (isAhead ? 0 : 1));
  const own = steps.block(block.id) ?? block;
  if (!row) {
    const other = steps.block(spot.id);
    if (isBeside && other) steps.sayRow(isAhead ? [[own], [other]] : [[other], [own]]);
  } else {
    const n = columns.findIndex((one) => one.some(({ id }) => id === spot.id));
    if (isBeside) columns.splice(isAhead ? n : n + 1, 0, [own]);
    else columns[n]?.splice(columns[n].findIndex(({ id }) => id === spot.id) + (isAhead ? 0 : 1), 0, own);
    steps.sayRow(columns);
  }
  return steps.all;
}

/**
 * One step up or down: past the next block, past a whole row of columns, to the next place within its own row, or out of that.
 * `null` at the end of the page.
 */
export function stepEdit(document: PageDocument, blockId: string, by: 1 | -1): Edit | null {
  const { blocks } = document;
  const at = blocks.findIndex(({ id }) => id === blockId);
  const [block, next] = [blocks[at], blocks[at + by]];
  if (!block) return null;
  const steps = new Steps(document);
  const row = rowWith(blocks, blockId);
  if (row) {
    const order = row.flatMap((column) => column.blocks);
    const to = order.indexOf(block) + by;
    if (to < 0 || to >= order.length) leave(steps, blockId, by > 0 ? 'behind' : 'before');
    else {
      // The places of the row stay as they are; two blocks change theirs.
      steps.do({ kind: 'move', blockId, to: at + by });
      const moved = order.toSpliced(to - by, 1).toSpliced(to, 0, block);
      let n = 0;
      steps.sayRow(row.map((column) => column.blocks.map(() => moved[n++] as Block)));
    }
    return steps.all;
  }
  if (!next) return null;
  const passed = rowWith(blocks, next.id)?.flatMap((column) => column.blocks).length ?? 1;
  steps.do({ kind: 'move', blockId, to: at + by * passed });
  return steps.all;
}
