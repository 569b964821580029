import { inject, Injectable } from '@angular/core';
import { say } from '@domatium/core/words/hub';
import { NoticeService } from './notices';

/** What is said where so many characters were pasted into a field that has room for fewer. */
export const tooLongToPaste = (label: string, length: number, room: number) =>
  say.tooLongToPaste(label, length, Math.max(0, room));

/** A field with a longest length takes all that is pasted into it, or nothing: a browser would cut it off and say nothing. */
@Injectable({ providedIn: 'root' })
export class WholePaste {
  private readonly notices = inject(NoticeService);

  take(event: ClipboardEvent): void {
    const { target } = event;
    if (!(target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) || target.maxLength < 0) return;
    const pasted = (event.clipboardData?.getData('text/plain') ?? '').replace(/\r\n?/g, '\n');
    const chosen = (target.selectionEnd ?? 0) - (target.selectionStart ?? 0);
    const room = target.maxLength - target.value.length + chosen;
    if (pasted.length <= room) return;
    event.preventDefault();
    const label = target.labels?.[0]?.textContent.trim() || target.getAttribute('aria-label') || say.thisField;
    this.notices.say({ kind: 'trouble', text: tooLongToPaste(label, pasted.length, room) });
  }
}
