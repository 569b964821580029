import { signal } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';

/** How long one rests on a name before its page is shown, and how high the picture is. */
const REST = 450;
const CARD = 274;

/** A page shown small beside its row, once one rests on its name. */
export class Glance {
  private resting: ReturnType<typeof setTimeout> | undefined;
  readonly at = signal<{ readonly page: RegisterRow; readonly left: number; readonly top: number } | null>(null);

  constructor(
    private readonly frame: () => HTMLElement | undefined,
    private readonly isOff: () => boolean,
  ) {}

  /** Somebody rests on this row, on no page, or on something else of a row. */
  rest(page: RegisterRow | null, row: () => HTMLElement | null): void {
    clearTimeout(this.resting);
    if (!page || this.isOff()) return this.at.set(null);
    this.resting = setTimeout(() => this.show(page, row()), REST);
  }

  end(): void {
    clearTimeout(this.resting);
  }

  private show(page: RegisterRow, row: HTMLElement | null): void {
    const frame = this.frame();
    if (!frame || !row?.isConnected || this.isOff()) return;
    const [own, around] = [row.getBoundingClientRect(), frame.getBoundingClientRect()];
    const below = own.bottom - around.top + 4;
    const top = below + CARD > around.height ? own.top - around.top - CARD - 4 : below;
    this.at.set({ page, left: 60, top: Math.max(4, top) });
  }
}
