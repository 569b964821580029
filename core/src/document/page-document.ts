import { blockTypes, isBlockType, type BlockType } from '../blocks/registry.js';
import type { PageId } from '../plan/index.js';
import {
  blankValues,
  valuesFromJSON,
  type Button,
  type FieldDefinition,
  type FieldValue,
  type FieldValues,
  type PictureUse,
} from './fields.js';
import type { LinkTarget } from './link.js';
import { isRecord, type Fault, type Result } from './result.js';
import { plainTextOf, richTextLinks, type RichText } from './rich-text.js';

/** One block of a page. `id` is made by whoever adds it and never changes. */
export interface Block {
  readonly id: string;
  readonly type: BlockType;
  readonly fields: FieldValues;
}

export interface Metadata {
  readonly title: string;
  readonly description: string;
}

/** A page's content. Immutable; it changes through `applyEdit`. */
export interface PageDocument {
  readonly metadata: Metadata;
  readonly blocks: readonly Block[];
}

export const MAX_BLOCKS = 500;
export const MAX_TITLE = 200;
export const MAX_DESCRIPTION = 500;
export const EMPTY_DOCUMENT: PageDocument = { metadata: { title: '', description: '' }, blocks: [] };

/** A new block of a type with the values it starts with. */
export function newBlock(type: BlockType, id: string, fields: FieldValues = {}): Block {
  return { id, type, fields: { ...blankValues(blockTypes[type].fields), ...fields } };
}

/** A new block as it is put on a page by hand: with a first content that asks to be replaced. */
export function exampleBlock(type: BlockType, id: string): Block {
  return newBlock(type, id, blockTypes[type].example as FieldValues | undefined);
}

/** A document from JSON; every fault names its place. */
export function documentFromJSON(json: unknown): Result<PageDocument> {
  const faults: Fault[] = [];
  if (!isRecord(json) || !isRecord(json['metadata']) || !Array.isArray(json['blocks']))
    return { ok: false, faults: [{ path: 'document', message: 'This page can’t be read.' }] };
  const metadata = {
    title: textFromJSON(json['metadata']['title'], 'metadata.title', MAX_TITLE, faults),
    description: textFromJSON(json['metadata']['description'], 'metadata.description', MAX_DESCRIPTION, faults),
  };
  if (json['blocks'].length > MAX_BLOCKS)
    faults.push({ path: 'blocks', message: `A page has at most ${MAX_BLOCKS} blocks.` });
  const seen = new Set<string>();
  const blocks = json['blocks'].slice(0, MAX_BLOCKS).flatMap((block: unknown, index): Block[] => {
    const path = `blocks[${index}]`;
    const id = isRecord(block) ? block['id'] : undefined;
    const type = isRecord(block) ? block['type'] : undefined;
    if (
      !isRecord(block) ||
      typeof id !== 'string' ||
      !/^[a-z0-9]{4,24}$/.test(id) ||
      seen.has(id) ||
      !isBlockType(type)
    ) {
      faults.push({ path, message: 'This block can’t be read.' });
      return [];
    }
    seen.add(id);
    return [{ id, type, fields: valuesFromJSON(blockTypes[type].fields, block['fields'], `${path}.fields`, faults) }];
  });
  return faults.length ? { ok: false, faults } : { ok: true, value: { metadata, blocks } };
}

function textFromJSON(value: unknown, path: string, max: number, faults: Fault[]): string {
  if (typeof value !== 'string') {
    faults.push({ path, message: 'This must be a text.' });
    return '';
  }
  if (value.length > max)
    faults.push({ path, message: `${value.length.toLocaleString('en')} characters; at most ${max}.` });
  return value;
}

/** A value in a document with the block and field it stands in. */
export interface Placed<T> {
  readonly blockId: string;
  readonly field: string;
  readonly label: string;
  readonly value: T;
}

function visit(
  blocks: readonly Block[],
  see: (field: FieldDefinition, value: FieldValue, at: Omit<Placed<never>, 'value'>) => void,
): void {
  const walk = (
    blockId: string,
    fields: readonly FieldDefinition[],
    values: FieldValues,
    path: string,
    above: string,
  ): void => {
    for (const field of fields) {
      const value = values[field.key] ?? null;
      const label = above + field.label;
      if (field.kind === 'list' && Array.isArray(value))
        (value as readonly FieldValues[]).forEach((item, index) =>
          walk(blockId, field.fields, item, `${path}${field.key}[${index}].`, `${field.itemLabel} ${index + 1}: `),
        );
      else see(field, value, { blockId, field: path + field.key, label });
    }
  };
  for (const block of blocks) walk(block.id, blockTypes[block.type].fields, block.fields, '', '');
}

/** Every link of a document, in reading order. Buttons that lead nowhere yet are left out. */
export function linksOf(document: PageDocument): Placed<LinkTarget>[] {
  const links: Placed<LinkTarget>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'button' && value) {
      const { target } = value as Button;
      if (target) links.push({ ...at, value: target });
    }
    if (field.kind === 'rich')
      for (const target of richTextLinks(value as RichText)) links.push({ ...at, value: target });
  });
  return links;
}

/** The pages a document refers to, each once. */
export function pageReferencesOf(document: PageDocument): PageId[] {
  return [...new Set(linksOf(document).flatMap(({ value }) => (value.kind === 'page' ? [value.pageId] : [])))];
}

/** Every picture of a document, in reading order. */
export function picturesOf(document: PageDocument): Placed<PictureUse>[] {
  const pictures: Placed<PictureUse>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'picture' && value) pictures.push({ ...at, value: value as PictureUse });
  });
  return pictures;
}

/** Every text of a document outside its metadata, in reading order; formatted ones as plain words. */
export function textsOf(document: PageDocument): Placed<string>[] {
  const texts: Placed<string>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'line' || field.kind === 'paragraph') texts.push({ ...at, value: value as string });
    if (field.kind === 'rich') texts.push({ ...at, value: plainTextOf(value as RichText) });
    if (field.kind === 'button' && value) texts.push({ ...at, value: (value as Button).label });
  });
  return texts.filter(({ value }) => value !== '');
}
