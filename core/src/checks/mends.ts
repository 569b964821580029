import { fieldAt, mapBlock, METADATA_TEXTS, type Edit, type PageDocument } from '../document/index.js';
import type { PictureUse } from '../fields/picture-use.js';
import { DESCRIPTION_SHOWN, TITLE_SHOWN } from '../metadata/index.js';
import { textsOf } from '../document/page-document.js';
import { cutAtWord } from '../text/index.js';
import { MENDS, type FindingParams, type MendCode } from '../words/index.js';
import type { Finding } from './finding.js';

/** What a machine can do about a finding: the words of the act, and the edit. */
export interface Mend {
  readonly code: MendCode;
  readonly label: string;
  readonly edit: Edit;
}

/** The mends of a finding that need nobody’s judgement but a click; empty where there is none. */
export function mendsOf(document: PageDocument, { check, code, params, place, toPage }: Finding): Mend[] {
  const { metadata, blocks } = document;
  if (code === 'thanks-found') {
    const { asked } = params as FindingParams<'thanks-found'>;
    return [
      { code: 'keep-out', label: MENDS['keep-out'](), edit: { kind: 'robots', value: { ...asked, noindex: true } } },
    ];
  }
  if (check === 'canonical')
    return [{ code: 'itself', label: MENDS.itself(), edit: { kind: 'canonical', value: null } }];
  const text = METADATA_TEXTS.find((key) => place && 'metadata' in place && place.metadata === key);
  if (check === 'placeholder' && text) {
    const value = (metadata[text] ?? '').replace(/‹[^›]*›/g, '').trim();
    return [{ code: 'empty', label: MENDS.empty(), edit: { kind: 'metadata', key: text, value } }];
  }
  if (check === 'title' || check === 'description') {
    const key = check;
    const own = metadata[key].trim();
    if (own)
      return [
        {
          code: 'shorten',
          label: MENDS.shorten(),
          edit: { kind: 'metadata', key, value: cutAtWord(own, key === 'title' ? TITLE_SHOWN : DESCRIPTION_SHOWN) },
        },
      ];
    const texts = textsOf(document).filter(({ value }) => !/‹/.test(value));
    const found =
      key === 'title' ? texts.find(({ field }) => field === 'heading') : texts.find(({ value }) => value.length > 40);
    return found
      ? [
          {
            code: 'take',
            label: MENDS.take({ text: cutAtWord(found.value, 40) }),
            edit: {
              kind: 'metadata',
              key,
              value: cutAtWord(found.value, key === 'title' ? TITLE_SHOWN : DESCRIPTION_SHOWN),
            },
          },
        ]
      : [];
  }
  const blockId = place && 'blockId' in place ? place.blockId : null;
  const block = blocks.find(({ id }) => id === blockId);
  if (!place || !('blockId' in place) || !block) return [];
  const { field } = place;
  const set = (value: Parameters<typeof setOf>[2], at = field) => setOf(block.id, at, value);
  const remove: Mend = { code: 'remove', label: MENDS.remove(), edit: { kind: 'remove', blockId: block.id } };
  switch (check) {
    case 'placeholder': {
      const value = fieldAt(block, field);
      if (typeof value === 'string')
        return [{ code: 'empty', label: MENDS.empty(), edit: set(value.replace(/‹[^›]*›/g, '').trim()) }, remove];
      return [remove];
    }
    case 'picture-description': {
      const use = fieldAt(block, field) as PictureUse | null | undefined;
      return use ? [{ code: 'decorative', label: MENDS.decorative(), edit: set({ ...use, isDecorative: true }) }] : [];
    }
    case 'links': {
      if (toPage === undefined) return [];
      const without = mapBlock(block, {
        link: (target) => (target.kind === 'page' && target.pageId === toPage ? null : target),
      });
      const key = /^[A-Za-z]+/.exec(field)?.[0] ?? '';
      return [{ code: 'unlink', label: MENDS.unlink(), edit: set(without.fields[key] ?? null, key) }];
    }
    case 'first-heading':
      return code === 'heading-several' ? [remove] : [];
    case 'countdown':
      return field === 'moment'
        ? [{ code: 'count-to-end', label: MENDS['count-to-end'](), edit: set('end', 'to') }]
        : [];
    case 'ownHtml':
    case 'frame': {
      const heading = block.fields['heading'];
      return field === 'title' && typeof heading === 'string' && heading
        ? [{ code: 'use-heading', label: MENDS['use-heading'](), edit: set(heading) }]
        : [];
    }
    default:
      return [];
  }
}

const setOf = (blockId: string, field: string, value: Extract<Edit, { kind: 'set' }>['value']): Edit => ({
  kind: 'set',
  blockId,
  field,
  value,
});
