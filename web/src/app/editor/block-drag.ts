import { Injectable, signal } from '@angular/core';
import { blockTypes, type BlockType } from '@domatium/core/blocks';
import type { Spot } from '@domatium/core/document';
import { Subject } from 'rxjs';
import { say } from '@domatium/core/words/editor';

/** What is dragged: a block of the page, or a new one from the list. */
export type Dragged =
  { readonly kind: 'block'; readonly blockId: string } | { readonly kind: 'new'; readonly type: BlockType };

/** A page something can be dropped on. */
export interface DropPlace {
  /** Where it would stand; `null` beside the page. Points are of the window. */
  spotAt(clientX: number, clientY: number): Spot | null;
  show(spot: Spot | null): void;
  scrollAt(clientY: number): void;
}

/** How far the pointer goes before a press is a drag. */
const SLACK = 5;

/**
 * Drags across the frame of the canvas, with pointer events: the element that was pressed captures the pointer, so that
 * the frame sees nothing of it. Escape puts everything back.
 */
@Injectable()
export class BlockDrag {
  private readonly places = new Set<DropPlace>();
  readonly dragged = signal<Dragged | null>(null);
  readonly words = signal('');
  readonly dropped = new Subject<{ readonly what: Dragged; readonly spot: Spot }>();

  register(place: DropPlace): void {
    this.places.add(place);
  }

  unregister(place: DropPlace): void {
    this.places.delete(place);
  }

  start(event: PointerEvent, what: Dragged): void {
    if (event.button !== 0) return;
    const held = event.currentTarget as HTMLElement;
    const from = { x: event.clientX, y: event.clientY };
    let point = from;
    let frame = 0;
    let spot: Spot | null = null;
    held.setPointerCapture(event.pointerId);
    const look = () => {
      frame = requestAnimationFrame(look);
      spot = null;
      for (const place of this.places) {
        const found = place.spotAt(point.x, point.y);
        if (found) place.scrollAt(point.y);
        place.show(found);
        spot = found ?? spot;
      }
    };
    const move = ({ clientX, clientY }: PointerEvent) => {
      point = { x: clientX, y: clientY };
      if (frame || Math.hypot(clientX - from.x, clientY - from.y) < SLACK) return;
      this.dragged.set(what);
      this.words.set(what.kind === 'new' ? say.insertHere(blockTypes[what.type].label.toLowerCase()) : say.moveHere);
      document.body.style.userSelect = 'none';
      look();
    };
    const end = (isDropped: boolean) => {
      held.removeEventListener('pointermove', move);
      held.removeEventListener('pointerup', up);
      held.removeEventListener('pointercancel', cancel);
      document.removeEventListener('keydown', escape, true);
      document.body.style.userSelect = '';
      if (!frame) return;
      cancelAnimationFrame(frame);
      // The click that follows a drag is not one.
      held.addEventListener('click', (click) => click.stopImmediatePropagation(), { capture: true, once: true });
      setTimeout(() => this.dragged.set(null));
      for (const place of this.places) place.show(null);
      if (isDropped && spot) this.dropped.next({ what, spot });
    };
    const up = () => end(true);
    const cancel = () => end(false);
    const escape = (key: KeyboardEvent) => {
      if (key.key !== 'Escape') return;
      key.stopPropagation();
      end(false);
    };
    held.addEventListener('pointermove', move);
    held.addEventListener('pointerup', up);
    held.addEventListener('pointercancel', cancel);
    document.addEventListener('keydown', escape, true);
  }
}
