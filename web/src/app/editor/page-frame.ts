import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { rulesOf, saidOf, standingOf, type PageFrame, type PartChoice } from '@domatium/core/stock';
import { say } from '@domatium/core/words/stock';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { RuleWords } from '../hub/rule-words';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';

const NOTHING: PageFrame = { header: null, footer: null, bands: null };

/** What stands around the page, who said so, and what the page chooses itself: part of its draft and released with it. */
@Component({
  selector: 'dm-page-frame',
  template: `
    @if (draft.document()) {
      <section class="card" [attr.aria-label]="say.aroundThisPage">
        <h2>{{ say.aroundThisPage }}</h2>
        @if (lockedBy(); as words) {
          <p class="field-note"><i class="bi bi-lock-fill" aria-hidden="true"></i> {{ words }}</p>
        }
        <fieldset [disabled]="!!lockedBy()">
          @for (field of fields(); track field.key) {
            <label class="form-label" [for]="'page-' + field.key">{{ field.label }}</label>
            <select [id]="'page-' + field.key" class="form-select" (change)="choose(field.key, $any($event.target).value)">
              <option value="" [selected]="field.own === null">{{ say.asItsSite(field.above) }}</option>
              <option value="name" [selected]="field.own === 'name'">{{ say.nameOnly }}</option>
              <option value="none" [selected]="field.own === 'none'">{{ say.noneAtAll }}</option>
              @for (one of field.items; track one.id) {
                <option [value]="one.id" [selected]="field.own === one.id">{{ one.name }}</option>
              }
            </select>
            <div class="field-note">{{ field.why }}</div>
          }
          <label class="form-label" for="page-bands">{{ say.noticeBands }}</label>
          <select id="page-bands" class="form-select" (change)="chooseBands($any($event.target).value)">
            <option value="" [selected]="own().bands === null">{{ say.asItsSite(bandsAbove()) }}</option>
            <option value="none" [selected]="own().bands?.length === 0">{{ say.noneAtAll }}</option>
            @for (one of bandItems(); track one.id) {
              <option [value]="one.id" [selected]="own().bands?.[0] === one.id">{{ one.name }}</option>
            }
          </select>
        </fieldset>
      </section>
    }
  `,
  styles: `
    .form-label {
      display: block;
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageFrameCard {
  protected readonly say = say;
  protected readonly draft = inject(DraftService);
  private readonly world = inject(PageWorld);
  private readonly stock = inject(StockService);
  private readonly register = inject(RegisterService);
  private readonly words = inject(RuleWords);
  protected readonly own = computed(() => this.draft.document()?.metadata.frame ?? NOTHING);
  private readonly said = computed(() => {
    const rules = rulesOf({ standings: this.world.held()?.standings ?? [] });
    const place = this.world.place();
    return { above: standingOf(saidOf(rules, place, null)), whole: standingOf(saidOf(rules, place, this.own())) };
  });
  protected readonly lockedBy = computed(() => {
    const by = this.said().whole.lockedBy?.rule;
    return by ? say.lockedBy(this.words.about(by.for)) : null;
  });
  private readonly ofKind = (kind: string) => (this.stock.items() ?? []).filter((one) => one.kind === kind);
  protected readonly bandItems = computed(() => this.ofKind('band'));
  protected readonly bandsAbove = computed(
    () =>
      this.said()
        .above.bands.value.map((id) => this.words.choice(id))
        .join(', ') || say.noneAtAll,
  );
  protected readonly fields = computed(() =>
    (
      [
        ['header', say.header],
        ['footer', say.footer],
      ] as const
    ).map(([key, label]) => {
      this.register.now();
      const { above, whole } = this.said();
      return {
        ...{ key, label, items: this.ofKind(key), own: this.own()[key] },
        above: this.words.choice(above[key].value),
        why: this.words.why(whole[key]),
      };
    }),
  );

  protected choose(key: 'header' | 'footer', value: string): void {
    const choice: PartChoice = value === '' ? null : value === 'none' || value === 'name' ? value : Number(value);
    this.set({ ...this.own(), [key]: choice });
  }

  protected chooseBands(value: string): void {
    this.set({ ...this.own(), bands: value === '' ? null : value === 'none' ? [] : [Number(value)] });
  }

  private set(frame: PageFrame): void {
    const isNothing = Object.values(frame).every((one) => one === null);
    this.draft.edit({ kind: 'frame', value: isNothing ? null : frame });
  }
}
