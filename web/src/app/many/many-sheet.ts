import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { AnswerInput, ReleaseChange, ReleasePreview, StockChange } from '@domatium/contracts';
import { pathBelow } from '@domatium/core/address';
import type { RegisterRow } from '@domatium/core/register';
import { instantOfWall, wallOf, writeEnd, DAY, type Instant } from '@domatium/core/time';
import { SelectionService } from '../hub/selection.service';
import { AnswerField } from '../releases/answer-field';
import { ChangesForm } from '../releases/change-form';
import { PressFoot } from '../releases/press-foot';
import { PreviewView } from '../releases/preview-view';
import { missingPieceOf } from '../releases/releasing.service';
import { MomentField } from '../shared/moment-field';
import { WideSheet } from '../shared/wide-sheet';
import type { ManyAct } from '../hub/place.service';
import { WorkBar } from '../shared/work';
import { ShiftList } from './shift-list';
import { refusalsOf } from './refusals';
import { spreadWords } from './spread';
import { say } from '@domatium/core/words/many';
import { say as common } from '@domatium/core/words/common';

/** So many names are listed of the pages that can't take part. */
const LISTED = 12;

/** One act on all chosen pages, as one release: says before what it will do, and lets out those that can't. */
@Component({
  selector: 'dm-many-sheet',
  imports: [WideSheet, MomentField, AnswerField, PreviewView, WorkBar, PressFoot, ShiftList],
  templateUrl: './many-sheet.html',
  styleUrls: ['../releases/release-form.scss', './many-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ManySheet extends ChangesForm {
  protected readonly say = say;
  protected readonly common = common;
  readonly act = input.required<ManyAct>();
  protected readonly selection = inject(SelectionService);
  /** The chosen pages as they were when this opened; one that goes meanwhile says so itself. */
  protected readonly pages = signal<readonly RegisterRow[]>([]);
  protected readonly leftOut = signal<ReadonlySet<number>>(new Set());
  protected readonly from = signal<string>('now');
  protected readonly until = signal<string | null>(null);
  protected readonly afterwards = signal<AnswerInput>({ kind: 'not-found' });
  protected readonly cutsLater = signal(false);
  protected readonly days = signal<number>(7);
  /** Out of the bin: with the plan it had, and at another path where one is typed. */
  protected readonly isPlanned = signal(true);
  protected readonly path = signal('');
  protected readonly siteId = signal<number | null>(null);
  /** Of the pages that are to come off those with nothing live or planned from then on: what their addresses give stays. */
  protected readonly off = computed(() => {
    if (this.act() !== 'take-off') return [];
    const from = this.from() === 'now' ? untracked(this.service.now) : instantOfWall(this.wall(this.from()));
    if (from === null) return [];
    return this.pages().filter(({ periods }) => periods.every(({ until }) => until !== null && until <= from));
  });
  /** They get what is chosen here too. */
  protected readonly takesOff = signal(false);
  protected readonly taking = computed(() => {
    const still = new Set(this.takesOff() ? [] : this.off().map(({ id }) => id));
    return this.pages().filter(({ id }) => !this.leftOut().has(id) && !still.has(id));
  });

  protected readonly changes = computed<ReleaseChange[] | null>(() => {
    const siteId = this.siteId();
    if (this.act() === 'move' && siteId === null) return null;
    return this.taking().map((page) => this.changeOf(page));
  });

  /** Pieces that are released with the pages, because they would show nothing of them. */
  protected readonly withPieces = signal<readonly number[]>([]);
  protected override readonly stock = computed<readonly StockChange[]>(() => {
    const from = this.from() === 'now' ? ('now' as const) : this.wall(this.from());
    return this.withPieces().map((itemId) => ({ act: 'put', itemId, from, until: null }));
  });
  protected readonly missingPieces = computed(() => {
    const found = this.isJudging() ? [] : (this.preview()?.findings ?? []);
    return [...new Set(found.flatMap((finding) => missingPieceOf(finding) ?? []))];
  });

  protected readonly refusals = computed(() => {
    const preview = this.preview();
    const faults = this.faults();
    const fields = faults.fields.filter(({ path }) => !path.endsWith('.cutsLater'));
    return refusalsOf(this.changes() ?? [], { ...faults, fields }, preview?.findings ?? []);
  });
  protected readonly refused = computed(() => {
    const names = new Map(this.pages().map(({ id, name }) => [id, name]));
    if (this.isJudging()) return [];
    return this.refusals().pages.map(({ pageId, reasons }) => ({
      pageId,
      name: names.get(pageId) ?? common.aPage,
      reasons: reasons.join(' '),
    }));
  });
  /** Pages on sites that want others to approve first, where not all of them are. */
  protected readonly waiting = computed(() => {
    const faults = this.isJudging() ? [] : (this.preview()?.faults ?? []);
    const sites = new Set(
      faults.flatMap(({ code, params }) =>
        code === 'approvals-missing' ? [(params as { siteId: number }).siteId] : [],
      ),
    );
    const found = this.taking().filter(({ siteId }) => sites.has(siteId));
    return found.length < this.taking().length ? found : [];
  });
  protected readonly waitingWords = computed(() =>
    say.wantAnApproval(
      this.number(this.waiting().length),
      [...new Set(this.waiting().map(({ siteName }) => siteName))].join(', '),
    ),
  );
  protected readonly waitingIds = computed(() => this.waiting().map(({ id }) => id));
  protected readonly listed = computed(() => this.refused().slice(0, LISTED));
  /** Without what blocks: that stands beside its page. */
  protected readonly shown = computed<ReleasePreview | null>(() => {
    const preview = this.preview();
    return preview && { ...preview, findings: [] };
  });
  protected readonly worthFixing = computed(
    () => new Set(this.preview()?.findings.flatMap((one) => (one.severity === 'blocks' ? [] : [one.pageId]))).size,
  );
  /** Periods that are planned for later would go: only where somebody says so. */
  protected readonly laterCuts = computed(() => this.preview()?.cuts.filter(({ isLater }) => isLater).length ?? 0);
  /** Pages where the plan would be cut can also be left out, so that choice does not stand among the refusals. */
  protected readonly cutting = computed(() =>
    this.faults().fields.flatMap(({ path }) => {
      const [, index] = /^changes\[(\d+)\]\.cutsLater/.exec(path) ?? [];
      const change = index === undefined ? undefined : this.changes()?.[Number(index)];
      return change ? [change.pageId] : [];
    }),
  );
  protected readonly canPress = computed(
    () =>
      !this.isBusy() &&
      !this.isJudging() &&
      !this.meanwhile() &&
      !!this.preview() &&
      this.taking().length > 0 &&
      !this.refused().length &&
      !this.cutting().length &&
      !this.refusals().whole.length &&
      !this.refusals().fields.size,
  );
  protected readonly isEnding = computed(() => this.act() === 'take-off' || this.act() === 'bin');
  /** Everything that belongs to a page or a field stands there. */
  protected readonly shownElsewhere = ['changes'];
  protected readonly emptySet: ReadonlySet<number> = new Set();

  /** The name of the page, where it is about a single one. */
  protected readonly one = computed(() => (this.pages().length === 1 ? (this.pages()[0]?.name ?? null) : null));

  protected readonly heading = computed(() => {
    const count = this.pages().length === 1 ? say.onePage : say.pages(this.number(this.pages().length));
    switch (this.act()) {
      case 'release':
        return say.releaseWithCount(count);
      case 'take-off':
        return say.takeOffWithCount(count);
      case 'shift':
        return say.shiftTheDatesOf(count);
      case 'afterwards':
        return say.whatComesAfter(count);
      case 'move':
        return say.moveToAnotherSite(count);
      case 'bin':
        return say.putInTheBin(this.one() ?? count);
      case 'restore':
        return say.restoreWithOne(this.one() ?? count);
    }
  });
  protected readonly lead = computed(() => {
    const spread = spreadWords(this.taking());
    switch (this.act()) {
      case 'release':
        return say.eachGetsItsDraftAsIt(spread);
      case 'take-off':
        return say.nobodyReachesThemAnyMoreRevisions(spread);
      case 'shift':
        return say.everythingThatIsStillToCome(spread);
      case 'afterwards':
        return say.countsFromTheEndOfEach(spread);
      case 'move':
        return say.eachKeepsItsPathOldAddresses(spread);
      case 'bin':
        return say.whatIsLiveComesOffNow(spread);
      case 'restore':
        return say.eachComesBackWithItsDraft(spread);
    }
  });
  /** What the press will do, in one line. */
  protected readonly summary = computed(() => {
    const preview = this.preview();
    if (!preview) return '';
    const { redirect, nowhere } = preview.links;
    return [
      `${spreadWords(this.taking())}`,
      say.forVisitors(this.number(preview.lineCount), preview.lineCount === 1 ? say.changeSmall : say.changes),
      ...(redirect ? [say.linksElsewhereWillLeadThrough(this.number(redirect))] : []),
      ...(nowhere ? [say.linksElsewhereWillLeadNowhere(this.number(nowhere))] : []),
      ...(this.worthFixing() ? [say.pagesHaveSomethingWorthFixing(this.number(this.worthFixing()))] : []),
    ].join(' · ');
  });
  protected readonly label = computed(() => {
    const count = this.taking().length === 1 ? say.onePage : say.pages(this.number(this.taking().length));
    const when = this.from() === 'now' ? say.now : say.on(this.words(this.from()));
    switch (this.act()) {
      case 'release':
        return say.putLive(count, when);
      case 'take-off':
        return say.takeOffWithCount2(count, when);
      case 'shift':
        return say.shiftBy(count, this.daysWords());
      case 'afterwards':
        return say.setThisFor(count);
      case 'move':
        return say.moveWithCount(count, when);
      case 'bin':
        return say.putInTheBinNow(this.one() ?? count);
      case 'restore':
        return say.restoreWithOne2(this.one() ?? count, this.isPlanned() ? say.asItWasPlanned : say.off);
    }
  });
  protected readonly daysWords = computed(() => say.shiftedBy(this.days()));
  protected readonly endWords = computed(() => {
    const until = this.until();
    const at = until === null ? null : instantOfWall(this.wall(until));
    return at === null ? '' : say.onTheAirTo(writeEnd(at, this.service.zone(), this.service.now()));
  });

  constructor() {
    super();
    effect(() => {
      this.act();
      this.withPieces.set([]);
      // From a page's own sheet it is about that page; else about all that are chosen.
      const open = untracked(() => this.place.pageId());
      const ids = open === null ? [...untracked(() => this.selection.ids())] : [open];
      void this.service.rowsOf(ids).then((rows) => this.pages.set(rows));
    });
    this.watch();
  }

  private changeOf(page: RegisterRow): ReleaseChange {
    const from = this.from() === 'now' ? ('now' as const) : this.wall(this.from());
    const until = this.until();
    const pageId = page.id;
    switch (this.act()) {
      case 'release':
        return {
          act: 'release',
          pageId,
          from,
          until: until === null ? null : this.wall(until),
          afterwards: until === null ? null : this.afterwards(),
          cutsLater: this.cutsLater(),
        };
      case 'take-off':
        return { act: 'take-off', pageId, from, until: null, afterwards: this.afterwards() };
      case 'shift':
        return { act: 'shift', pageId, days: this.days() };
      case 'afterwards':
        return { act: 'afterwards', pageId, afterwards: this.afterwards() };
      case 'bin':
        return { act: 'bin', pageId, afterwards: this.afterwards() };
      case 'restore': {
        const path = this.path().trim();
        const typed = path.startsWith('/') ? path : `/${path}`;
        return { act: 'restore', pageId, isPlanned: this.isPlanned(), path: path && this.one() ? typed : null };
      }
      case 'move':
        return { act: 'move', pageId, at: from, siteId: this.siteId() ?? 0, path: this.pathOf(page), leaves: null };
    }
  }

  private pathOf(page: RegisterRow): string {
    const site = this.service.head()?.sites.find(({ id }) => id === page.siteId);
    return pathBelow(site?.basePath ?? '/', page.path);
  }

  protected fieldError(field: string): string | null {
    return this.refusals().fields.get(field) ?? null;
  }

  protected readonly answerError = (path: string) => (path === '' ? this.fieldError('afterwards') : null);

  protected leaveOut(ids: readonly number[]): void {
    this.leftOut.update((all) => new Set([...all, ...ids]));
  }

  protected leaveOutRefused(): void {
    this.leaveOut(this.refused().map(({ pageId }) => pageId));
  }

  protected suggestEnd(): void {
    const start =
      this.from() === 'now' ? this.service.now() : (instantOfWall(this.wall(this.from())) ?? this.service.now());
    this.until.set(`${wallOf((start + 28 * DAY) as Instant, this.service.zone()).slice(0, 10)}T00:00`);
  }

  protected setDays(value: number, isEarlier: boolean): void {
    const days = Math.abs(Math.trunc(value));
    this.days.set(isEarlier ? -days : days);
  }

  protected number(value: number): string {
    return value.toLocaleString('en-GB');
  }

  protected async go(): Promise<void> {
    const done = {
      release: say.pagesAreOnTheirWayTo(this.number(this.taking().length)),
      'take-off': say.pagesAreBeingTakenOff(this.number(this.taking().length)),
      shift: say.pagesAreShiftedBy(this.number(this.taking().length), this.daysWords()),
      afterwards: say.setForPages(this.number(this.taking().length)),
      move: say.pagesMove(this.number(this.taking().length)),
      bin: say.putInTheBinWithOne(this.one() ?? say.pages(this.number(this.taking().length))),
      restore: say.restored(this.one() ?? say.pages(this.number(this.taking().length))),
    }[this.act()];
    const isPlanned = this.from() !== 'now' && this.act() === 'release';
    await this.press(isPlanned ? say.pagesGoLiveOn(this.number(this.taking().length), this.words(this.from())) : done);
  }
}
