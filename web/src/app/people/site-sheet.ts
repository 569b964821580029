import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { Router } from '@angular/router';
import type { PeopleView, SiteRules } from '@domatium/contracts';
import { isRightToLeft } from '@domatium/core/render';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { profileOf, StockService } from '../hub/stock.service';
import { WideSheet } from '../shared/wide-sheet';
import { PeopleService } from './people.service';
import { say } from '@domatium/core/words/people';
import { say as common } from '@domatium/core/words/common';

/** What a site is: to us, to its visitors, where it lies, and what it asks of a release. */
@Component({
  selector: 'dm-site-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet [heading]="say.siteNamed(site()?.name ?? '')" [lead]="address()" (closed)="place.go({ panel: null })">
      @if (site(); as shown) {
        <label class="section-label" for="own-name">{{ say.nameAmongUs }}</label>
        <div class="one-line">
          <input
            id="own-name"
            class="form-control"
            maxlength="100"
            autocomplete="off"
            [disabled]="!service.mayManage()"
            [value]="name()"
            (input)="name.set($any($event.target).value)"
            (keydown.enter)="rename()"
          />
          @if (service.mayManage()) {
            <button type="button" class="btn btn-plain" [disabled]="!isRenamed()" (click)="rename()">{{ say.rename }}</button>
          }
        </div>
        @if (error(); as text) {
          <div class="field-error" role="alert">{{ text }}</div>
        }
        <h3 class="section-label">{{ say.toItsVisitors }}</h3>
        <dl>
          <dt class="quiet">{{ common.name }}</dt>
          <dd>{{ profile().brand }}</dd>
          <dt class="quiet">{{ say.language }}</dt>
          <dd>{{ languageName() }} <span class="quiet">· {{ isRtl() ? say.rightToLeft : say.leftToRight }}</span></dd>
          <dt class="quiet">{{ say.theme }}</dt>
          <dd>{{ themeName() }}</dd>
        </dl>
        <button type="button" class="btn btn-plain" (click)="toDesk()">{{ say.changeWhatVisitorsSee }}</button>
        <h3 class="section-label">{{ say.whereItLies }}</h3>
        <p class="mono">{{ address() }}</p>
        <h3 class="section-label">{{ say.whatItAsksOfARelease }}</h3>
        @if (rules(); as asked) {
          <div class="one-line">
            <label for="site-approvals">{{ say.approvesFirst }}</label>
            <select
              id="site-approvals"
              class="form-select"
              [disabled]="!service.mayManage()"
              (change)="setRules({ approvals: +$any($event.target).value })"
            >
              @for (words of approvals; track $index) {
                <option [value]="$index" [selected]="$index === asked.approvals">{{ words }}</option>
              }
            </select>
          </div>
          <div class="one-line">
            <span>{{ say.checksAre(say.checksTaken(setOtherwise(asked))) }}</span>
            <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'checks' })">{{ say.changeChecks }}</button>
          </div>
        }
      } @else if (service.version()) {
        <p class="quiet">{{ say.noSuchSiteHere }}</p>
      }
      <ng-container foot>
        <button type="button" class="btn btn-plain" (click)="place.go({ panel: null })">{{ say.itsPages }}</button>
        @if (service.mayWrite()) {
          @if (service.mayManage()) {
            <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'copy-site' })">{{ say.copyTheSite }}</button>
          }
          <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'copy' })">{{ say.copyItsPages }}</button>
          <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'share' })">{{ say.shareIt }}</button>
        }
      </ng-container>
    </dm-wide-sheet>
  `,
  styles: `
    h3 {
      margin-top: 20px;
    }
    dl {
      display: grid;
      grid-template-columns: 96px 1fr;
      gap: 4px 12px;
      margin: 0 0 10px;
    }
    dt {
      font-weight: 400;
    }
    dd,
    p {
      margin: 0;
    }
    .one-line {
      align-items: center;
      margin-bottom: 8px;
    }
    .one-line .form-select {
      width: 160px;
      flex: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SiteSheet {
  protected readonly say = say;
  protected readonly common = common;
  readonly siteId = input.required<number>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly stock = inject(StockService);
  private readonly people = inject(PeopleService);
  private readonly notices = inject(NoticeService);
  private readonly router = inject(Router);
  private readonly names = new Intl.DisplayNames('en', { type: 'language' });
  protected readonly approvals = ['nobody', say.oneOther, say.twoOthers];
  private readonly view = signal<PeopleView | null>(null);
  protected readonly error = signal<string | null>(null);
  protected readonly site = computed(() => this.service.head()?.sites.find(({ id }) => id === this.siteId()) ?? null);
  protected readonly name = linkedSignal(() => this.site()?.name ?? '');
  protected readonly isRenamed = computed(() => !!this.name().trim() && this.name().trim() !== this.site()?.name);
  protected readonly address = computed(() => {
    const site = this.site();
    return site ? site.host + (site.basePath === '/' ? '' : site.basePath) : '';
  });
  protected readonly profile = computed(() => profileOf(this.stock.held(), this.siteId()));
  protected readonly isRtl = computed(() => isRightToLeft(this.profile().language));
  protected readonly languageName = computed(() => this.names.of(this.profile().language) ?? this.profile().language);
  protected readonly themeName = computed(
    () => this.stock.themes().find(({ key }) => key === this.profile().theme)?.name ?? this.profile().theme,
  );
  protected readonly rules = computed(() => this.view()?.sites.find(({ id }) => id === this.siteId()) ?? null);

  constructor() {
    void this.stock.open(this.service.portfolioId());
    effect(() => {
      if (this.service.version()) untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    const answer = await this.people.people(this.service.portfolioId());
    if ('value' in answer) this.view.set(answer.value);
  }

  protected async rename(): Promise<void> {
    const was = this.site()?.name ?? '';
    if (!this.isRenamed()) return;
    if (await this.setName(this.name().trim()))
      this.notices.say({
        kind: 'done',
        text: say.saved,
        action: { label: common.undo, run: () => void this.setName(was) },
      });
  }

  private async setName(name: string): Promise<boolean> {
    const answer = await this.people.setSite(this.service.portfolioId(), this.siteId(), name);
    this.error.set('errors' in answer ? (Object.values(answer.errors)[0] ?? null) : null);
    await this.service.load();
    return 'value' in answer;
  }

  protected setOtherwise = ({ severities }: SiteRules): number => Object.keys(severities).length;

  protected async setRules(change: Partial<SiteRules>): Promise<void> {
    const rules = this.rules();
    if (!rules) return;
    const { approvals, severities } = { ...rules, ...change };
    const answer = await this.people.setSiteRules(this.service.portfolioId(), this.siteId(), {
      approvals,
      severities,
    });
    this.error.set('errors' in answer ? (Object.values(answer.errors)[0] ?? null) : null);
    await this.load();
  }

  /** The desk where its name, language, theme and pictures are changed, as a draft with a page of it beside. */
  protected toDesk(): void {
    const item = this.stock.items()?.find(({ kind, siteId }) => kind === 'profile' && siteId === this.siteId())?.id;
    void this.router.navigate(['/portfolios', this.service.portfolioId(), 'stock', 'sites'], {
      queryParams: { item: item ?? null },
    });
  }
}
