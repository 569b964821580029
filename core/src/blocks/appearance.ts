import type { FieldDefinition, FieldValue, FieldValues } from '../fields/fields.js';
import type { PictureUse } from '../fields/picture-use.js';
import { choice } from './fields.js';
import { LANGUAGES } from './languages.js';

/** How a block stands on its page. Every block can have all of it; what is as usual is not kept. */
export interface Appearance {
  readonly ground: 'page' | 'tint' | 'strong' | 'picture';
  readonly groundPicture: PictureUse | null;
  readonly roomAbove: Room;
  readonly roomBelow: Room;
  readonly reach: 'usual' | 'narrow' | 'wide' | 'full';
  readonly aligned: 'start' | 'centre' | 'end';
  readonly shownAt: 'everywhere' | 'wide' | 'narrow';
  /** Begins a row, the next column of one, or stands below the block before it in the same column. */
  readonly beside: 'alone' | 'row' | 'next' | 'same';
  readonly share: '1' | '2' | '3';
  /** A name for links to it. */
  readonly anchor: string;
  readonly language: string;
}
type Room = 'usual' | 'none' | 'little' | 'much';

const ROOM: Record<Room, string> = { usual: 'As usual', none: 'None', little: 'Little', much: 'Much' };

/** The fields that every type of block has beside its own; the first option of a choice is what is usual. */
export const APPEARANCE: readonly FieldDefinition[] = [
  choice('ground', 'Ground', { page: 'None', tint: 'Tinted', strong: 'Strong', picture: 'Picture' }),
  {
    kind: 'picture',
    key: 'groundPicture',
    label: 'Picture behind it',
    help: 'Darkened as far as its text needs to be read.',
    isGround: true,
  },
  choice('roomAbove', 'Room above', ROOM),
  choice('roomBelow', 'Room below', ROOM),
  choice('reach', 'Width of the block', { usual: 'As usual', narrow: 'Narrow', wide: 'Wide', full: 'Full' }),
  choice('aligned', 'Alignment', { start: 'At the start', centre: 'Centred', end: 'At the end' }),
  choice('shownAt', 'Shown', { everywhere: 'Everywhere', wide: 'On wide screens', narrow: 'On narrow ones' }),
  choice('beside', 'Beside others', {
    alone: 'On its own',
    row: 'Begins a row',
    next: 'Next column',
    same: 'Same column',
  }),
  choice('share', 'Share of the row', { 1: '1', 2: '2', 3: '3' }),
  {
    kind: 'line',
    key: 'anchor',
    label: 'Name for links',
    help: 'Addresses lead to it by this name, behind #.',
    max: 60,
    isCode: true,
  },
  choice('language', 'Language', { '': 'That of the page', ...LANGUAGES }),
];

const BLANKS: ReadonlyMap<string, FieldValue> = new Map(
  APPEARANCE.map((field) => [field.key, field.kind === 'choice' ? (field.options[0]?.value ?? '') : null]),
);

/** Whether a field is one of those that every block has. */
export const isAppearance = (key: string): boolean => BLANKS.has(key);

/** Whether a value of such a field says nothing that is not so anyway. */
export const isUsual = (key: string, value: FieldValue | undefined): boolean =>
  BLANKS.has(key) && (value === undefined || value === null || value === '' || value === BLANKS.get(key));

/** Fields without what is as usual. */
export const withoutUsual = (fields: FieldValues): FieldValues =>
  Object.fromEntries(Object.entries(fields).filter(([key, value]) => !isUsual(key, value)));

/** What of the fields of a block says how it stands on its page. */
export const appearanceIn = (fields: FieldValues): FieldValues =>
  Object.fromEntries(Object.entries(fields).filter(([key]) => BLANKS.has(key)));

/** How a block stands on its page, what is not said as usual. */
export function appearanceOf(fields: FieldValues): Appearance {
  // Most blocks stand as usual.
  for (const key in fields) if (BLANKS.has(key)) return { ...USUAL, ...appearanceIn(fields) };
  return USUAL;
}
const USUAL = { ...Object.fromEntries(BLANKS), anchor: '' } as unknown as Appearance;

/** The name as it stands in an address: "Book a berth" is `book-a-berth`; empty where nothing is left. */
export function anchorOf({ anchor }: FieldValues): string {
  if (typeof anchor !== 'string' || !anchor) return '';
  return anchor
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');
}
