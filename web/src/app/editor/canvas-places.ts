import type { Spot } from '@domatium/core/document';
export interface Place {
  readonly x: number;
  readonly y: number;
}

/** How near the upper or lower edge something held scrolls the page, in pixels of the window. */
const EDGE = 48;

/** What is a block of the page, alone or in a row; the blocks of a piece are none of their own. */
export const BLOCK = 'section[id^="b-"]';
/** So much of a block’s width, at either side, means beside it; so many pixels at the edge of a row mean outside of it. */
const SIDE = 0.16;
const RIM = 14;

/** A line where something would be put: it lies where it has no height, and stands where it has. */
export interface Seam extends Place {
  readonly width: number;
  readonly height: number;
}

/** Where things of the page lie: points of the frame as points of the field around it, and which block is where. */
export class CanvasPlaces {
  constructor(
    private readonly frame: () => HTMLIFrameElement,
    private readonly field: () => HTMLElement,
    private readonly scale: () => number,
  ) {}

  private get page(): Document | null {
    return this.frame().contentDocument;
  }

  sections(): HTMLElement[] {
    return [...(this.page?.querySelectorAll<HTMLElement>(BLOCK) ?? [])];
  }

  /** A point of the frame as a point of the field around it. */
  placeOf(left: number, top: number): Place {
    const [frame, field] = [this.frame().getBoundingClientRect(), this.field().getBoundingClientRect()];
    return { x: frame.left - field.left + left * this.scale(), y: frame.top - field.top + top * this.scale() };
  }

  private inView(left: number, { top, bottom }: DOMRect): Place | null {
    const place = this.placeOf(left, Math.max(top, 0));
    return bottom > 0 && place.y < this.field().clientHeight ? place : null;
  }

  /** Where marks of blocks stand: at the right edge, level with their blocks, as far as those are in view. */
  levelsOf<Mark extends string>(
    marks: ReadonlyMap<string, Mark>,
  ): readonly (Place & { readonly id: string; readonly severity: Mark })[] {
    const right = (this.page?.documentElement.clientWidth ?? 0) - 4;
    return this.sections().flatMap((section) => {
      const id = section.id.slice(2);
      const severity = marks.get(id);
      const place = severity && this.inView(right, section.getBoundingClientRect());
      return severity && place ? [{ id, severity, ...place }] : [];
    });
  }

  /** The corner of a block where its handle is; `null` where it is out of view. */
  cornerOf(blockId: string | null): Place | null {
    const section = blockId ? this.page?.getElementById(`b-${blockId}`) : null;
    const box = section?.getBoundingClientRect();
    return box ? this.inView(box.left, box) : null;
  }

  /** Where something dropped at a point of the window would stand; `null` beside the page. */
  spotAt(clientX: number, clientY: number): Spot | null {
    const frame = this.frame().getBoundingClientRect();
    if (clientX < frame.left || clientX > frame.right || clientY < frame.top || clientY > frame.bottom) return null;
    const [x, y] = [(clientX - frame.left) / this.scale(), (clientY - frame.top) / this.scale()];
    const all = this.sections().map((section) => ({ section, box: section.getBoundingClientRect() }));
    const under = all.find(
      ({ box }) => x >= box.left && x < box.right && y >= box.top && y < box.bottom && box.height > 0,
    );
    if (!under) {
      const above = all.findLast(({ box }) => box.bottom <= y);
      const id = (above ?? all[0])?.section.id.slice(2) ?? '';
      return { id, side: above ? 'past' : 'ahead' };
    }
    const id = under.section.id.slice(2);
    const row = under.section.closest('.row')?.getBoundingClientRect();
    if (row && y < row.top + RIM) return { id, side: 'ahead' };
    if (row && y > row.bottom - RIM) return { id, side: 'past' };
    const share = (x - under.box.left) / under.box.width;
    const isTurned = this.page?.documentElement.dir === 'rtl';
    if (share < SIDE) return { id, side: isTurned ? 'behind' : 'before' };
    if (share > 1 - SIDE) return { id, side: isTurned ? 'before' : 'behind' };
    return { id, side: y < (under.box.top + under.box.bottom) / 2 ? 'above' : 'below' };
  }

  /** The seam at a spot: along an edge of a block, or of its whole row. */
  seamOf({ id, side }: Spot): Seam {
    const section = this.page?.getElementById(`b-${id}`) ?? this.sections().at(-1);
    const isWhole = side === 'ahead' || side === 'past';
    const box = ((isWhole && section?.closest('.row')) || section)?.getBoundingClientRect();
    if (!box) return { ...this.placeOf(0, 0), width: this.frame().getBoundingClientRect().width, height: 0 };
    const isTurned = this.page?.documentElement.dir === 'rtl';
    if (side === 'before' || side === 'behind')
      return {
        ...this.placeOf((side === 'behind') === isTurned ? box.left : box.right, box.top),
        width: 0,
        height: box.height * this.scale(),
      };
    const y = side === 'above' || side === 'ahead' ? box.top : box.bottom;
    return { ...this.placeOf(box.left, y), width: box.width * this.scale(), height: 0 };
  }

  /** Scrolls while something is held near the upper or lower end. */
  scrollAt(clientY: number): void {
    const { top, bottom } = this.frame().getBoundingClientRect();
    const by = clientY < top + EDGE ? clientY - top - EDGE : clientY > bottom - EDGE ? clientY - bottom + EDGE : 0;
    if (by) this.page?.defaultView?.scrollBy(0, by / 3);
  }
}
