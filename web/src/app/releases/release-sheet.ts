import { ChangeDetectionStrategy, Component, computed, input, signal, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { AnswerInput, ReleaseChange, ReleasePreview, StockChange } from '@domatium/contracts';
import { instantOfWall, wallOf, writeEnd, DAY, type Instant } from '@domatium/core/time';
import { PageReview } from '../remarks/page-review';
import { MomentField } from '../shared/moment-field';
import { WideSheet } from '../shared/wide-sheet';
import { AnswerField } from './answer-field';
import { ChangeForm } from './change-form';
import { PlanDrawing } from '../shared/plan-drawing';
import { MakeRoom } from './make-room';
import { PressFoot } from './press-foot';
import { PreviewView } from './preview-view';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** Releases a page's draft for a period, and says before the button what that changes for whom. */
@Component({
  selector: 'dm-release-sheet',
  imports: [PageReview, WideSheet, MomentField, AnswerField, PreviewView, PlanDrawing, PressFoot, MakeRoom],
  templateUrl: './release-sheet.html',
  styleUrl: './release-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReleaseSheet extends ChangeForm {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  private readonly router = inject(Router);
  protected readonly page = computed(() => this.service.page(this.pageId()) ?? null);
  /** `now`, or a wall-clock time. */
  protected readonly from = signal<string>('now');
  protected readonly until = signal<string | null>(null);
  protected readonly afterwards = signal<AnswerInput | null>({ kind: 'not-found' });
  protected readonly cutsLater = signal(false);
  /** Pieces that are released with the page, because it would show nothing of them. */
  protected readonly withPieces = signal<readonly number[]>([]);
  protected override readonly stock = computed<readonly StockChange[]>(() => {
    const from = this.from();
    return this.withPieces().map((itemId) => ({
      act: 'put',
      itemId,
      from: from === 'now' ? 'now' : this.wall(from),
      until: null,
    }));
  });
  private hasChosenEnd = false;

  protected readonly change = computed<ReleaseChange | null>(() => {
    const [from, until] = [this.from(), this.until()];
    return {
      act: 'release',
      pageId: this.pageId(),
      from: from === 'now' ? 'now' : this.wall(from),
      until: until === null ? null : this.wall(until),
      afterwards: until === null ? null : this.afterwards(),
      cutsLater: this.cutsLater(),
    };
  });
  protected readonly offer = computed(() => this.preview()?.pages[0] ?? null);
  protected readonly cutsPlanned = computed(
    () => this.cutsLater() || (this.preview()?.cuts.some(({ isLater }) => isLater) ?? false),
  );
  protected readonly label = computed(() => {
    const revision = this.offer()?.revision;
    return say.putRevisionLive(revision ?? '…', this.from() === 'now' ? say.now : say.on(this.words(this.from())));
  });
  protected readonly lead = computed(() => {
    const revision = this.offer()?.revision;
    return revision === undefined
      ? ''
      : say.revisionIsTheDraftAsIt(revision, this.page()?.host ?? '', this.page()?.path ?? '');
  });
  protected readonly endWords = computed(() => {
    const until = this.until();
    const at = until === null ? null : instantOfWall(this.wall(until));
    return at === null ? '' : say.onTheAirTo(writeEnd(at, this.service.zone(), this.service.now()));
  });
  protected readonly drawn = computed(() => {
    const from = this.from() === 'now' ? this.service.now() : instantOfWall(this.wall(this.from()));
    const until = this.until();
    return from === null
      ? null
      : {
          from,
          until: until === null ? null : instantOfWall(this.wall(until)),
          revision: this.offer()?.revision ?? null,
        };
  });
  /** The page's own period that begins where this one ends: then there is no afterwards to choose. */
  protected readonly follower = computed(() => {
    const until = this.drawn()?.until ?? null;
    return until === null ? null : (this.page()?.periods.find(({ from }) => from === until) ?? null);
  });
  protected readonly shownElsewhere = [
    'changes[0].from',
    'changes[0].until',
    'changes[0].afterwards',
    'changes[0].cutsLater',
  ];

  constructor() {
    super();
    this.watch();
  }

  /** Takes the end that fits the plan there is, as long as nobody has chosen one. */
  protected override previewed(preview: ReleasePreview): void {
    const offer = preview.pages[0];
    if (!offer || this.hasChosenEnd) return;
    this.hasChosenEnd = true;
    if (offer.proposedUntil !== null) {
      this.until.set(wallOf(offer.proposedUntil as Instant, this.service.zone()));
      this.afterwards.set(offer.proposedAfterwards ?? { kind: 'not-found' });
    }
  }

  protected chooseFrom(local: string | null): void {
    this.rooms.set([]);
    this.from.set(local ?? 'now');
  }

  protected chooseUntil(local: string | null): void {
    this.hasChosenEnd = true;
    this.rooms.set([]);
    this.until.set(local);
  }

  protected suggestEnd(): void {
    const start =
      this.from() === 'now' ? this.service.now() : (instantOfWall(this.wall(this.from())) ?? this.service.now());
    this.chooseUntil(`${wallOf((start + 28 * DAY) as Instant, this.service.zone()).slice(0, 10)}T00:00`);
  }

  protected go(): void {
    const page = this.page();
    const link =
      page && this.from() === 'now' && page.role !== 'not-found'
        ? { label: say.seeIt, href: this.session.openHref(page.host, page.path) }
        : undefined;
    void this.press(
      this.from() === 'now'
        ? say.isOnItsWayToVisitors(page?.name ?? '')
        : say.goesLiveOn(page?.name ?? '', this.words(this.from())),
      link,
    );
  }

  protected goTo(place: { blockId: string } | null): void {
    void this.router.navigate(['/portfolios', this.service.portfolioId(), 'pages', this.pageId(), 'edit'], {
      queryParams: { block: place?.blockId ?? 'page' },
    });
  }
}
