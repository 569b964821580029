import type { FieldDefinition, Referred } from '../fields/fields.js';
import { ICON_LABELS } from '../icons/index.js';

type Choice = Extract<FieldDefinition, { readonly kind: 'choice' }>;

/** One line of text, at most so many characters. */
export const line = (key: string, label: string, max = 200, help?: string): FieldDefinition => ({
  kind: 'line',
  key,
  label,
  max,
  ...(help ? { help } : {}),
});

/** Plain text of several lines, at most so many characters. */
export const paragraph = (key: string, label: string, max = 600, help?: string): FieldDefinition => ({
  kind: 'paragraph',
  key,
  label,
  max,
  ...(help ? { help } : {}),
});

/** Formatted text, a picture, a button: their limits are those of formatted text, of pictures and of buttons. */
const plain =
  <Kind extends 'rich' | 'picture' | 'button'>(kind: Kind) =>
  (key: string, label: string, help?: string): FieldDefinition => ({ kind, key, label, ...(help ? { help } : {}) });
export const rich = plain('rich');
export const pictureField = plain('picture');
export const button = plain('button');

/** HTML or CSS as people write it themselves. */
export const code = (key: string, label: string, help: string, max: number): FieldDefinition => ({
  kind: 'paragraph',
  key,
  label,
  help,
  max,
  isCode: true,
});
export const moment = (key: string, label: string, help: string): FieldDefinition => ({
  kind: 'moment',
  key,
  label,
  help,
});
export const reference = (key: string, label: string, of: Referred, help: string): FieldDefinition => ({
  kind: 'reference',
  key,
  label,
  of,
  help,
});

/** One of some values, each with its label, the first of a new block first. */
export const choice = (key: string, label: string, options: Readonly<Record<string, string>>): Choice => ({
  kind: 'choice',
  key,
  label,
  options: Object.entries(options).map(([value, words]) => ({ value, label: words })),
});

/** An icon, or none. */
export const icon = (key: string, label: string): FieldDefinition => ({
  ...choice(key, label, { '': 'None', ...ICON_LABELS }),
  isIcon: true,
});

/** From `min` to `max` things of the same fields. */
export const list = (
  key: string,
  label: string,
  itemLabel: string,
  [min, max]: readonly [number, number],
  fields: readonly FieldDefinition[],
): FieldDefinition => ({ kind: 'list', key, label, itemLabel, min, max, fields });
