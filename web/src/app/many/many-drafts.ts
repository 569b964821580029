import { computed, inject, Injectable, signal } from '@angular/core';
import { say } from '@domatium/core/words/many';
import { Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { WrittenDrafts, type DraftSeen } from './written-drafts';

/** What would become of many drafts, or what became of them. */
interface DraftsView {
  readonly pages: readonly (DraftSeen & { readonly hasMore: boolean })[];
  readonly out: readonly object[];
}
/** Asks what would become of the drafts of pages; where they were `seen`, changes them. */
export type AskOfDrafts<View> = (pageIds: readonly number[], seen: readonly DraftSeen[] | null) => Promise<View>;

/** So many pages are shown with what becomes of them. */
const SHOWN = 60;
/** The first that are asked about, so that something is seen at once; then so many at a time. */
const [FIRST, REST] = [100, 2000];

/**
 * A change of the drafts of all chosen pages: what would become of each is looked at before; what was written can be taken
 * back, and is released as any other drafts are. Of one sheet; looks at the drafts again with everything that is asked.
 */
@Injectable()
export class ManyDrafts<View extends DraftsView> {
  private readonly written = inject(WrittenDrafts);
  private readonly place = inject(PlaceService);
  private readonly selection = inject(SelectionService);
  private readonly service = inject(RegisterService);
  /** The pages, as they were chosen when this opened where nothing else is said. */
  readonly ids = signal<readonly number[]>([...this.selection.ids()]);
  readonly count = computed(() => this.ids().length);

  readonly view = signal<View | null>(null);
  readonly refusal = signal<string | null>(null);
  readonly isBusy = signal(false);
  readonly isLooking = signal(false);
  /** How many pages have been looked at. */
  readonly looked = signal(0);
  /** What else is in those drafts would go out with it: they can be left out. */
  readonly leavesOut = signal(false);
  readonly shown = computed(() => (this.view()?.pages ?? []).slice(0, SHOWN) as View['pages']);
  readonly more = computed(() => (this.view()?.pages.length ?? 0) - this.shown().length);
  readonly withMore = computed(() => this.view()?.pages.filter(({ hasMore }) => hasMore).length ?? 0);
  private readonly taking = computed(
    () => this.view()?.pages.filter(({ hasMore }) => !(hasMore && this.leavesOut())) ?? [],
  );
  readonly canGo = computed(() => !this.isBusy() && !this.isLooking() && this.taking().length > 0);
  readonly label = computed(() => {
    const count = this.taking().length;
    if (!count) return say.nothingToChangeYet;
    return this.service.mayRelease() ? say.placeAndRelease(count) : say.placeInDrafts(count);
  });
  private asked = 0;

  /** Looks at what would become of the drafts; what was asked before and comes later is not shown. */
  async look(ask: AskOfDrafts<View> | null): Promise<void> {
    const asked = ++this.asked;
    this.refusal.set(null);
    this.looked.set(0);
    if (!ask) {
      this.isLooking.set(false);
      return this.view.set(null);
    }
    this.isLooking.set(true);
    try {
      let whole: View | null = null;
      const ids = this.ids();
      for (let first = 0; first < ids.length; first += first ? REST : FIRST) {
        const some = ids.slice(first, first + (first ? REST : FIRST));
        const view = await ask(some, null);
        if (asked !== this.asked) return;
        whole = whole ? { ...view, pages: [...whole.pages, ...view.pages], out: [...whole.out, ...view.out] } : view;
        this.view.set(whole);
        this.looked.set(first + some.length);
      }
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (asked !== this.asked) return;
      this.refusal.set(error.message);
      this.view.set(null);
    }
    this.isLooking.set(false);
  }

  /** Changes the drafts that are taken, as they were seen, and goes on to their release. */
  async go(ask: AskOfDrafts<View> | null): Promise<void> {
    if (!ask || !this.canGo()) return;
    const seen = this.taking().map(({ pageId, version }) => ({ pageId, version }));
    this.isBusy.set(true);
    this.refusal.set(null);
    try {
      const { pages } = await ask(
        seen.map(({ pageId }) => pageId),
        seen,
      );
      this.written.say(pages);
      this.place.go({ panel: this.service.mayRelease() ? 'many-release' : null });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      await this.look(ask);
      this.refusal.set(error.message);
    } finally {
      this.isBusy.set(false);
    }
  }
}
