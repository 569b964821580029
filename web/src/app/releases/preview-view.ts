import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { ReleasePreview } from '@domatium/contracts';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { Breakable } from '../shared/breakable';
import { missingPieceOf, type Faults } from './releasing.service';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** Before the button: what changes for visitors, what is cut, and what has to be mended first. */
@Component({
  selector: 'dm-preview-view',
  imports: [Breakable],
  templateUrl: './preview-view.html',
  styleUrl: './preview-view.scss',
  host: { '[class.judging]': 'isJudging()', '[attr.aria-busy]': 'isJudging()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PreviewView {
  protected readonly say = say;
  readonly preview = input.required<ReleasePreview | null>();
  readonly faults = input.required<Faults>();
  /** Field paths whose faults are shown beside their fields already. */
  readonly shownElsewhere = input<readonly string[]>([]);
  /** What is there was judged of something else: it is not shown until the answer is there. */
  readonly isJudging = input(false);
  /** Whether a preview was asked for; without it the fields above are not complete yet. */
  readonly isWaiting = input(true);
  /** Whether a piece that shows nothing yet can go with the release. */
  readonly takesPieces = input(false);
  /** What somebody else did to what this rests on while it was looked at. */
  readonly meanwhile = input<ReleasePreview['latest']>(null);
  readonly seen = output();
  readonly withPiece = output<number>();
  readonly goTo = output<{ blockId: string; field: string } | null>();
  private readonly service = inject(RegisterService);

  protected readonly lines = computed(() => {
    let last = '';
    return (this.preview()?.lines ?? []).map((line) => {
      const when = this.write(line.at);
      const shown = when === last ? '' : when;
      last = when;
      return { ...line, when: shown };
    });
  });
  /** Things of the stock, with how many pages they are on. */
  protected readonly things = computed(() =>
    (this.preview()?.stock ?? []).map(({ name, revision, pages }) => ({
      name,
      words: revision === null ? say.showsNothing : say.revision(revision),
      pages: pages === 1 ? say.on1Page : say.onPages(pages.toLocaleString('en')),
    })),
  );
  protected readonly cuts = computed(() =>
    (this.preview()?.cuts ?? []).map((cut) => ({
      ...cut,
      words: say.revisionNoLongerFrom(
        this.ofPage(cut.pageName),
        cut.revision,
        this.write(cut.from),
        cut.until === null
          ? say.onSmall
          : say.to(writeEnd(cut.until as Instant, this.service.zone(), this.service.now())),
      ),
    })),
  );
  protected readonly isBlocked = computed(
    () =>
      this.faults().whole !== null ||
      this.otherFaults().length > 0 ||
      (this.preview()?.findings ?? []).some(({ severity }) => severity === 'blocks'),
  );
  protected readonly otherFaults = computed(() =>
    this.faults().fields.filter(({ path }) => !this.shownElsewhere().some((shown) => path.startsWith(shown))),
  );

  protected readonly meanwhileWords = computed(() => {
    const latest = this.meanwhile();
    if (!latest) return null;
    const [who, at] = [
      latest.by ?? say.somebody,
      writeInstant(latest.at as Instant, this.service.zone(), this.service.now()),
    ];
    return latest.summary === null ? say.changedTheDraftMeanwhile(who, at) : say.didMeanwhile(who, at, latest.summary);
  });

  /** The piece that a finding is about, where it can go with the release. */
  protected pieceOf(finding: ReleasePreview['findings'][number]): number | null {
    return this.takesPieces() ? missingPieceOf(finding) : null;
  }

  /** Of many pages each is named. */
  protected ofPage(name: string): string {
    return (this.preview()?.pages.length ?? 0) > 1 && name ? `${name}: ` : '';
  }

  private write(at: number): string {
    const now = this.service.now();
    return at <= (this.preview()?.now ?? 0) ? common.atPresent : writeInstant(at as Instant, this.service.zone(), now);
  }
}
