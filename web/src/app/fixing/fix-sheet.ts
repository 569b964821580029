import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { AcceptedView, FoundGroup, FoundPage } from '@domatium/contracts';
import { SETTABLE } from '@domatium/core/checks';
import { isoInstant, writeInstant, type Instant } from '@domatium/core/time';
import type { MendCode } from '@domatium/core/words';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/fixing';
import { AcceptedService } from '../hub/accepted.service';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { AcceptFinding } from '../shared/accept-finding';
import { Work, WorkBar } from '../shared/work';
import { WideSheet } from '../shared/wide-sheet';
import { MendMany } from './mend-many';

/** What is to fix in the portfolio, by what it is: what blocks first, then by the visits it affects; worked off with keys. */
@Component({
  selector: 'dm-fix-sheet',
  imports: [AcceptFinding, MendMany, RouterLink, WideSheet, WorkBar],
  templateUrl: './fix-sheet.html',
  styleUrl: './fix-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FixSheet {
  protected readonly say = say;
  protected readonly place = inject(PlaceService);
  protected readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  protected readonly accepted = inject(AcceptedService);
  /** What is about to be let be. */
  protected readonly accepting = signal<{ readonly group: FoundGroup; readonly found: FoundPage } | null>(null);
  protected readonly groups = signal<readonly FoundGroup[] | null>(null);
  protected readonly trouble = signal<string | null>(null);
  /** What is mended on all of its pages. */
  protected readonly chosen = signal<{ readonly group: FoundGroup; readonly mend: MendCode } | null>(null);
  /** The moment that is looked at, `null` for now: what drafts and live pages have then. */
  protected readonly at = computed(() => (this.service.isNow() ? null : this.service.shown()));
  /** Of which moment the groups are. */
  private readonly loaded = signal<Instant | null>(null);
  protected readonly running = signal<Work | null>(null);
  private readonly open = signal<ReadonlySet<string>>(new Set());
  protected readonly lead = computed(() => {
    const all = this.groups();
    const at = this.at();
    const when = at === null ? '' : say.asOf(writeInstant(at, this.service.zone(), this.service.now()));
    if (!all?.length) return when;
    return when + say.lead(all.length, new Set(all.flatMap(({ pageIds }) => pageIds)).size);
  });

  constructor() {
    effect(() => {
      const portfolioId = this.service.portfolioId();
      const at = this.at();
      // Drafts that are checked anew are heard of as pages that changed; another moment is judged once, as it takes its time.
      if (at === null) this.service.version();
      if (portfolioId) untracked(() => void this.load(portfolioId, at));
    });
    inject(DestroyRef).onDestroy(() => this.running()?.cancel());
  }

  private async load(portfolioId: number, at: Instant | null): Promise<void> {
    this.running()?.cancel();
    const work = new Work(this.service.events);
    this.running.set(work);
    if (at !== this.loaded()) this.groups.set(null);
    try {
      const query = at === null ? {} : { at: isoInstant(at) };
      const groups = await this.client.call(api.toFix, { params: { portfolioId }, query }, work);
      if (this.running() !== work) return;
      this.groups.set(groups);
      this.loaded.set(at);
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (this.running() === work) this.trouble.set(work.isCancelled() ? say.cancelled : error.message);
    } finally {
      work.end();
      if (this.running() === work) this.running.set(null);
    }
  }

  protected keyOf = ({ severity, code }: FoundGroup): string => `${severity} ${code}`;
  protected isOpen = (group: FoundGroup): boolean => this.open().has(this.keyOf(group));

  protected toggle(group: FoundGroup): void {
    const open = new Set(this.open());
    if (!open.delete(this.keyOf(group))) open.add(this.keyOf(group));
    this.open.set(open);
  }

  protected mayAccept = ({ code }: FoundGroup): boolean => (SETTABLE as readonly string[]).includes(code);

  /** Lists are read anew while one writes why: what and where tells lines apart. */
  protected isAccepting(group: FoundGroup, { pageId, blockId, message }: FoundPage): boolean {
    const one = this.accepting();
    if (!one || this.keyOf(one.group) !== this.keyOf(group)) return false;
    return one.found.pageId === pageId && one.found.blockId === blockId && one.found.message === message;
  }

  protected saidBy({ by, at, until }: AcceptedView): string {
    const write = (when: number) => writeInstant(when as Instant, this.service.zone(), this.service.now());
    return say.acceptedBy(by ?? common.nobody, write(at), until === null ? null : write(until));
  }

  /** Pages of a group that are not listed. */
  protected moreOf({ pageIds, found }: FoundGroup): number {
    return pageIds.length - new Set(found.map(({ pageId }) => pageId)).size;
  }

  private askOf(line: HTMLElement | undefined, index: number): void {
    const group = this.groups()?.find((one) => this.keyOf(one) === line?.dataset['key']);
    const found = group?.found[index];
    if (group && found && this.service.mayRelease() && this.mayAccept(group)) this.accepting.set({ group, found });
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
    else if (event.key === 'a' && !key) this.askOf(group, Number(line.dataset['found']));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
