import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { AddressCheck, AnswerInput, ReleaseChange } from '@domatium/contracts';
import { checkTypedPath, pathBelow, readablePath } from '@domatium/core/address';
import { api, Api } from '../hub/api';
import { MomentField } from '../shared/moment-field';
import { WideSheet } from '../shared/wide-sheet';
import { AnswerField } from './answer-field';
import { ChangeForm } from './change-form';
import { MakeRoom } from './make-room';
import { PressFoot } from './press-foot';
import { PreviewView } from './preview-view';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** Gives a page another path; its old address redirects to it unless something else is chosen. */
@Component({
  selector: 'dm-move-sheet',
  imports: [WideSheet, MomentField, AnswerField, PreviewView, PressFoot, MakeRoom],
  template: `
    <dm-wide-sheet
      [heading]="say.changeThePathOf((page()?.name ?? ''))"
      [lead]="say.pagesThatLinkHerePointTo"
      (closed)="place.go({ panel: null })"
    >
      <label class="section-label" for="path">{{ say.newPath }}</label>
      <div class="address-row">
        <span class="mono">{{ base() }}</span>
        <input
          id="path"
          class="form-control mono"
          [value]="typed()"
          [class.is-invalid]="!!problem()"
          (input)="typed.set($any($event.target).value)"
          autocomplete="off"
          spellcheck="false"
        />
      </div>
      @if (problem(); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      } @else if (check(); as checked) {
        <div class="field-note">{{ checked.words }}</div>
      }
      <dm-make-room [holders]="holders()" [rooms]="rooms()" [maySwap]="true" (chosen)="rooms.set($event)" />
      <h3 class="section-label spaced">{{ common.when }}</h3>
      <div class="when-row">
        <span>{{ common.from }}</span>
        @if (at() === 'now') {
          <strong>{{ say.now }}</strong>
        } @else {
          <dm-moment-field [label]="common.fromToo" [value]="at()" [error]="errorOf('at')" (changed)="at.set($event ?? 'now')" />
        }
        <span class="quiet">{{ service.zone() }}</span>
      </div>
      @if (errorOf('at'); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      <div class="suggestions">
        <button type="button" class="chip" [attr.aria-pressed]="at() === 'now'" (click)="at.set('now')">{{ common.now }}</button>
        <button type="button" class="chip" [attr.aria-pressed]="at() === tomorrow()" (click)="at.set(tomorrow())">
          {{ say.tomorrow0900 }}
        </button>
        <button type="button" class="chip" (click)="at.set(nextHour())">{{ say.anotherTime }}</button>
      </div>
      <label class="form-check spaced">
        <input
          type="checkbox"
          class="form-check-input"
          [checked]="leaves() === null"
          (change)="leaves.set($any($event.target).checked ? null : { kind: 'not-found' })"
        />
        <span class="form-check-label">{{ say.theOldAddressRedirectsToThis }}</span>
      </label>
      @if (leaves() !== null) {
        <dm-answer-field
          [label]="say.theOldAddressGives"
          [value]="leaves()"
          [errorAt]="errorAt('leaves')"
          (changed)="leaves.set($event)"
        />
      }
      <dm-preview-view
        [isJudging]="isJudging()"
        [meanwhile]="meanwhile()"
        (seen)="acknowledge()"
        [isWaiting]="changes() !== null"
        [preview]="preview()"
        [faults]="faults()"
        [shownElsewhere]="['changes[0].at', 'changes[0].path', 'changes[0].leaves']"
      />
      <ng-container foot>
        <dm-press-foot
          [label]="label()"
          [mayPress]="mayPress()"
          [mayPrepare]="mayPrepare()"
          [wantsApproval]="wantsApproval()"
          [blocking]="blocking()"
          (pressed)="go()"
          (prepared)="prepare(page()?.name ?? '')"
        />
      </ng-container>
    </dm-wide-sheet>
  `,
  styleUrl: './release-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveSheet extends ChangeForm {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  private readonly client = inject(Api);
  protected readonly page = computed(() => this.service.page(this.pageId()) ?? null);
  private readonly site = computed(
    () => this.service.head()?.sites.find(({ id }) => id === this.page()?.siteId) ?? null,
  );
  protected readonly base = computed(() => {
    const site = this.site();
    return site ? site.host + (site.basePath === '/' ? '' : site.basePath) : '';
  });
  protected readonly typed = signal('');
  protected readonly at = signal<string>('now');
  protected readonly leaves = signal<AnswerInput | null>(null);
  protected readonly check = signal<AddressCheck | null>(null);
  private readonly typedFault = computed(() => {
    const checked = checkTypedPath(this.typed());
    return checked.ok ? null : checked.why.message;
  });
  protected readonly problem = computed(() => this.typedFault() ?? this.errorOf('path'));
  private readonly isMoved = computed(() => {
    const [page, site] = [this.page(), this.site()];
    const checked = checkTypedPath(this.typed());
    return !!page && !!site && checked.ok && checked.path !== pathBelow(site.basePath, page.path);
  });
  protected readonly change = computed<ReleaseChange | null>(() => {
    const page = this.page();
    if (!page || !this.isMoved()) return null;
    return {
      act: 'move',
      pageId: page.id,
      at: this.at() === 'now' ? 'now' : this.wall(this.at()),
      siteId: page.siteId,
      path: this.typed().startsWith('/') ? this.typed() : `/${this.typed()}`,
      leaves: this.leaves(),
    };
  });
  protected readonly label = computed(() =>
    say.moveTo(
      this.base(),
      this.typed().startsWith('/') ? '' : '/',
      this.typed(),
      this.at() === 'now' ? say.now : say.on(this.words(this.at())),
    ),
  );

  constructor() {
    super();
    effect(() => {
      this.pageId();
      untracked(() => {
        const [page, site] = [this.page(), this.site()];
        if (page && site) this.typed.set(readablePath(pathBelow(site.basePath, page.path)));
      });
    });
    effect((cleanUp) => {
      const path = this.typed();
      // Another address is another page that may have it.
      untracked(() => this.rooms.set([]));
      const page = this.page();
      if (!page || this.typedFault() || !this.isMoved()) return void this.check.set(null);
      const timer = setTimeout(
        () =>
          void this.client
            .call(api.addressCheck, {
              params: { portfolioId: this.service.portfolioId() },
              query: { siteId: page.siteId, path, pageId: page.id },
            })
            .then(
              (checked) => this.check.set(checked),
              () => undefined,
            ),
        200,
      );
      cleanUp(() => clearTimeout(timer));
    });
    this.watch();
  }

  protected go(): void {
    void this.press(say.movesTo(this.page()?.name ?? '', this.base(), this.typed()));
  }
}
