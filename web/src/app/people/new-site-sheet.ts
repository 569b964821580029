import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { siteBody, portfolioBody } from '@domatium/contracts';
import { THEMES } from '@domatium/core/theme';
import { Router } from '@angular/router';
import { RegisterService } from '../hub/register.service';
import type { Answer } from '../hub/answer';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { StockService } from '../hub/stock.service';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { PeopleService } from './people.service';
import { say } from '@domatium/core/words/people';
import { say as common } from '@domatium/core/words/common';

/** A new site, on a host of its own or below the portfolio's own host. */
@Component({
  selector: 'dm-new-site-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="say.newSite"
      [lead]="say.aLandingPageOnItsOwn"
      (closed)="place.go({ panel: null })"
    >
      <label class="section-label" for="site-name">{{ common.name }}</label>
      <input #name id="site-name" class="form-control" autocomplete="off" [class.is-invalid]="!!errors()['name']" />
      <div class="field-error">{{ errors()['name'] }}</div>
      <label class="section-label" for="site-host">{{ say.host }}</label>
      <input
        #host
        id="site-host"
        class="form-control mono"
        autocomplete="off"
        spellcheck="false"
        [placeholder]="say.wwwMarrowickExample"
        [class.is-invalid]="!!errors()['host']"
      />
      <div class="field-error">{{ errors()['host'] }}</div>
      @if (wantsConsent()) {
        <label class="section-label" for="site-consent">{{ say.codeOfTheDomainsOwner }}</label>
        <input #consent id="site-consent" class="form-control mono" autocomplete="off" (input)="code.set(consent.value)" />
        <div class="field-error">{{ errors()['consent'] }}</div>
      }
      <p class="field-note">{{ say.ifEmptyTheSiteIsOn }}</p>
      <label class="section-label" for="site-base">{{ say.basePath }}</label>
      <input #base id="site-base" class="form-control mono" value="/" spellcheck="false" [class.is-invalid]="!!errors()['basePath']" />
      <div class="field-error">{{ errors()['basePath'] }}</div>
      <label class="section-label" for="site-like">{{ say.beginsAs }}</label>
      <select id="site-like" class="form-select" (change)="likeId.set(+$any($event.target).value || null)">
        <option value="">{{ say.anEmptySite }}</option>
        @for (one of sites(); track one.id) {
          <option [value]="one.id" [selected]="one.id === likeId()">{{ say.aCopyOf(one.name) }}</option>
        }
      </select>
      @if (like(); as other) {
        <fieldset>
          <legend class="section-label">{{ say.headerFooterAndBands }}</legend>
          @for (one of PARTS; track one) {
            <label class="form-check">
              <input
                type="radio"
                name="site-parts"
                class="form-check-input"
                [checked]="parts() === one"
                (change)="parts.set(one)"
              />
              <span class="form-check-label">{{ one === 'share' ? say.sharedWith(other.name) : say.copiedOnTheirOwn }}</span>
            </label>
          }
        </fieldset>
        <label class="form-check">
          <input type="checkbox" class="form-check-input" [checked]="withPages()" (change)="withPages.set(!withPages())" />
          <span class="form-check-label">{{ say.itsPagesAsDrafts }}</span>
        </label>
        <div class="field-error">{{ errors()['withPages'] }}</div>
        <p class="field-note">{{ say.whatComesAlong }}</p>
      }
      <div [hidden]="like()">
        <label class="section-label" for="site-theme">{{ say.theme }}</label>
        <select #theme id="site-theme" class="form-select">
          @for (one of themes(); track one.key) {
            <option [value]="one.key">{{ one.label }}</option>
          }
        </select>
      </div>
      @if (errors()['whole']; as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <ng-container foot>
        <button
          type="button"
          class="btn btn-primary"
          [disabled]="isBusy()"
          (click)="make(name.value, host.value, base.value, theme.value)"
        >
          {{ like() ? say.copyIt : say.addTheSite }}
        </button>
      </ng-container>
    </dm-wide-sheet>
  `,
  styles: `
    fieldset {
      margin: 12px 0 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewSiteSheet {
  protected readonly say = say;
  protected readonly common = common;
  /** Opened to copy this site. */
  readonly siteId = input<number | null>(null);
  protected readonly place = inject(PlaceService);
  private readonly service = inject(RegisterService);
  private readonly people = inject(PeopleService);
  private readonly stock = inject(StockService);
  private readonly notices = inject(NoticeService);
  /** Those that ship and those made here, as they are called here. */
  protected readonly themes = computed(() => {
    const shipped = Object.entries(THEMES).map(([key, { label }]) => ({ key, label }));
    const here = this.stock.themes().map(({ key, name }) => ({ key: key ?? '', label: name }));
    return here.length ? here : shipped;
  });
  protected readonly errors = signal<FieldErrors>({});
  /** Asked for where the host lies under a domain of another portfolio. */
  protected readonly wantsConsent = signal(false);
  protected readonly code = signal('');
  protected readonly sites = computed(() => this.service.head()?.sites ?? []);
  /** The site it begins as a copy of. */
  protected readonly likeId = linkedSignal(() => this.siteId());
  protected readonly like = computed(() => this.sites().find(({ id }) => id === this.likeId()) ?? null);
  protected readonly PARTS = ['share', 'copy'] as const;
  protected readonly parts = signal<'share' | 'copy'>('share');
  protected readonly withPages = signal(true);
  protected readonly isBusy = signal(false);

  constructor() {
    void this.stock.open(this.service.portfolioId());
  }

  protected async make(name: string, host: string, basePath: string, theme: string): Promise<void> {
    const like = this.like();
    const body = { name, host: host.trim() || null, basePath, theme, consent: this.code() || null };
    const wrong = errorsOf(siteBody, body);
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    this.isBusy.set(true);
    const portfolioId = this.service.portfolioId();
    const { theme: _, ...placed } = body;
    const answer: Answer<{ id: number; pages?: number }> = like
      ? await this.people.copySite(portfolioId, like.id, {
          ...placed,
          parts: this.parts(),
          withPages: this.withPages(),
        })
      : await this.people.newSite(portfolioId, body);
    this.isBusy.set(false);
    if ('errors' in answer) {
      if (answer.errors['consent']) this.wantsConsent.set(true);
      return this.errors.set(answer.errors);
    }
    await this.service.load();
    this.place.go({ scope: `site:${answer.value.id}`, panel: null });
    const { pages } = answer.value;
    if (pages !== undefined)
      this.notices.say({
        kind: 'done',
        text: say.siteCopied(name, pages),
        action: { label: say.seeThePreparedRelease, run: () => this.place.go({ panel: 'prepared' }) },
      });
  }
}

/** One more portfolio, for another client. */
@Component({
  selector: 'dm-new-portfolio-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="say.newPortfolio"
      [lead]="say.oneClientOrCompanyItsDomains"
      (closed)="place.go({ panel: null })"
    >
      <label class="section-label" for="portfolio-name">{{ common.name }}</label>
      <input #name id="portfolio-name" class="form-control" autocomplete="off" [class.is-invalid]="!!errors()['name']" />
      <div class="field-error">{{ errors()['name'] }}</div>
      <label class="section-label" for="portfolio-zone">{{ say.timeZone }}</label>
      <select #zone id="portfolio-zone" class="form-select">
        @for (one of zones; track one) {
          <option [value]="one" [selected]="one === own">{{ one }}</option>
        }
      </select>
      @if (errors()['whole']; as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <ng-container foot>
        <button type="button" class="btn btn-primary" (click)="make(name.value, zone.value)">{{ say.createThePortfolio }}</button>
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPortfolioSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly place = inject(PlaceService);
  private readonly people = inject(PeopleService);
  private readonly router = inject(Router);
  protected readonly zones = Intl.supportedValuesOf('timeZone');
  protected readonly own = inject(RegisterService).zone();
  protected readonly errors = signal<FieldErrors>({});

  protected async make(name: string, zone: string): Promise<void> {
    const body = { name, zone };
    const wrong = errorsOf(portfolioBody, body);
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    const answer = await this.people.newPortfolio(body);
    if ('errors' in answer) return this.errors.set(answer.errors);
    await this.router.navigate(['/portfolios', answer.value.id, 'pages']);
  }
}
