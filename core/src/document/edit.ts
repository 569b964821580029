import { isAppearance, isUsual } from '../blocks/appearance.js';
import type { FieldValue, FieldValues } from '../fields/fields.js';
import type { Canonical } from '../fields/canonical.js';
import type { PictureId } from '../plan/index.js';
import type {
  Block,
  Fact,
  HeadElement,
  Metadata,
  MetadataText,
  PageDocument,
  PageFrame,
  Robots,
} from '../fields/types.js';

/** One change of a document. `field` is a path such as `heading` or `items[2].title`. */
export type Edit =
  | { readonly kind: 'insert'; readonly at: number; readonly block: Block }
  | { readonly kind: 'remove'; readonly blockId: string }
  | { readonly kind: 'move'; readonly blockId: string; readonly to: number }
  | { readonly kind: 'set'; readonly blockId: string; readonly field: string; readonly value: FieldValue }
  | { readonly kind: 'metadata'; readonly key: MetadataText; readonly value: string }
  /** Everything anew: a state restored, another start taken. */
  | { readonly kind: 'whole'; readonly document: PageDocument }
  /** What a page may have beside: `null` where it has none. */
  | { readonly kind: 'css' | 'language'; readonly value: string | null }
  | { readonly kind: 'face'; readonly key: 'sharePictureId' | 'iconPictureId'; readonly value: PictureId | null }
  /** What it asks of search engines: `null` for what is said further up. */
  | { readonly kind: 'robots'; readonly value: Robots | null }
  /** Which page search engines are to show instead: `null` for itself. */
  | { readonly kind: 'canonical'; readonly value: Canonical | null }
  /** Its title without what is said to stand before and after titles: `null` for with it. */
  | { readonly kind: 'titleAlone'; readonly value: true | null }
  /** What people are to find it by: `null` for nothing. */
  | { readonly kind: 'phrases'; readonly value: readonly string[] | null }
  /** What it is about: `null` for nothing. */
  | { readonly kind: 'facts'; readonly value: readonly Fact[] | null }
  /** Further elements of its head: `null` for none. */
  | { readonly kind: 'elements'; readonly value: readonly HeadElement[] | null }
  /** What stands around the page: `null` for what is said of its site. */
  | { readonly kind: 'frame'; readonly value: PageFrame | null }
  /** Several in their order, all of them or none: one step to undo. */
  | { readonly kind: 'several'; readonly edits: readonly Edit[] };

export interface Edited {
  readonly document: PageDocument;
  /** The edit that undoes this one. */
  readonly inverse: Edit;
}

