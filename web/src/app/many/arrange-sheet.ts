import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { labelName } from '@domatium/contracts';
import type { RegisterRow } from '@domatium/core/register';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { errorsOf } from '../hub/forms';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { ArrangeService, type Arranged } from './arrange.service';
import { spreadWords } from './spread';
import { say } from '@domatium/core/words/many';
import { say as common } from '@domatium/core/words/common';

const KEEP = 'keep';

/** Campaign, owner and labels of all chosen pages. Visitors notice nothing of it. */
@Component({
  selector: 'dm-arrange-sheet',
  imports: [WideSheet],
  templateUrl: './arrange-sheet.html',
  styleUrl: './arrange-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangeSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly selection = inject(SelectionService);
  private readonly arranging = inject(ArrangeService);
  protected readonly pages = signal<readonly RegisterRow[]>([]);
  protected readonly keep = KEEP;
  /** An identity, `none`, or as it is. */
  protected readonly campaign = signal<string>(KEEP);
  protected readonly owner = signal<string>(KEEP);
  protected readonly added = signal<readonly string[]>([]);
  protected readonly removed = signal<ReadonlySet<string>>(new Set());
  protected readonly labelError = signal<string | null>(null);
  protected readonly refusal = signal<string | null>(null);
  protected readonly isBusy = signal(false);

  /** Labels on the chosen pages, with how many have each. */
  protected readonly labels = computed(() => {
    const counts = new Map<string, number>();
    for (const { labels } of this.pages()) for (const label of labels) counts.set(label, (counts.get(label) ?? 0) + 1);
    return [...counts].sort(([a], [b]) => a.localeCompare(b)).map(([name, count]) => ({ name, count }));
  });
  protected readonly suggested = computed(() =>
    (this.service.head()?.labels ?? []).filter((name) => !this.added().includes(name)),
  );
  protected readonly changed = computed(() => {
    const campaignId = this.identity(this.campaign());
    const ownerId = this.identity(this.owner());
    return this.pages().flatMap((page) => {
      const labels = this.labelsOf(page);
      const isSame =
        (campaignId === undefined || campaignId === this.campaignOf(page)) &&
        (ownerId === undefined || ownerId === this.ownerOf(page)) &&
        labels.join('\n') === [...page.labels].sort().join('\n');
      if (isSame) return [];
      return [{ page, next: this.arranged(page, campaignId, ownerId, labels) }];
    });
  });
  protected readonly lead = computed(() => say.visitorsNoticeNothingOfThis(spreadWords(this.pages())));
  protected readonly label = computed(() => {
    const count = this.changed().length;
    return count
      ? say.change(count === 1 ? common.onePage : say.pages(count.toLocaleString('en-GB')))
      : say.nothingToChangeYet;
  });

  constructor() {
    void this.service.rowsOf([...this.selection.ids()]).then((rows) => this.pages.set(rows));
  }

  protected add(input: HTMLInputElement): void {
    const name = input.value.trim();
    if (!name) return;
    const error = errorsOf(labelName(), name)[''] ?? null;
    this.labelError.set(error);
    if (error) return;
    this.added.update((all) => (all.includes(name) ? all : [...all, name]));
    input.value = '';
  }

  protected dropAdded(name: string): void {
    this.added.update((all) => all.filter((one) => one !== name));
  }

  protected toggleRemoved(name: string): void {
    this.removed.update((all) => new Set(all.has(name) ? [...all].filter((one) => one !== name) : [...all, name]));
  }

  private labelsOf(page: RegisterRow): string[] {
    return [...new Set([...page.labels.filter((name) => !this.removed().has(name)), ...this.added()])].sort();
  }

  private identity(value: string): number | null | undefined {
    return value === KEEP ? undefined : value === 'none' ? null : Number(value);
  }

  private campaignOf({ campaign }: RegisterRow): number | null {
    return this.service.head()?.campaigns.find(({ name }) => name === campaign)?.id ?? null;
  }

  private ownerOf({ owner }: RegisterRow): number | null {
    return this.service.head()?.people.find(({ name }) => name === owner)?.id ?? null;
  }

  private arranged(
    page: RegisterRow,
    campaignId: number | null | undefined,
    ownerId: number | null | undefined,
    labels: readonly string[],
  ): Arranged {
    return {
      id: page.id,
      version: page.version,
      ...(campaignId === undefined ? {} : { campaignId }),
      ...(ownerId === undefined ? {} : { ownerId }),
      labels: [...labels],
    };
  }

  protected async go(): Promise<void> {
    const changed = this.changed();
    if (!changed.length || this.isBusy()) return;
    this.isBusy.set(true);
    const refusal = await this.arranging.arrange(
      changed.map(({ next }) => next),
      say.changed(changed.length === 1 ? common.onePage : say.pages(changed.length.toLocaleString('en-GB'))),
      changed.map(({ page }) => this.arranged(page, this.campaignOf(page), this.ownerOf(page), page.labels)),
    );
    this.isBusy.set(false);
    this.refusal.set(refusal);
    if (!refusal) this.place.go({ panel: null });
  }
}
