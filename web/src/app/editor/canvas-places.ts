export interface Place {
  readonly x: number;
  readonly y: number;
}

/** How near the upper or lower edge something held scrolls the page, in pixels of the window. */
const EDGE = 48;

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
    return [...(this.page?.querySelectorAll<HTMLElement>('main > section') ?? [])];
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

  /** Before which block something dropped at a point of the window would stand; `null` beside the page. */
  indexAt(clientX: number, clientY: number): number | null {
    const frame = this.frame().getBoundingClientRect();
    if (clientX < frame.left || clientX > frame.right || clientY < frame.top || clientY > frame.bottom) return null;
    const y = (clientY - frame.top) / this.scale();
    const index = this.sections().findIndex((section) => {
      const { top, bottom } = section.getBoundingClientRect();
      return y < (top + bottom) / 2;
    });
    return index < 0 ? this.sections().length : index;
  }

  /** Where a block begins, or the last one ends. */
  edgeOf(index: number): Place {
    const sections = this.sections();
    const at = sections[index]?.getBoundingClientRect().top ?? sections.at(-1)?.getBoundingClientRect().bottom ?? 0;
    return this.placeOf(0, at);
  }

  /** Scrolls while something is held near the upper or lower end. */
  scrollAt(clientY: number): void {
    const { top, bottom } = this.frame().getBoundingClientRect();
    const by = clientY < top + EDGE ? clientY - top - EDGE : clientY > bottom - EDGE ? clientY - bottom + EDGE : 0;
    if (by) this.page?.defaultView?.scrollBy(0, by / 3);
  }
}
