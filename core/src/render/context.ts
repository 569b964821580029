import { fillNav, navMarks } from '../frame/index.js';
import type { LinkTarget } from '../fields/link.js';
import { appearanceOf } from '../blocks/appearance.js';
import { looksFrom, withLooks } from '../blocks/piece/looks.js';
import { fieldsOf } from '../blocks/registry.js';
import { blockContent } from './block.js';
import type { RenderContext, RenderWorld } from '../markup/context.js';
import { escapeText, Html, html } from '../html/index.js';

/** Whether the first picture of a page is still to come: shared by all that renders parts of that page. */
export interface FirstPicture {
  isToCome: boolean;
}

/** A context whose first picture is handed out once. On the canvas elements name the fields they show. */
export function contextOf(
  world: RenderWorld,
  isCanvas = false,
  first: FirstPicture = { isToCome: true },
): RenderContext {
  const context: RenderContext = {
    ...world,
    inner(blocks, looks) {
      const sections = withLooks(blocks, looksFrom(looks), fieldsOf).map((block) => {
        const { shownAt } = appearanceOf(block.fields);
        const only = shownAt !== 'everywhere' && html` class="only-${shownAt}"`;
        return html`<section${only}>${blockContent(block, { ...this, at: () => null })}</section>`;
      });
      return html`${sections}`;
    },
    hrefOf: (target) => hrefOf(target, world),
    at: (field) => (isCanvas ? html` ${new Html(`data-field="${escapeText(field)}"`)}` : null),
    current: () => null,
    ways(asked, inside, none) {
      const marked = asked === 'menu' ? '' : navMarks(asked, inside);
      const around = world.waysAround;
      const markup = around ? fillNav(marked, around.nav, around.pageId) : marked;
      return markup || !(isCanvas || world.saysEmpty) ? new Html(markup) : html`<p class="ways-empty">${none}</p>`;
    },
    takeFirstPicture: () => {
      const isFirst = first.isToCome;
      first.isToCome = false;
      return isFirst;
    },
  };
  return context;
}

function hrefOf(target: LinkTarget, world: RenderWorld): string | null {
  switch (target.kind) {
    case 'page': {
      const href = world.pageHref(target.pageId);
      return href !== null && target.blockId ? `${href}#b-${target.blockId}` : href;
    }
    case 'block':
      return `#b-${target.blockId}`;
    case 'file':
      return world.fileOf(target.fileId)?.src ?? null;
    case 'outside':
      return target.url;
    case 'mail':
      return `mailto:${target.address}`;
    case 'phone':
      return `tel:${target.number}`;
  }
}
