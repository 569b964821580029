import { isBlockType, type BlockType } from '../fields/names.js';
import { APPEARANCE, withoutUsual } from '../blocks/appearance.js';
import { LANGUAGES } from '../blocks/languages.js';
import { blockTypes, fieldsOf } from '../blocks/registry.js';
import { upgradedFields, versionMark, versionOf } from './complete.js';
import type { PageId, PictureId } from '../plan/index.js';
import {
  blankValues,
  valuesFromJSON,
  type Button,
  type FieldDefinition,
  type FieldValue,
  type FieldValues,
  type Reference,
} from '../fields/fields.js';
import type { Moment } from '../fields/moment.js';
import { pageFrameFromJSON } from '../fields/page-frame.js';
import { canonicalFromJSON } from '../fields/canonical.js';
import { factsFromJSON } from '../fields/facts.js';
import { phrasesFromJSON } from '../fields/phrases.js';
import { headElementsFromJSON } from '../fields/head-elements.js';
import { robotsFromJSON } from '../fields/robots.js';
import type { PictureUse } from '../fields/picture-use.js';
import { BLOCK_ID, typedOf, type LinkTarget } from '../fields/link.js';
import { wrong } from '../words/faults.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import type { Block, PageDocument } from '../fields/types.js';
import { plainTextOf, richTextLinks, richTextPictures, type RichText } from '../fields/rich-text.js';

export const MAX_BLOCKS = 500;
export const MAX_TITLE = 200;
export const MAX_DESCRIPTION = 500;
export const MAX_CSS = 50_000;
export const EMPTY_DOCUMENT: PageDocument = { metadata: { title: '', description: '' }, blocks: [] };

/** A new block of a type with the values it starts with. */
export function newBlock(type: BlockType, id: string, fields: FieldValues = {}): Block {
  return { id, type, ...versionMark(type), fields: { ...blankValues(blockTypes[type].fields), ...fields } };
}

/** A new block as it is put on a page by hand: with a first content that asks to be replaced. */
export function exampleBlock(type: BlockType, id: string): Block {
  return newBlock(type, id, blockTypes[type].example as FieldValues | undefined);
}

/** A document from JSON; every fault names its place. */
export function documentFromJSON(json: unknown): Result<PageDocument> {
  const faults: Fault[] = [];
  if (!isRecord(json) || !isRecord(json['metadata']) || !Array.isArray(json['blocks']))
    return { ok: false, faults: [{ path: 'document', ...wrong('page-unreadable') }] };
  const { title, description, sharePictureId, iconPictureId, language, css, frame, titleAlone } = json['metadata'];
  const isLanguage = typeof language === 'string' && Object.hasOwn(LANGUAGES, language);
  if (language !== undefined && !isLanguage) faults.push({ path: 'metadata.language', ...wrong('language-invalid') });
  const framed = frame === undefined || frame === null ? null : pageFrameFromJSON(frame);
  if (framed && !framed.ok)
    faults.push(...framed.faults.map((fault) => ({ ...fault, path: `metadata.frame.${fault.path}` })));
  const { robots, elements, canonical, phrases, facts } = json['metadata'];
  const asked = {
    robots: robotsFromJSON(robots),
    elements: headElementsFromJSON(elements ?? []),
    canonical: canonicalFromJSON(canonical),
    phrases: phrasesFromJSON(phrases),
    facts: factsFromJSON(facts),
  };
  for (const [key, read] of Object.entries(asked))
    if (!read.ok)
      faults.push(...read.faults.map((fault) => ({ ...fault, path: below(`metadata.${key}`, fault.path) })));
  const shareText = (key: 'shareTitle' | 'shareDescription', most: number) => {
    const value = (json['metadata'] as Record<string, unknown>)[key];
    return value === undefined || value === '' ? {} : { [key]: textFromJSON(value, `metadata.${key}`, most, faults) };
  };
  const metadata = {
    title: textFromJSON(title, 'metadata.title', MAX_TITLE, faults),
    description: textFromJSON(description, 'metadata.description', MAX_DESCRIPTION, faults),
    ...shareText('shareTitle', MAX_TITLE),
    ...shareText('shareDescription', MAX_DESCRIPTION),
    ...(titleAlone === true ? { titleAlone: true as const } : {}),
    ...(asked.robots.ok && asked.robots.value ? { robots: asked.robots.value } : {}),
    ...(asked.elements.ok && asked.elements.value.length ? { elements: asked.elements.value } : {}),
    ...(asked.facts.ok && asked.facts.value.length ? { facts: asked.facts.value } : {}),
    ...(asked.phrases.ok && asked.phrases.value.length ? { phrases: asked.phrases.value } : {}),
    ...(asked.canonical.ok && asked.canonical.value ? { canonical: asked.canonical.value } : {}),
    ...(Number.isSafeInteger(sharePictureId) ? { sharePictureId: sharePictureId as PictureId } : {}),
    ...(Number.isSafeInteger(iconPictureId) ? { iconPictureId: iconPictureId as PictureId } : {}),
    ...(isLanguage ? { language } : {}),
    ...(css === undefined || css === '' ? {} : { css: textFromJSON(css, 'metadata.css', MAX_CSS, faults) }),
    ...(framed?.ok ? { frame: framed.value } : {}),
  };
  if (json['blocks'].length > MAX_BLOCKS)
    faults.push({ path: 'blocks', ...wrong('too-many-blocks', { most: MAX_BLOCKS }) });
  if (Array.isArray(json['tray']) && json['tray'].length > MAX_BLOCKS)
    faults.push({ path: 'tray', ...wrong('tray-full', { most: MAX_BLOCKS }) });
  const seen = new Set<string>();
  const blocks = blocksFromJSON(json['blocks'], 'blocks', seen, faults);
  const tray = Array.isArray(json['tray']) ? blocksFromJSON(json['tray'], 'tray', seen, faults) : [];
  if (faults.length) return { ok: false, faults };
  return { ok: true, value: { metadata, blocks, ...(tray.length ? { tray } : {}) } };
}

