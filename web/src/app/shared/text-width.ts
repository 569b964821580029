import { Injectable, signal } from '@angular/core';
import type { Measure } from '@domatium/core/metadata';

const ANY_SIZE = 16;

/**
 * How wide texts are in Arimo, which ships with the application and has the widths of the sans-serif that most results
 * of searches are drawn in. `null` until it is loaded, and where nothing can be drawn.
 */
@Injectable({ providedIn: 'root' })
export class TextWidth {
  private readonly context = document.createElement('canvas').getContext('2d');
  readonly measure = signal<Measure | null>(null);

  constructor() {
    void this.load();
  }

  private async load(): Promise<void> {
    const { context } = this;
    // A browser without fonts of its own to load measures with what it has.
    if (context && 'fonts' in document) await document.fonts.load(`${ANY_SIZE}px Arimo`).catch(() => []);
    if (context)
      this.measure.set((text, size) => {
        context.font = `${size}px Arimo, Arial, sans-serif`;
        return context.measureText(text).width;
      });
  }
}
