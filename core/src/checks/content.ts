import { buttonsOf, emptyPicturesOf, linksOf, picturesOf, textsOf, type Block } from '../document/index.js';
import type { FieldValues } from '../fields/fields.js';
import { FIRST_CONTENT } from '../text/index.js';
import { found, type CheckInput, type DocumentCheck, type Finding } from './finding.js';

/** Blocks that are nothing without their picture. */
const OF_PICTURES = new Set<Block['type']>(['picture', 'gallery', 'logos']);
/** What a file is called says nothing of what is on it: "tiny.gif", "IMG_2041", "DSC 0007". */
const FILE_NAME = /\.(?:jpe?g|png|gif|webp|avif|svg|tiff?|heic)$|^(?:img|dsc|dscn|image|picture|photo|scan)[-_ ]?\d+$/i;
const LONG_HEADING = 120;
/** Below this capitals are a name or a sign. */
const SHOUTED = 40;

/** What visitors would miss, or meet as broken: buttons, pictures, links and headings that are there and say nothing. */
export const content: DocumentCheck = ({ document }) => {
  const typeOf = (blockId: string) => document.blocks.find(({ id }) => id === blockId);
  const ids = new Set(document.blocks.map(({ id }) => id));
  return [
    ...buttonsOf(document).flatMap(({ value, blockId, field }) => {
      const block = typeOf(blockId);
      // A form without a place to send to is judged as a form; first content is judged as that.
      const isOther = block?.fields['asks'] === 'email' || block?.fields['file'] || FIRST_CONTENT.test(value.label);
      return value.target || isOther
        ? []
        : [found('content', 'worth-fixing', 'button-nowhere', { label: value.label }, { blockId, field })];
    }),
    ...emptyPicturesOf(document).flatMap(({ blockId, field, label, isGround }) =>
      isGround || OF_PICTURES.has(typeOf(blockId)?.type ?? 'text')
        ? [found('content', 'worth-fixing', 'picture-missing', { label }, { blockId, field })]
        : [],
    ),
    ...picturesOf(document).flatMap(({ value: { description, isDecorative }, blockId, field, label }) =>
      !isDecorative && FILE_NAME.test(description.trim())
        ? [
            found(
              'content',
              'worth-fixing',
              'picture-file-name',
              { label, text: description.trim() },
              { blockId, field },
            ),
          ]
        : [],
    ),
    ...linksOf(document).flatMap(({ value, blockId, field }) =>
      value.kind === 'block' && !ids.has(value.blockId)
        ? [found('content', 'worth-fixing', 'place-missing', {}, { blockId, field })]
        : [],
    ),
    ...textsOf(document).flatMap(({ value, blockId, field, label }) =>
      /(^|\.)heading$/.test(field) ? headingFindings(value, label, { blockId, field }) : [],
    ),
    ...document.blocks.flatMap((block) => [...peopleFindings(block), ...contactFindings(block)]),
  ];
};

function headingFindings(value: string, label: string, place: Finding['place']): Finding[] {
  const letters = value.replace(/[^\p{L}]/gu, '');
  if (
    value.length >= SHOUTED &&
    letters.length > 20 &&
    letters === letters.toUpperCase() &&
    letters !== letters.toLowerCase()
  )
    return [found('content', 'worth-fixing', 'heading-shouted', { label }, place)];
  return value.length > LONG_HEADING
    ? [found('content', 'worth-fixing', 'heading-long', { label, length: value.length }, place)]
    : [];
}

function peopleFindings({ id, type, fields }: Block): Finding[] {
  if (type !== 'people') return [];
  return (fields['items'] as readonly FieldValues[]).flatMap((one, n) =>
    !one['name'] && (one['role'] || one['text'] || one['picture'])
      ? [
          found(
            'content',
            'worth-fixing',
            'person-nameless',
            { number: n + 1 },
            { blockId: id, field: `items[${n}].name` },
          ),
        ]
      : [],
  );
}

/** Numbers and addresses that can't be: shared values are judged with what they hold. */
function contactFindings({ id, type, fields }: Block): Finding[] {
  if (type !== 'contact') return [];
  const { phone = '', mail = '' } = fields as { readonly phone?: string; readonly mail?: string };
  const isTyped = (text: string) => text.trim() !== '' && !/[{‹]/.test(text);
  return [
    ...(isTyped(phone) && !/^\+?[\d\s().\-/]{5,}$/.test(phone.trim())
      ? [found('content', 'blocks', 'phone-impossible', { text: phone }, { blockId: id, field: 'phone' })]
      : []),
    ...(isTyped(mail) && !/^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(mail.trim())
      ? [found('content', 'blocks', 'mail-impossible', { text: mail }, { blockId: id, field: 'mail' })]
      : []),
  ];
}

/** A countdown to a moment that is over before visitors meet it. */
export const countdownOver = ({
  document,
  during,
  write,
}: Pick<CheckInput, 'document' | 'during' | 'write'>): Finding[] =>
  document.blocks.flatMap(({ id, type, fields }) => {
    const moment = fields['moment'] as { readonly at: number } | null | undefined;
    if (type !== 'countdown' || fields['to'] !== 'moment' || !moment || moment.at > during.from) return [];
    return [
      found(
        'content',
        'worth-fixing',
        'countdown-over',
        { at: moment.at as never },
        { blockId: id, field: 'moment' },
        write,
      ),
    ];
  });