/** The path of something within what has a path. */
const below = (path: string, within: string) => path + (!within || within.startsWith('[') ? within : `.${within}`);

function blocksFromJSON(json: readonly unknown[], place: string, seen: Set<string>, faults: Fault[]): Block[] {
  return json.slice(0, MAX_BLOCKS).flatMap((block: unknown, index): Block[] => {
    const path = `${place}[${index}]`;
    const id = isRecord(block) ? block['id'] : undefined;
    const type = isRecord(block) ? block['type'] : undefined;
    if (!isRecord(block) || typeof id !== 'string' || !BLOCK_ID.test(id) || seen.has(id) || !isBlockType(type)) {
      faults.push({ path, ...wrong('block-unreadable') });
      return [];
    }
    const version = block['version'] ?? 1;
    if (!Number.isSafeInteger(version) || (version as number) < 1 || (version as number) > versionOf(type)) {
      faults.push({ path, ...wrong('block-newer') });
      return [];
    }
    seen.add(id);
    const fields = isRecord(block['fields'])
      ? upgradedFields(type, block['fields'] as FieldValues, version as number)
      : block['fields'];
    return [
      {
        id,
        type,
        ...versionMark(type),
        fields: withoutUsual(valuesFromJSON(fieldsOf(type), fields, `${path}.fields`, faults)),
      },
    ];
  });
}

function textFromJSON(value: unknown, path: string, max: number, faults: Fault[]): string {
  if (typeof value !== 'string') {
    faults.push({ path, ...wrong('not-text') });
    return '';
  }
  if (value.length > max) faults.push({ path, ...wrong('text-too-long', { length: value.length, most: max }) });
  return value;
}

/** A value in a document with the block and field it stands in. */
export interface Placed<T> {
  readonly blockId: string;
  readonly field: string;
  readonly label: string;
  readonly value: T;
  /** It names what it leads to, and is left out where that is not there: a page in a list of pages. */
  readonly isListed?: boolean;
  /** It is code, in which braces are braces. */
  readonly isCode?: boolean;
  /** It stands behind a block. */
  readonly isGround?: boolean;
}

const isGround = (field: FieldDefinition) => field.kind === 'picture' && field.isGround === true;

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
  for (const block of blocks) {
    walk(block.id, blockTypes[block.type].fields, block.fields, '', '');
    if (block.fields['ground'] === 'picture' || block.fields['groundPicture'])
      walk(block.id, APPEARANCE.filter(isGround), block.fields, '', '');
  }
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
    if (field.kind === 'reference' && field.of === 'page' && value)
      links.push({ ...at, isListed: true, value: { kind: 'page', pageId: (value as Reference).id as PageId } });
  });
  return links;
}

