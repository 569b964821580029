import { fieldsOf } from '../blocks/registry.js';
import type { PageId } from '../plan/index.js';
import type { Button, FieldDefinition, FieldValue, FieldValues, Reference, Referred } from '../fields/fields.js';
import type { PictureUse } from '../fields/picture-use.js';
import type { LinkTarget } from '../fields/link.js';
import {
  METADATA_TEXTS,
  type Block,
  type Metadata,
  type MetadataText,
  type PageDocument,
  type PageFrame,
  type PartChoice,
} from '../fields/types.js';
import type { RichBlock, RichInline, RichItem, RichText } from '../fields/rich-text.js';

/** What becomes of each part of a document; what is not given stays as it is. */
export interface DocumentMap {
  /** `null` takes the link away and leaves its words. */
  readonly link?: (target: LinkTarget) => LinkTarget | null;
  /** `null` takes the picture away. */
  readonly picture?: (use: PictureUse) => PictureUse | null;
  /** What is referred to beside pages; `null` takes the reference away. */
  readonly reference?: (of: Exclude<Referred, 'page'>, id: number) => number | null;
  /** A header, footer or band that the page chose; `null` gives the choice back to its site. */
  readonly part?: (id: number) => number | null;
  /** A stretch of text; `place` names it and stays the same as long as the document does. */
  readonly text?: (text: string, place: string) => string;
}

/** A document with its links, pictures and texts changed, and the same blocks otherwise. */
export function mapDocument(
  { metadata: { frame, canonical, ...metadata }, blocks }: PageDocument,
  map: DocumentMap,
): PageDocument {
  const named = canonical && map.link ? map.link(canonical) : canonical;
  const text = (value: string, place: string) => map.text?.(value, place) ?? value;
  return {
    metadata: {
      ...metadata,
      ...(Object.fromEntries(
        METADATA_TEXTS.flatMap((key) =>
          metadata[key] === undefined ? [] : [[key, text(metadata[key], `metadata.${key}`)]],
        ),
      ) as Pick<Metadata, MetadataText>),
      ...(named?.kind === 'page' || named?.kind === 'outside' ? { canonical: named } : {}),
      ...(frame ? mapFrame(frame, map) : {}),
    },
    blocks: blocks.map((block) => mapBlock(block, map)),
  };
}

/** A choice whose parts are all gone is given back to the site. */
function mapFrame({ header, footer, bands }: PageFrame, { part = (id) => id }: DocumentMap): { frame?: PageFrame } {
  const choice = (one: PartChoice) => (typeof one === 'number' ? part(one) : one);
  const kept = bands?.flatMap((id) => part(id) ?? []) ?? [];
  const frame = {
    header: choice(header),
    footer: choice(footer),
    bands: bands && (kept.length || !bands.length) ? kept : null,
  };
  return Object.values(frame).some((one) => one !== null) ? { frame } : {};
}

/** A block with its links, pictures and texts changed. */
export function mapBlock(block: Block, map: DocumentMap): Block {
  return { ...block, fields: mapValues(fieldsOf(block.type), block.fields, map, block.id) };
}

function mapValues(
  fields: readonly FieldDefinition[],
  values: FieldValues,
  map: DocumentMap,
  place: string,
): FieldValues {
  return Object.fromEntries(
    Object.entries(values).map(([key, value]) => {
      const field = fields.find((one) => one.key === key);
      return [key, field ? mapValue(field, value, map, `${place}.${key}`) : value];
    }),
  );
}

function mapValue(field: FieldDefinition, value: FieldValue, map: DocumentMap, place: string): FieldValue {
  switch (field.kind) {
    case 'line':
    case 'paragraph':
      return map.text?.(value as string, place) ?? value;
    case 'rich':
      return mapRichText(value as RichText, map, place);
    case 'picture':
      return value && mapPicture(value as PictureUse, map, place);
    case 'button': {
      const button = value as Button | null;
      if (!button) return button;
      const target = button.target && (map.link ? map.link(button.target) : button.target);
      return { ...button, label: map.text?.(button.label, `${place}.label`) ?? button.label, target };
    }
    case 'reference': {
      const reference = value as Reference | null;
      if (!reference) return reference;
      if (field.of !== 'page') {
        const id = map.reference ? map.reference(field.of, reference.id) : reference.id;
        return id === null ? null : { id };
      }
      const target = map.link?.({ kind: 'page', pageId: reference.id as PageId });
      return target === undefined ? reference : target?.kind === 'page' ? { id: target.pageId } : null;
    }
    case 'choice':
    case 'moment':
      return value;
    case 'list':
      return (value as readonly FieldValues[]).map((item, index) =>
        mapValues(field.fields, item, map, `${place}[${index}]`),
      );
  }
}

function mapPicture(use: PictureUse, map: DocumentMap, place: string): PictureUse | null {
  const mapped = map.picture ? map.picture(use) : use;
  return mapped && map.text ? { ...mapped, description: map.text(mapped.description, `${place}.description`) } : mapped;
}

function mapRichText(rich: RichText, map: DocumentMap, place: string): RichText {
  let count = 0;
  const inline = (node: RichInline): RichInline[] => {
    if (node.type === 'picture') {
      const use = mapPicture(node.attrs, map, `${place}#${count++}`);
      return use ? [{ ...node, attrs: use }] : [];
    }
    if (node.type !== 'text') return [node];
    const text = map.text?.(node.text, `${place}#${count++}`) ?? node.text;
    const { marks } = node;
    if (!marks) return [{ ...node, text }];
    const kept = marks.flatMap((mark) => {
      if (mark.type !== 'link' || !map.link) return [mark];
      const target = map.link(mark.attrs.target);
      return target ? [{ type: 'link' as const, attrs: { target } }] : [];
    });
    return [{ type: 'text', text, ...(kept.length ? { marks: kept } : {}) }];
  };
  const block = (node: RichBlock): RichBlock => {
    if (node.type === 'paragraph' || node.type === 'heading')
      return node.content ? { ...node, content: node.content.flatMap(inline) } : node;
    if (node.type === 'blockquote') return { ...node, content: node.content.map(block) };
    return { ...node, content: node.content.map((item): RichItem => ({ ...item, content: item.content.map(block) })) };
  };
  return { ...rich, content: rich.content.map(block) };
}
