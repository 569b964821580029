import type { FieldDefinition, FieldValues } from '../../fields/fields.js';
import { BLOCK_ID } from '../../fields/link.js';
import type { Block } from '../../fields/types.js';

/** Layouts that blocks of a piece have on one page, by their identities. */
export type Looks = ReadonlyMap<string, string>;

/** Looks as a text keeps them: `block:layout block:layout`. */
export const looksFrom = (text: unknown): Looks =>
  new Map(
    (typeof text === 'string' ? text : '').split(' ').flatMap((one): [string, string][] => {
      const [id = '', layout = ''] = one.split(':');
      return BLOCK_ID.test(id) && layout ? [[id, layout]] : [];
    }),
  );

export const looksToText = (looks: Looks): string => [...looks].map(([id, layout]) => `${id}:${layout}`).join(' ');

/** The choice of layouts among the fields of a type, `null` where it has one only. */
export function layoutsOf(
  fields: readonly FieldDefinition[],
): Extract<FieldDefinition, { readonly kind: 'choice' }> | null {
  const found = fields.find(({ key }) => key === 'layout');
  return found?.kind === 'choice' ? found : null;
}

/** The blocks of a piece as they look on a page; a layout that their type does not have (any more) is as in the piece. */
export function withLooks(
  blocks: readonly Block[],
  looks: Looks,
  fieldsOf: (type: Block['type']) => readonly FieldDefinition[],
): readonly Block[] {
  return blocks.map((block) => {
    const layout = looks.get(block.id);
    const isThere = layoutsOf(fieldsOf(block.type))?.options.some(({ value }) => value === layout);
    return isThere ? { ...block, fields: { ...block.fields, layout } as FieldValues } : block;
  });
}
