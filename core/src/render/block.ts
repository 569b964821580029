import { blockViews } from '../blocks/views.js';
import { completeBlock } from '../document/complete.js';
import { mapBlock } from '../document/map.js';
import { filledTarget, type LinkTarget } from '../fields/link.js';
import type { Block } from '../fields/types.js';
import { fillText } from '../text/names.js';
import type { RenderContext } from '../markup/context.js';
import type { Html } from '../html/index.js';

/** Whether any text in there could hold a name between { }. */
function hasNames(value: unknown): boolean {
  if (typeof value === 'string') return value.includes('{');
  if (Array.isArray(value)) return value.some(hasNames);
  return typeof value === 'object' && value !== null && Object.values(value).some(hasNames);
}

/** What a block shows, shared values filled in. */
export function blockContent(block: Block, context: RenderContext): Html {
  const { values } = context;
  const whole = completeBlock(block);
  if (!hasNames(whole.fields)) return blockViews[block.type].render(whole.fields, context);
  const filled = {
    text: (text: string) => fillText(text, values),
    link: (target: LinkTarget) => filledTarget(target, values),
  };
  const { fields } = mapBlock(whole, filled);
  return blockViews[block.type].render(fields, context);
}