/** The pages a document refers to, each once; one that stands for it in searches too. */
export function pageReferencesOf(document: PageDocument): PageId[] {
  const { canonical } = document.metadata;
  const targets = [...linksOf(document).map(({ value }) => value), ...(canonical ? [canonical] : [])];
  return [...new Set(targets.flatMap((value) => (value.kind === 'page' ? [value.pageId] : [])))];
}

/** The pages whose titles a document shows: those in lists of pages. */
export function listedPagesOf(document: PageDocument): PageId[] {
  return [
    ...new Set(
      linksOf(document).flatMap(({ value, isListed }) => (isListed && value.kind === 'page' ? [value.pageId] : [])),
    ),
  ];
}

/** What a document refers to beside pages and pictures: pieces, or files (as the content of a block, or by a link). */
export function referencesOf(document: PageDocument, of: 'piece' | 'file'): number[] {
  const found = new Set<number>();
  visit(document.blocks, (field, value) => {
    if (field.kind === 'reference' && field.of === of && value) found.add((value as Reference).id);
  });
  if (of === 'file') for (const { value } of linksOf(document)) if (value.kind === 'file') found.add(value.fileId);
  return [...found];
}

/** The pieces a document links, each with the block it stands in. */
export function piecesOf(document: PageDocument): Placed<number>[] {
  const found: Placed<number>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'reference' && field.of === 'piece' && value)
      found.push({ ...at, value: (value as Reference).id });
  });
  return found;
}

/** The moments a document counts to, each once. */
export function momentsOf(document: PageDocument): number[] {
  const found = new Set<number>();
  visit(document.blocks, (field, value) => {
    if (field.kind === 'moment' && value) found.add((value as Moment).at);
  });
  return [...found];
}

/** The path of the picture field that a picture dropped on a block fills: the first without one, else the first; `null` where it has none. */
export function pictureFieldOf(block: Block): string | null {
  const fields: Placed<PictureUse | null>[] = [];
  visit([block], (field, value, at) => {
    if (field.kind === 'picture' && !field.isGround) fields.push({ ...at, value: value as PictureUse | null });
  });
  return (fields.find(({ value }) => !value) ?? fields[0])?.field ?? null;
}

/** Every picture of a document, in reading order. */
export function picturesOf(document: PageDocument): Placed<PictureUse>[] {
  const pictures: Placed<PictureUse>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'rich')
      for (const use of richTextPictures(value as RichText)) pictures.push({ ...at, value: use });
    if (field.kind === 'picture' && value)
      pictures.push({ ...at, value: value as PictureUse, ...(field.isGround ? { isGround: true } : {}) });
  });
  return pictures;
}

/** Every button that has words, with or without a place to lead to. */
export function buttonsOf(document: PageDocument): Placed<Button>[] {
  const buttons: Placed<Button>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'button' && value && (value as Button).label.trim())
      buttons.push({ ...at, value: value as Button });
  });
  return buttons;
}

/** The picture fields of a document that hold none. */
export function emptyPicturesOf(document: PageDocument): Placed<null>[] {
  const empty: Placed<null>[] = [];
  visit(document.blocks, (field, value, at) => {
    if (field.kind === 'picture' && !value)
      empty.push({ ...at, value: null, ...(field.isGround ? { isGround: true } : {}) });
  });
  return empty;
}

/** Every text of a document outside its metadata, in reading order; formatted ones as plain words. */
export function textsOf(document: PageDocument): Placed<string>[] {
  const texts: Placed<string>[] = [];
  visit(document.blocks, (field, value, at) => {
    // A name that is no text is not read by anybody.
    if (field.kind === 'paragraph' || (field.kind === 'line' && !field.isCode))
      texts.push({ ...at, value: value as string, ...(field.isCode ? { isCode: true } : {}) });
    if (field.kind === 'rich') texts.push({ ...at, value: plainTextOf(value as RichText) });
    if (field.kind === 'button' && value) texts.push({ ...at, value: (value as Button).label });
  });
  return texts.filter(({ value }) => value !== '');
}

/** Everything in the blocks of a document in which names between { } are filled in: texts, descriptions of pictures, links that were typed. */
export function filledTextsOf(document: PageDocument): Placed<string>[] {
  return [
    ...textsOf(document),
    ...picturesOf(document).map((one) => ({ ...one, value: one.value.description })),
    ...linksOf(document).flatMap((one) => {
      const typed = typedOf(one.value);
      return typed === null ? [] : [{ ...one, value: typed }];
    }),
  ];
}
