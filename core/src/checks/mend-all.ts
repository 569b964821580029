import { applyEdit, blockWords, fieldAt, type Edit, type PageDocument } from '../document/index.js';
import type { MendCode } from '../words/index.js';
import type { Finding } from './finding.js';
import { mendsOf } from './mends.js';

/** What a mend takes away and puts there, in words. */
export interface MendLine {
  readonly words: string;
  readonly how: 'new' | 'gone';
}

/** More of one kind are on no page. */
const MOST = 500;

/**
 * A document with something mended wherever it is found, by the one way, with what went and came; `null` where nothing of
 * it can be mended so. `found` judges a document anew: one mend can make others needless.
 */
export function mendAll(
  document: PageDocument,
  found: (document: PageDocument) => readonly Finding[],
  mend: MendCode,
): { readonly document: PageDocument; readonly lines: readonly MendLine[] } | null {
  let now = document;
  const lines: MendLine[] = [];
  for (let n = 0; n < MOST; n++) {
    const next = found(now)
      .flatMap((finding) => mendsOf(now, finding).filter(({ code }) => code === mend))
      .map((one) => ({ ...one, edited: applyEdit(now, one.edit) }))
      .find(({ edited }) => edited && JSON.stringify(edited.document) !== JSON.stringify(now));
    if (!next?.edited) break;
    lines.push(...linesOf(now, next.edited.document, next.edit, next.label));
    now = next.edited.document;
  }
  return now === document ? null : { document: now, lines };
}

function linesOf(before: PageDocument, after: PageDocument, edit: Edit, label: string): MendLine[] {
  const texts = [before, after].map((document) => {
    if (edit.kind === 'metadata') return document.metadata[edit.key] ?? '';
    const block = edit.kind === 'set' ? document.blocks.find(({ id }) => id === edit.blockId) : undefined;
    const value = block && edit.kind === 'set' ? fieldAt(block, edit.field) : undefined;
    return typeof value === 'string' ? value : null;
  });
  const [gone, come] = texts;
  if (typeof gone === 'string' && typeof come === 'string')
    return [
      ...(gone ? [{ words: gone, how: 'gone' as const }] : []),
      ...(come ? [{ words: come, how: 'new' as const }] : []),
    ];
  const block = edit.kind === 'set' ? before.blocks.find(({ id }) => id === edit.blockId) : undefined;
  return [{ words: block ? `${blockWords(block)}: ${label}` : label, how: 'new' }];
}
