import { blockViews } from '../blocks/views.js';
import { completeBlock } from '../document/complete.js';
import { mapBlock } from '../document/map.js';
import type { Block } from '../fields/types.js';
import { fillText } from '../stock/values.js';
import type { RenderContext } from '../markup/context.js';
import type { Html } from '../html/index.js';

/** What a block shows, shared values filled in. */
export function blockContent(block: Block, context: RenderContext): Html {
  const { values } = context;
  const whole = completeBlock(block);
  const { fields } = values.size ? mapBlock(whole, { text: (text) => fillText(text, values) }) : whole;
  return blockViews[block.type].render(fields, context);
}