/** The document after an edit, with the inverse; `null` where the edit's block or field is not there (any more). */
export function applyEdit(document: PageDocument, edit: Edit): Edited | null {
  const { blocks } = document;
  const withBlocks = (next: readonly Block[], inverse: Edit): Edited => ({
    document: { ...document, blocks: next },
    inverse,
  });
  switch (edit.kind) {
    case 'insert': {
      if (blocks.some(({ id }) => id === edit.block.id)) return null;
      const at = Math.max(0, Math.min(edit.at, blocks.length));
      return withBlocks(blocks.toSpliced(at, 0, edit.block), { kind: 'remove', blockId: edit.block.id });
    }
    case 'remove': {
      const at = blocks.findIndex(({ id }) => id === edit.blockId);
      const block = blocks[at];
      return block ? withBlocks(blocks.toSpliced(at, 1), { kind: 'insert', at, block }) : null;
    }
    case 'move': {
      const from = blocks.findIndex(({ id }) => id === edit.blockId);
      const block = blocks[from];
      if (!block) return null;
      const to = Math.max(0, Math.min(edit.to, blocks.length - 1));
      return withBlocks(blocks.toSpliced(from, 1).toSpliced(to, 0, block), {
        kind: 'move',
        blockId: edit.blockId,
        to: from,
      });
    }
    case 'set': {
      const at = blocks.findIndex(({ id }) => id === edit.blockId);
      const block = blocks[at];
      const steps = fieldSteps(edit.field);
      const held = block && readField(block.fields, steps);
      const old = held === undefined && isAppearance(edit.field) ? null : held;
      if (!block || old === undefined) return null;
      const fields = isUsual(edit.field, edit.value)
        ? without(block.fields, edit.field)
        : (writeField(block.fields, steps, edit.value) as FieldValues);
      return withBlocks(blocks.with(at, { ...block, fields }), { ...edit, value: old });
    }
    case 'several': {
      let now = document;
      const inverses: Edit[] = [];
      for (const one of edit.edits) {
        const edited = applyEdit(now, one);
        if (!edited) return null;
        now = edited.document;
        inverses.unshift(edited.inverse);
      }
      return { document: now, inverse: { kind: 'several', edits: inverses } };
    }
    case 'whole':
      return { document: edit.document, inverse: { kind: 'whole', document } };
    case 'css':
    case 'language':
      return withMetadata(document, edit.kind, edit.value || null, {
        kind: edit.kind,
        value: document.metadata[edit.kind] ?? null,
      });
    case 'face':
      return withMetadata(document, edit.key, edit.value, { ...edit, value: document.metadata[edit.key] ?? null });
    case 'frame':
      return withMetadata(document, 'frame', edit.value, { ...edit, value: document.metadata.frame ?? null });
    case 'robots':
      return withMetadata(document, 'robots', edit.value, { ...edit, value: document.metadata.robots ?? null });
    case 'canonical':
      return withMetadata(document, 'canonical', edit.value, {
        ...edit,
        value: document.metadata.canonical ?? null,
      });
    case 'titleAlone':
      return withMetadata(document, 'titleAlone', edit.value, {
        ...edit,
        value: document.metadata.titleAlone ?? null,
      });
    case 'phrases':
      return withMetadata(document, 'phrases', edit.value?.length ? edit.value : null, {
        ...edit,
        value: document.metadata.phrases ?? null,
      });
    case 'elements':
      return withMetadata(document, 'elements', edit.value?.length ? edit.value : null, {
        ...edit,
        value: document.metadata.elements ?? null,
      });
    case 'facts':
      return withMetadata(document, 'facts', edit.value?.length ? edit.value : null, {
        ...edit,
        value: document.metadata.facts ?? null,
      });
    case 'metadata': {
      const inverse: Edit = { ...edit, value: document.metadata[edit.key] ?? '' };
      // Only a title and a description are there without a word.
      const isKept = edit.value || edit.key === 'title' || edit.key === 'description';
      return withMetadata(document, edit.key, isKept ? edit.value : null, inverse);
    }
  }
}

function withMetadata<Key extends keyof Metadata>(
  document: PageDocument,
  key: Key,
  value: Metadata[Key] | null,
  inverse: Edit,
): Edited {
  const { [key]: _, ...rest } = document.metadata;
  const metadata = (value === null ? rest : { ...rest, [key]: value }) as Metadata;
  return { document: { ...document, metadata }, inverse };
}

const without = (fields: FieldValues, key: string): FieldValues =>
  Object.fromEntries(Object.entries(fields).filter(([one]) => one !== key));

function fieldSteps(field: string): (string | number)[] {
  return (field.match(/[A-Za-z]+|\d+/g) ?? []).map((step) => (/^\d/.test(step) ? Number(step) : step));
}

/** The value at a field path of a block, `undefined` where there is none. */
export function fieldAt(block: Block, field: string): FieldValue | undefined {
  return readField(block.fields, fieldSteps(field));
}

function readField(values: unknown, steps: readonly (string | number)[]): FieldValue | undefined {
  let value: unknown = values;
  for (const step of steps) {
    if (typeof value !== 'object' || value === null || !Object.hasOwn(value, step)) return undefined;
    value = (value as Record<string | number, unknown>)[step];
  }
  return value as FieldValue;
}

function writeField(values: unknown, steps: readonly (string | number)[], value: FieldValue): unknown {
  const [step, ...rest] = steps;
  if (step === undefined) return value;
  if (Array.isArray(values)) return values.with(Number(step), writeField(values[Number(step)], rest, value));
  const record = values as Record<string, unknown>;
  return { ...record, [step]: writeField(record[String(step)], rest, value) };
}
