import { callToAction } from './call-to-action/index.js';
import { opening } from './opening/index.js';
import { picture } from './picture/index.js';
import { quote } from './quote/index.js';
import { reasons } from './reasons/index.js';
import { text } from './text/index.js';

/** All block types, in the order they are offered. A new block is one folder and one line here. */
export const blockTypes = { opening, text, picture, reasons, quote, callToAction } as const;

export type BlockType = keyof typeof blockTypes;
export const BLOCK_TYPES = Object.keys(blockTypes) as BlockType[];

export function isBlockType(value: unknown): value is BlockType {
  return typeof value === 'string' && Object.hasOwn(blockTypes, value);
}
