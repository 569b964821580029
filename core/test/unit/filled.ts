import { blockTypes, type BlockType } from '../../src/blocks/index.js';
import { richTextFromJSON, type Block, type FieldDefinition, type FieldValues } from '../../src/document/index.js';

/** A formatted text with all that one can have. */
const EVERYTHING = {
  type: 'doc',
  content: [
    { type: 'heading', attrs: { level: 2, align: 'centre' }, content: [{ type: 'text', text: 'Head' }] },
    {
      type: 'paragraph',
      attrs: { align: 'end' },
      content: [
        { type: 'text', text: 'Words' },
        { type: 'text', text: '2', marks: [{ type: 'superscript' }] },
        { type: 'picture', attrs: { pictureId: 2, description: 'A mark', isDecorative: false } },
        { type: 'text', text: 'n', marks: [{ type: 'subscript' }] },
      ],
    },
    {
      type: 'blockquote',
      content: [
        { type: 'paragraph', content: [{ type: 'text', text: 'Said' }] },
        {
          type: 'bulletList',
          content: [{ type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'so' }] }] }],
        },
      ],
    },
  ],
};

const filled = (fields: readonly FieldDefinition[]): FieldValues =>
  Object.fromEntries(
    fields.map((field) => {
      switch (field.kind) {
        case 'choice':
          return [field.key, field.options[0]?.value ?? ''];
        case 'picture':
          return [field.key, { pictureId: 1, description: 'A boat', isDecorative: false }];
        case 'reference':
          return [field.key, field.of === 'file' ? null : { id: 1 }];
        case 'moment':
          return [field.key, { at: 1_800_000_000_000, zone: 'Europe/Oslo' }];
        case 'button':
          return [field.key, { label: 'Go on', target: { kind: 'page', pageId: 1 } }];
        case 'rich':
          return [field.key, richTextFromJSON(EVERYTHING, '', [])];
        case 'list':
          return [field.key, Array.from({ length: Math.max(2, field.min) }, () => filled(field.fields))];
        default:
          return [field.key, `${field.label} here`];
      }
    }),
  ) as FieldValues;
/** A block of a type in every layout it has, with something in every field. */
export function filledBlocks(type: BlockType): Block[] {
  const fields = filled(blockTypes[type].fields);
  const choices = blockTypes[type].fields.flatMap((field) =>
    field.kind === 'choice' ? field.options.map(({ value }) => ({ ...fields, [field.key]: value })) : [],
  );
  const standing = {
    ...{ ground: 'picture', groundPicture: { pictureId: 1, description: '', isDecorative: true } },
    ...{ roomAbove: 'none', reach: 'wide', aligned: 'centre', beside: 'row', share: '2' },
    ...{ anchor: 'Here it is', language: 'he' },
  } as unknown as FieldValues;
  return [...(choices.length ? choices : [fields]), { ...fields, ...standing }].map((some) => ({
    id: 'block1',
    type,
    fields: some,
  }));
}
