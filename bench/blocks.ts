import { OFFERED_TYPES, blockTypes } from '@domatium/core/blocks';
import { newBlock, type Block, type FieldDefinition, type FieldValues } from '@domatium/core/document';

let made = 0;
export const blockId = () => `bench${(made++).toString().padStart(6, '0')}`;
/** Fields with words in all of them, and the one picture there is. */
const filled = (fields: readonly FieldDefinition[], pictureId: number): FieldValues =>
  Object.fromEntries(
    fields.map((field) => {
      switch (field.kind) {
        case 'choice':
          return [field.key, field.options[0]?.value ?? ''];
        case 'picture':
          return [field.key, pictureId ? { pictureId, description: 'The night boat', isDecorative: false } : null];
        case 'button':
          return [field.key, { label: 'Go on board', target: { kind: 'phone', number: '+4775120031' } }];
        case 'rich':
          return [
            field.key,
            {
              type: 'doc',
              content: [
                {
                  type: 'paragraph',
                  content: [
                    {
                      type: 'text',
                      text: 'The engine hums, the stars turn, and nobody can reach you until the morning.',
                    },
                  ],
                },
              ],
            },
          ];
        case 'list':
          return [field.key, Array.from({ length: Math.max(3, field.min) }, () => filled(field.fields, pictureId))];
        case 'reference':
        case 'moment':
          return [field.key, null];
        default:
          return [field.key, field.isCode ? '' : `${field.label} of the crossing`.slice(0, field.max)];
      }
    }),
  ) as FieldValues;
const ORDINARY = OFFERED_TYPES.filter(
  (type) => !['piece', 'pageList', 'ownHtml', 'frame', 'opening', 'countdown'].includes(type),
);
/** Blocks of all ordinary types in turn. */
export const blockOf = (n: number): Block => {
  const type = ORDINARY[n % ORDINARY.length] as Block['type'];
  return newBlock(type, blockId(), filled(blockTypes[type].fields, 0));
};
export const opening = () => newBlock('opening', blockId(), { heading: 'Night boats', text: 'They leave at nine.' });
