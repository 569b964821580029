/** The names of all block types, in the order they are offered: what documents know of blocks. */
export const BLOCK_TYPES = [
  'opening',
  'countdown',
  'text',
  'columns',
  'reasons',
  'steps',
  'comparison',
  'offer',
  'picture',
  'gallery',
  'video',
  'ownHtml',
  'frame',
  'table',
  'quote',
  'voices',
  'numbers',
  'people',
  'logos',
  'questions',
  'map',
  'callToAction',
  'linkList',
  'pageList',
  'buttonRow',
  'contact',
  'divider',
  'piece',
  'brand',
  'menu',
  'legalLine',
  'siteMenu',
  'wayUp',
  'neighbours',
  'linkColumns',
  'profiles',
] as const;

export type BlockType = (typeof BLOCK_TYPES)[number];

const NAMES: ReadonlySet<unknown> = new Set(BLOCK_TYPES);

export function isBlockType(value: unknown): value is BlockType {
  return NAMES.has(value);
}
