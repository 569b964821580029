import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { joinBody, portfolioBody, type InvitationView } from '@domatium/contracts';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { PeopleService } from './people.service';
import { say } from '@domatium/core/words/people';
import { say as common } from '@domatium/core/words/common';

const ZONES = Intl.supportedValuesOf('timeZone');

/** Where an invitation leads: an account of one's own, and for the first person of an installation a portfolio. */
@Component({
  selector: 'dm-welcome',
  template: `
    <main>
      <div class="brand"><img src="/favicon.svg" alt="" width="26" height="26" /> {{ common.domatium }}</div>
      @if (gone(); as text) {
        <h1>{{ say.thisLinkNoLongerWorks }}</h1>
        <p role="alert">{{ text }}</p>
        <a href="/sign-in">{{ say.signIn }}</a>
      } @else if (invitation(); as shown) {
        <h1>{{ isFirst() ? say.beginHere : say.join(shown.portfolio ?? '') }}</h1>
        <p class="quiet">
          {{
            isFirst()
              ? say.youAreTheFirstPersonHere
              : say.youAreInvitedAs(shown.role, (shown.isKnown ? say.useThePasswordOfYourAccount : ''))
          }}
        </p>
        <form (submit)="$event.preventDefault(); go()" novalidate>
          <label class="form-label" for="name">{{ say.yourName }}</label>
          <input id="name" class="form-control" autocomplete="name" [class.is-invalid]="!!errors()['name']" [value]="name()" (input)="name.set($any($event.target).value)" />
          <div class="field-error">{{ errors()['name'] }}</div>
          <label class="form-label" for="email">{{ say.eMailAddress }}</label>
          <input id="email" type="email" class="form-control" autocomplete="email" [class.is-invalid]="!!errors()['email']" [value]="email()" (input)="email.set($any($event.target).value)" />
          <div class="field-error">{{ errors()['email'] }}</div>
          <label class="form-label" for="password">{{ common.password }}</label>
          <input id="password" type="password" class="form-control" [autocomplete]="shown.isKnown ? 'current-password' : 'new-password'" [class.is-invalid]="!!errors()['password']" [value]="password()" (input)="password.set($any($event.target).value)" />
          <div class="field-error">{{ errors()['password'] }}</div>
          @if (errors()['code']) {
            <label class="form-label" for="code">{{ say.authenticatorCode }}</label>
            <input id="code" class="form-control mono" autocomplete="one-time-code" (input)="code.set($any($event.target).value)" />
            <div class="field-error">{{ errors()['code'] }}</div>
          }
          @if (isFirst()) {
            <label class="form-label" for="portfolio">{{ say.nameOfThePortfolio }}</label>
            <input id="portfolio" class="form-control" autocomplete="organization" [class.is-invalid]="!!errors()['portfolio']" [value]="portfolio()" (input)="portfolio.set($any($event.target).value)" />
            <div class="field-error">{{ errors()['portfolio'] }}</div>
            <label class="form-label" for="zone">{{ say.itsTimeZone }}</label>
            <select id="zone" class="form-select" (change)="zone.set($any($event.target).value)">
              @for (one of zones; track one) {
                <option [value]="one" [selected]="one === zone()">{{ one }}</option>
              }
            </select>
            <div class="field-note">{{ say.allTimesInThePortfolioUse }}</div>
          }
          @if (errors()['whole']; as text) {
            <p class="field-error" role="alert">{{ text }}</p>
          }
          <button type="submit" class="btn btn-primary" [disabled]="isBusy()">
            {{ isFirst() ? say.createThePortfolio : say.joinToo }}
          </button>
        </form>
      }
    </main>
  `,
  styles: `
    :host {
      display: block;
      height: 100vh;
      overflow-y: auto;
    }
    main {
      width: min(400px, calc(100vw - 32px));
      margin: 9vh auto 40px;
    }
    .brand {
      display: flex;
      gap: 10px;
      align-items: center;
      font-weight: 700;
      font-size: 1.125rem;
      margin-bottom: 28px;
    }
    h1 {
      font-size: 1.375rem;
      font-weight: 700;
    }
    .form-label {
      margin-top: 10px;
    }
    button {
      margin-top: 18px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Welcome {
  protected readonly common = common;
  protected readonly say = say;
  readonly token = input.required<string>();
  private readonly people = inject(PeopleService);
  private readonly router = inject(Router);
  protected readonly zones = ZONES;
  protected readonly invitation = signal<InvitationView | null>(null);
  protected readonly gone = signal<string | null>(null);
  protected readonly name = signal('');
  protected readonly email = signal('');
  protected readonly password = signal('');
  protected readonly code = signal('');
  protected readonly portfolio = signal('');
  protected readonly zone = signal(Intl.DateTimeFormat().resolvedOptions().timeZone);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly isBusy = signal(false);
  protected readonly isFirst = computed(() => this.invitation()?.portfolio === null);

  constructor() {
    effect(() => {
      const token = this.token();
      untracked(() => void this.look(token));
    });
  }

  private async look(token: string): Promise<void> {
    const answer = await this.people.invitation(token);
    if ('errors' in answer) return this.gone.set(answer.errors['whole'] ?? say.askForANewLink);
    this.invitation.set(answer.value);
    this.email.set(answer.value.email ?? '');
  }

  protected async go(): Promise<void> {
    const person = { name: this.name(), email: this.email(), password: this.password(), code: this.code() || null };
    const portfolio = { name: this.portfolio(), zone: this.zone() };
    const wrong = this.isFirst() ? errorsOf(portfolioBody, portfolio) : {};
    const named = wrong['name'] ? { portfolio: wrong['name'] } : {};
    const errors: FieldErrors = { ...errorsOf(joinBody, person), ...named };
    this.errors.set(errors);
    if (Object.keys(errors).length || this.isBusy()) return;
    this.isBusy.set(true);
    const answer = this.isFirst()
      ? await this.people.found(this.token(), person, portfolio)
      : await this.people.join(this.token(), person);
    this.isBusy.set(false);
    if ('errors' in answer)
      return this.errors.set(
        Object.fromEntries(Object.entries(answer.errors).map(([path, text]) => [path.replace(/^person\./, ''), text])),
      );
    await this.router.navigateByUrl('/');
  }
}
