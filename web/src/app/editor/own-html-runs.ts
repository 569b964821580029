import type { CanvasPlaces } from './canvas-places';
import { APART_SANDBOX } from '@domatium/core/render';

/** Where own HTML is kept to be shown: the address it is served at, or `null` where it can’t be. */
export type KeepOwnHtml = (markup: string) => Promise<string | null>;

/** So long somebody pauses before what they typed is run, in milliseconds. */
const PAUSE = 500;

/** What runs over one frame of the page. */
interface Run {
  readonly frame: HTMLIFrameElement;
  readonly markup: string;
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
    page?.querySelectorAll<HTMLIFrameElement>('iframe[data-markup]').forEach((under, n) => {
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

  private async start(key: string, run: Run, before: HTMLIFrameElement | undefined): Promise<void> {
    const isWanted = () => this.runs.get(key) === run;
    const address = isWanted() ? await this.keep(run.markup) : null;
    before?.remove();
    if (!address || !isWanted()) return;
    run.frame.src = address;
    this.layer().append(run.frame);
  }

  private runOf(key: string, under: HTMLIFrameElement): Run {
    const markup = under.dataset['markup'] ?? '';
    const known = this.runs.get(key);
    if (known?.markup === markup) return known;
    const frame = document.createElement('iframe');
    frame.className = 'runs';
    frame.title = under.title;
    frame.setAttribute('sandbox', APART_SANDBOX);
    const run = { frame, markup };
    this.runs.set(key, run);
    // While somebody types, what ran before stays until they pause.
    setTimeout(() => void this.start(key, run, known?.frame), known ? PAUSE : 0);
    return run;
  }
}
