import type { PageDocument } from '@domatium/core/document';
import { BARE_FRAME, isRightToLeft, pageHtml, siteFrameHtml, type RenderWorld } from '@domatium/core/render';
import { inertMarkup } from '../shared/trusted';
import type { Sheets } from './canvas-sheets';
import { BlockRenders, canvasContext, layBlocks } from './lay-blocks';

/** The page in the frame: made whole once, then changed block by block and rule by rule. */
export class CanvasFrame {
  private shown = new Map<string, string>();
  private readonly renders = new BlockRenders();
  private written: Sheets = { rules: '', properties: '' };
  private around = '';

  constructor(private readonly frame: () => HTMLIFrameElement) {}

  get page(): Document | null {
    return this.frame().contentDocument;
  }

  /** The whole page, to begin with. */
  pageFor(document: PageDocument, brand: string, sheets: Sheets, links: RenderWorld): string {
    this.shown = new Map(document.blocks.map((block) => [block.id, '']));
    return pageHtml(
      document,
      {
        ...BARE_FRAME,
        siteName: brand,
        language: links.language,
        isIndexable: true,
        inlineStyle: Object.values(sheets).join(''),
      },
      canvasContext(links),
    );
  }

  /** What stands around the page, where that is another. */
  surround(brand: string, links: RenderWorld): void {
    const { above, below } = siteFrameHtml({ ...BARE_FRAME, siteName: brand }, links);
    const main = this.page?.querySelector('main');
    if (!main || above + below === this.around) return;
    this.around = above + below;
    for (const element of [...(main.parentElement?.children ?? [])]) if (element !== main) element.remove();
    main.before(...elementsOf(above));
    main.after(...elementsOf(below));
  }

  /** The rules are read anew only where they differ: a colour that is changed is one property. */
  write(next: Sheets): void {
    const [rules, properties] = this.page?.querySelectorAll('style') ?? [];
    if (!rules || !properties) return;
    if (next.rules !== this.written.rules) rules.textContent = next.rules;
    if (next.properties !== this.written.properties) properties.textContent = next.properties;
    this.written = next;
  }

  /** Lays the blocks as they are now; the element one types in stays as it is. Says whether there is a page yet. */
  lay(blocks: PageDocument['blocks'], links: RenderWorld, typing: HTMLElement | null): boolean {
    const main = this.page?.querySelector('main');
    if (!main) return false;
    const { documentElement } = main.ownerDocument;
    documentElement.lang = links.language;
    documentElement.dir = isRightToLeft(links.language) ? 'rtl' : 'ltr';
    const next = this.renders.of(blocks, links);
    layBlocks(main, blocks, next, this.shown, typing);
    this.shown = next;
    return true;
  }

  /** What stands there of a block is not what the renderer made. */
  forget(blockId: string): void {
    this.shown.delete(blockId);
  }
}

const elementsOf = (markup: string): Element[] => [
  ...new DOMParser().parseFromString(inertMarkup(markup), 'text/html').body.children,
];
