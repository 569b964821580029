import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FoundGroup } from '@domatium/contracts';
import type { MendCode } from '@domatium/core/words';
import { say } from '@domatium/core/words/fixing';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { WideSheet } from '../shared/wide-sheet';
import { MendMany } from './mend-many';

/** What is to fix in the portfolio, by what it is: what blocks first, then by the visits it affects; worked off with keys. */
@Component({
  selector: 'dm-fix-sheet',
  imports: [MendMany, RouterLink, WideSheet],
  templateUrl: './fix-sheet.html',
  styleUrl: './fix-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FixSheet {
  protected readonly say = say;
  protected readonly place = inject(PlaceService);
  protected readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  protected readonly groups = signal<readonly FoundGroup[] | null>(null);
  protected readonly trouble = signal<string | null>(null);
  /** What is mended on all of its pages. */
  protected readonly chosen = signal<{ readonly group: FoundGroup; readonly mend: MendCode } | null>(null);
  private readonly open = signal<ReadonlySet<string>>(new Set());
  protected readonly lead = computed(() => {
    const all = this.groups();
    if (!all?.length) return '';
    return say.lead(all.length, new Set(all.flatMap(({ pageIds }) => pageIds)).size);
  });

  constructor() {
    effect(() => {
      // Drafts that are checked anew are heard of as pages that changed.
      this.service.version();
      const portfolioId = this.service.portfolioId();
      if (portfolioId) untracked(() => void this.load(portfolioId));
    });
  }

  private async load(portfolioId: number): Promise<void> {
    try {
      this.groups.set(await this.client.call(api.toFix, { params: { portfolioId } }));
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }

  protected keyOf = ({ severity, code }: FoundGroup): string => `${severity} ${code}`;
  protected isOpen = (group: FoundGroup): boolean => this.open().has(this.keyOf(group));

  protected toggle(group: FoundGroup): void {
    const open = new Set(this.open());
    if (!open.delete(this.keyOf(group))) open.add(this.keyOf(group));
    this.open.set(open);
  }

  /** Pages of a group that are not listed. */
  protected moreOf({ pageIds, found }: FoundGroup): number {
    return pageIds.length - new Set(found.map(({ pageId }) => pageId)).size;
  }

  protected press(event: KeyboardEvent): void {
    const list = event.currentTarget as HTMLElement;
    const lines = [...list.querySelectorAll<HTMLElement>('.line')];
    const at = lines.findIndex((line) => line === document.activeElement);
    const line = lines[at];
    if (!line || event.ctrlKey || event.metaKey || event.altKey) return;
    const key = line.dataset['key'];
    const isClosed = line.getAttribute('aria-expanded') === 'false';
    const group = lines.slice(0, at + 1).findLast((one) => one.dataset['key']);
    if (event.key === 'ArrowDown' || event.key === 'j') lines[at + 1]?.focus();
    else if (event.key === 'ArrowUp' || event.key === 'k') lines[at - 1]?.focus();
    else if (event.key === 'ArrowRight' && key && isClosed) line.click();
    else if (event.key === 'ArrowLeft' && key && !isClosed) line.click();
    else if (event.key === 'ArrowLeft' && !key) group?.focus();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
