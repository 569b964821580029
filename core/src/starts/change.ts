import { isBlockType, type BlockType } from '../fields/names.js';
import { appearanceIn } from '../blocks/appearance.js';
import { blockTypes, fieldsOf } from '../blocks/registry.js';
import {
  blankValue,
  blankValues,
  type Block,
  type FieldDefinition,
  type FieldValues,
  type PageDocument,
} from '../document/index.js';
import { plainTextOf, type RichText } from '../fields/rich-text.js';
import { starts } from './definitions.js';

/** What becomes of a page that takes another start: where its content went, and what found no place. */
export interface StartChange {
  readonly document: PageDocument;
  /** New blocks that took content of old ones: which. */
  readonly moved: readonly { readonly from: Block; readonly to: Block; readonly isWhole: boolean }[];
  /** Blocks whose content has no place in the new start. They go to the tray; nothing of them is lost. */
  readonly tray: readonly Block[];
}

/** Types that mean the same to a reader: content of one finds its place in another of the group, the nearest first. */
const KIN: readonly (readonly BlockType[])[] = [
  ['opening'],
  ['text', 'columns'],
  ['reasons', 'steps', 'columns'],
  ['offer', 'comparison', 'table'],
  ['picture', 'gallery', 'video'],
  ['quote', 'voices'],
  ['people', 'voices'],
  ['questions'],
  ['numbers', 'reasons'],
  ['callToAction', 'buttonRow'],
  ['linkList', 'pageList', 'buttonRow'],
  ['map', 'contact'],
  ['countdown'],
  ['logos'],
];

/**
 * A page with another start: each place of the start takes the first block of the same type, or else of the same meaning;
 * a block of the same type comes whole, with its identity. Places that nothing fills keep their marked first content.
 */
export function changeStart(
  document: PageDocument,
  start: keyof typeof starts,
  name: string,
  newId: () => string,
): StartChange {
  const left = [...document.blocks];
  const moved: { from: Block; to: Block; isWhole: boolean }[] = [];
  const places = starts[start].blocks(name).map(([type, fields]) => ({ type, fields: exampleFields(type, fields) }));
  const filled: (Block | null)[] = places.map(() => null);
  const take = (find: (type: BlockType, block: Block) => boolean, isWhole: boolean) =>
    places.forEach(({ type, fields }, index) => {
      if (filled[index]) return;
      const at = left.findIndex((block) => hasContent(block) && find(type, block));
      const from = left[at];
      if (!from) return;
      left.splice(at, 1);
      const to = aloneBlock(isWhole ? from : { id: newId(), type, fields: poured(from, type, fields) });
      filled[index] = to;
      const isAll = isWhole || isAllIn(from, type);
      moved.push({ from, to, isWhole: isAll });
    });
  take((type, block) => block.type === type, true);
  take((type, block) => KIN.some((kin) => kin.includes(type) && kin.includes(block.type)), false);
  const blocks = places.map(({ type, fields }, index) => filled[index] ?? { id: newId(), type, fields });
  // Of what came only in part the whole is kept beside.
  const parts = moved.filter(({ isWhole }) => !isWhole).map(({ from }) => from);
  const tray = [...(document.tray ?? []), ...left.filter(hasContent), ...parts];
  return { document: { ...document, blocks, ...(tray.length ? { tray } : {}) }, moved, tray };
}

/** A block that stands by itself: among others than before it is beside nothing. */
function aloneBlock(block: Block): Block {
  const { beside, share, ...fields } = block.fields;
  return beside === undefined && share === undefined ? block : { ...block, fields };
}

function exampleFields(type: BlockType, fields: FieldValues | undefined): FieldValues {
  const { fields: all, example } = blockTypes[type];
  return { ...blankValues(all), ...(example as FieldValues | undefined), ...fields };
}

/** Whether a block holds anything of its own: first content in ‹ › is nothing. */
function hasContent(block: Block): boolean {
  return !isBlockType(block.type) || heldKeys(block).length > 0;
}

const heldKeys = ({ type, fields }: Block): string[] =>
  fieldsOf(type)
    .filter((field) => holds(field, fields[field.key]))
    .map(({ key }) => key);

function holds(field: FieldDefinition, value: unknown): boolean {
  switch (field.kind) {
    case 'choice':
      return false;
    case 'line':
    case 'paragraph':
      return typeof value === 'string' && isOwn(value);
    case 'rich':
      return value ? isOwn(plainTextOf(value as RichText)) : false;
    case 'button':
      return value
        ? isOwn((value as { label: string }).label) || (value as { target: unknown }).target !== null
        : false;
    case 'list':
      return ((value ?? []) as readonly FieldValues[]).some((item) =>
        field.fields.some((one) => holds(one, item[one.key])),
      );
    default:
      return value !== null && value !== undefined;
  }
}

const isOwn = (text: string) => text.replace(/‹[^›]*›/g, '').trim() !== '';

/** Whether a value of one field finds room in another: it is of the same kind, and nothing of it is too long or too much. */
function fits(own: FieldDefinition, target: FieldDefinition | undefined, value: unknown): boolean {
  if (target?.kind !== own.kind) return false;
  if (target.kind === 'line' || target.kind === 'paragraph') return (value as string).length <= target.max;
  if (target.kind === 'reference') return own.kind === 'reference' && own.of === target.of;
  if (target.kind !== 'list' || own.kind !== 'list') return true;
  const items = value as readonly FieldValues[];
  return (
    items.length <= target.max &&
    own.fields.every((inner) =>
      items.every(
        (item) =>
          !holds(inner, item[inner.key]) ||
          fits(
            inner,
            target.fields.find(({ key }) => key === inner.key),
            item[inner.key],
          ),
      ),
    )
  );
}

/** Whether everything a block holds finds a place in a block of another type: every field, and every field of every item. */
const isAllIn = (from: Block, type: BlockType): boolean =>
  blockTypes[from.type].fields.every(
    (own) =>
      !holds(own, from.fields[own.key]) ||
      fits(
        own,
        blockTypes[type].fields.find(({ key }) => key === own.key),
        from.fields[own.key],
      ),
  );

/** The fields of one type with what a block of another holds under the same key and kind; the rest as it was. */
function poured(from: Block, type: BlockType, fields: FieldValues): FieldValues {
  const own = blockTypes[from.type].fields;
  const entries = blockTypes[type].fields.flatMap((field) => {
    const same = own.find(({ key, kind }) => key === field.key && kind === field.kind);
    const value = same && from.fields[same.key];
    if (!same || !holds(same, value)) return [];
    if (field.kind !== 'list' || same.kind !== 'list')
      return fits(same, field, value) ? [[field.key, value] as const] : [];
    const items = (value as readonly FieldValues[]).slice(0, field.max).map((item): FieldValues =>
      Object.fromEntries(
        field.fields.map((inner) => {
          const twin = same.fields.find(({ key }) => key === inner.key);
          const held = twin && item[twin.key];
          return [inner.key, twin && held !== undefined && fits(twin, inner, held) ? held : blankValue(inner)];
        }),
      ),
    );
    while (items.length < field.min) items.push(blankValues(field.fields));
    return [[field.key, items] as const];
  });
  return { ...fields, ...Object.fromEntries(entries), ...appearanceIn(from.fields) } as FieldValues;
}
