import type { FieldDefinition } from '../document/fields.js';

/** One line of text, at most so many characters. */
export const line = (key: string, label: string, max = 200): FieldDefinition => ({ kind: 'line', key, label, max });

/** Plain text of several lines, at most so many characters. */
export const paragraph = (key: string, label: string, max = 600): FieldDefinition => ({
  kind: 'paragraph',
  key,
  label,
  max,
});

export const rich = (key: string, label: string): FieldDefinition => ({ kind: 'rich', key, label });
export const pictureField = (key: string, label: string): FieldDefinition => ({ kind: 'picture', key, label });
export const button = (key: string, label: string): FieldDefinition => ({ kind: 'button', key, label });

/** One of some values, each with its label, the first of a new block first. */
export const choice = (key: string, label: string, options: Readonly<Record<string, string>>): FieldDefinition => ({
  kind: 'choice',
  key,
  label,
  options: Object.entries(options).map(([value, words]) => ({ value, label: words })),
});

/** From `min` to `max` things of the same fields. */
export const list = (
  key: string,
  label: string,
  itemLabel: string,
  [min, max]: readonly [number, number],
  fields: readonly FieldDefinition[],
): FieldDefinition => ({ kind: 'list', key, label, itemLabel, min, max, fields });
