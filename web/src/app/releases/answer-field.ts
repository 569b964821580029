import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { AnswerInput } from '@domatium/contracts';
import { PagePicker } from '../shared/page-picker';
import { say } from '@domatium/core/words/releases';

type Kind = 'page' | 'outside' | 'gone' | 'not-found' | 'back';

/** What visitors of an address get: a redirect to a page or outside, gone, not found, or back to the plan. */
@Component({
  selector: 'dm-answer-field',
  imports: [PagePicker],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row-of-fields">
      <select
        class="form-select"
        [attr.aria-label]="label()"
        [value]="kind()"
        (change)="choose($any($event.target).value)"
      >
        @if (canGoBack()) {
          <option value="back" [selected]="kind() === 'back'">{{ say.backToThePlan }}</option>
        }
        <option value="page" [selected]="kind() === 'page'">{{ say.aRedirectToAPage }}</option>
        <option value="outside" [selected]="kind() === 'outside'">{{ say.aRedirectToAnOutsideAddress }}</option>
        <option value="gone" [selected]="kind() === 'gone'">{{ say.gone410 }}</option>
        <option value="not-found" [selected]="kind() === 'not-found'">{{ say.notFound404 }}</option>
      </select>
      @if (kind() === 'page') {
        <dm-page-picker
          class="grow"
          [label]="say.pageItRedirectsTo"
          [pageId]="pageId()"
          [except]="except()"
          [error]="errorAt()('target.pageId')"
          (picked)="set({ pageId: $event })"
        />
      }
      @if (kind() === 'outside') {
        <div class="grow">
          <input
            type="url"
            class="form-control"
            [attr.aria-label]="say.outsideAddress"
            [placeholder]="say.https"
            [value]="url()"
            [class.is-invalid]="!!errorAt()('target.url')"
            (change)="set({ url: $any($event.target).value })"
          />
          <div class="field-error">{{ errorAt()('target.url') }}</div>
        </div>
      }
      @if (kind() === 'page' || kind() === 'outside') {
        <select
          class="form-select status"
          [attr.aria-label]="say.howLongTheRedirectIsMeant"
          [value]="status()"
          (change)="set({ status: +$any($event.target).value === 301 ? 301 : 302 })"
        >
          <option [value]="302" [selected]="status() === 302">{{ say.forNow302 }}</option>
          <option [value]="301" [selected]="status() === 301">{{ say.forGood301 }}</option>
        </select>
      }
    </div>
    @if (errorAt()(''); as text) {
      <div class="field-error">{{ text }}</div>
    }
  `,
  styles: `
    .row-of-fields {
      display: flex;
      gap: 8px;
      align-items: flex-start;
    }
    .form-select {
      width: auto;
      flex: none;
    }
    .grow {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class AnswerField {
  protected readonly say = say;
  readonly label = input.required<string>();
  /** `null` is back to the plan. */
  readonly value = input.required<AnswerInput | null>();
  readonly canGoBack = input(false);
  readonly except = input<number | null>(null);
  readonly errorAt = input<(path: string) => string | null>(() => null);
  readonly changed = output<AnswerInput | null>();
  private readonly draft = signal<{ kind: 'page' | 'outside' } | null>(null);

  protected readonly kind = computed<Kind>(() => {
    const [value, draft] = [this.value(), this.draft()];
    if (draft) return draft.kind;
    if (value === null) return 'back';
    return value.kind === 'redirect' ? value.target.kind : value.kind;
  });
  protected readonly status = computed(() => {
    const value = this.value();
    return value?.kind === 'redirect' ? value.status : 302;
  });
  protected readonly pageId = computed(() => {
    const value = this.value();
    return value?.kind === 'redirect' && value.target.kind === 'page' ? value.target.pageId : null;
  });
  protected readonly url = computed(() => {
    const value = this.value();
    return value?.kind === 'redirect' && value.target.kind === 'outside' ? value.target.url : '';
  });

  protected choose(kind: Kind): void {
    // A redirect says nothing yet; until it has a target the old answer is not sent as if it were meant.
    if (kind === 'page' || kind === 'outside') {
      this.draft.set({ kind });
      this.changed.emit({
        kind: 'redirect',
        status: this.status(),
        target: kind === 'page' ? { kind: 'page', pageId: 0 } : { kind: 'outside', url: '' },
      });
      return;
    }
    this.draft.set(null);
    this.changed.emit(kind === 'back' ? null : { kind });
  }

  protected set(change: { pageId?: number; url?: string; status?: 301 | 302 }): void {
    const status = change.status ?? this.status();
    const isPage = this.kind() === 'page';
    this.draft.set(null);
    this.changed.emit({
      kind: 'redirect',
      status,
      target: isPage
        ? { kind: 'page', pageId: change.pageId ?? this.pageId() ?? 0 }
        : { kind: 'outside', url: change.url ?? this.url() },
    });
  }
}
