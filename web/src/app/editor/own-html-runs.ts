import type { CanvasPlaces } from './canvas-places';
import { APART_SANDBOX } from '@domatium/core/render';

/** Where own HTML is kept to be shown: the address it is served at, or `null` where it can’t be. */
export type KeepOwnHtml = (markup: string) => Promise<string | null>;

/** What runs over one frame of the page. */
interface Run {
  readonly frame: HTMLIFrameElement;
  readonly markup: string;
  /** It runs: the one below it need not be seen. */
  isShown: boolean;
}

/**
 * Own HTML runs as it will on the page. The canvas runs no script, so over each of its frames lies another that is not in
 * it, on an origin of its own; presses go through it to the block until that is chosen.
 */
export class OwnHtmlRuns {
  private readonly runs = new Map<string, Run>();

  constructor(
    private readonly layer: () => HTMLElement,
    private readonly places: CanvasPlaces,
    private readonly keep: KeepOwnHtml,
  ) {}

  /** Lays them where their frames are now. */
  lay(page: Document | null, scale: number, chosen: string | null): void {
    const seen = new Set<string>();
    page?.querySelectorAll<HTMLIFrameElement>('iframe[srcdoc]').forEach((under, n) => {
      const blockId = under.closest('section[id]')?.id.slice(2) ?? '';
      const key = `${blockId} ${n}`;
      seen.add(key);
      const { left, top, width, height } = under.getBoundingClientRect();
      const { x, y } = this.places.placeOf(left, top);
      const run = this.runOf(key, under);
      const { style } = run.frame;
      style.transform = `translate(${x}px, ${y}px) scale(${scale})`;
      style.width = `${width}px`;
      style.height = `${height}px`;
      if (run.isShown) under.style.visibility = 'hidden';
      style.pointerEvents = blockId === chosen ? 'auto' : 'none';
    });
    for (const [key, { frame }] of this.runs)
      if (!seen.has(key)) {
        frame.remove();
        this.runs.delete(key);
      }
  }

  end(): void {
    for (const { frame } of this.runs.values()) frame.remove();
    this.runs.clear();
  }

  private runOf(key: string, under: HTMLIFrameElement): Run {
    const markup = under.srcdoc;
    const known = this.runs.get(key);
    if (known?.markup === markup) return known;
    known?.frame.remove();
    const frame = document.createElement('iframe');
    frame.className = 'runs';
    frame.title = under.title;
    frame.setAttribute('sandbox', APART_SANDBOX);
    this.layer().append(frame);
    const run = { frame, markup, isShown: false };
    this.runs.set(key, run);
    void this.keep(markup).then((address) => {
      // What could not be kept shows as the frame below it does, without its script.
      if (!address || this.runs.get(key) !== run) return frame.remove();
      frame.src = address;
      frame.addEventListener('load', () => {
        run.isShown = true;
        under.style.visibility = 'hidden';
      });
    });
    return run;
  }
}
