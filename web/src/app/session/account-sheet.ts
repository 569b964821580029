import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { changePasswordBody, type FactorView, type MailWish, type SessionRowView } from '@domatium/contracts';
import { writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import type { Answer } from '../hub/answer';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { chosenScheme, chooseScheme, SCHEMES, type Scheme } from '../shared/scheme';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { AccountService } from './account.service';
import { SessionService } from '../hub/session.service';
import { say } from '@domatium/core/words/session';
import { say as common } from '@domatium/core/words/common';

/** What is one's own: the password, the second factor, and where one is signed in. */
@Component({
  selector: 'dm-account-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet [heading]="say.yourAccount" [lead]="session.session()?.account?.email ?? ''" (closed)="place.go({ panel: null })">
      <h3 class="section-label">{{ say.yourName }}</h3>
      <form class="one-line" (submit)="$event.preventDefault(); rename(named.value)">
        <input #named class="form-control" autocomplete="name" maxlength="100" [value]="session.session()?.account?.name ?? ''" [attr.aria-label]="say.yourName" />
        <button type="submit" class="btn btn-plain">{{ common.change }}</button>
      </form>
      <div class="field-error" role="alert">{{ errors()['name'] }}</div>

      <h3 class="section-label">{{ say.howYouAreToldByMail }}</h3>
      <div class="choices" role="group" [attr.aria-label]="say.howYouAreToldByMail">
        <button type="button" [attr.aria-pressed]="session.session()?.account?.mailWish === 'at-once'" (click)="wish('at-once')">
          {{ say.atOnce }}
        </button>
        <button type="button" [attr.aria-pressed]="session.session()?.account?.mailWish === 'daily'" (click)="wish('daily')">
          {{ say.onceADay }}
        </button>
      </div>
      <p class="field-note">{{ say.ofApprovalsRemarksAndPages }}</p>

      <h3 class="section-label">{{ say.colours }}</h3>
      <div class="choices" role="group" [attr.aria-label]="say.colours">
        @for (one of schemes; track one) {
          <button type="button" [attr.aria-pressed]="scheme() === one" (click)="chooseScheme(one)">{{ say.scheme[one] }}</button>
        }
      </div>
      <p class="field-note">{{ say.onThisDevice }}</p>

      <h3 class="section-label">{{ say.secondFactor }}</h3>
      @if (codes(); as all) {
        <div class="told" role="status">
          <p>
            {{ say.secondFactorIsOnUseThese }}
          </p>
          <ul class="mono codes">
            @for (code of all; track code) {
              <li>{{ code }}</li>
            }
          </ul>
          <button type="button" class="btn btn-plain" (click)="codes.set(null)">{{ say.iHaveSavedThem }}</button>
        </div>
      } @else if (begun(); as secret) {
        <p>{{ say.scanThisWithYourAuthenticatorApp }}</p>
        <img class="qr" [src]="picture()" width="180" height="180" [alt]="say.qRCodeOfTheKey" />
        <p class="mono key">{{ secret }}</p>
        <form class="one-line" (submit)="$event.preventDefault(); confirm(code.value)">
          <input #code class="form-control mono" inputmode="numeric" autocomplete="one-time-code" [attr.aria-label]="say.codeOfTheAuthenticator" />
          <button type="submit" class="btn btn-primary">{{ say.putInForce }}</button>
        </form>
      } @else if (factor(); as shown) {
        @if (shown.since !== null) {
          <p>
            {{ say.inForceSinceOf10RecoveryCodes(written(shown.since), shown.recoveryCodes) }}
          </p>
        } @else {
          <p>{{ say.signingInNeedsOnlyYourPassword }}</p>
        }
        <form class="one-line" (submit)="$event.preventDefault(); shown.since === null ? begin(own.value) : end(own.value)">
          <input #own type="password" class="form-control" autocomplete="current-password" [placeholder]="say.yourPassword" [attr.aria-label]="say.yourPassword" />
          <button type="submit" class="btn" [class.btn-primary]="shown.since === null" [class.btn-plain]="shown.since !== null">
            {{ shown.since === null ? say.setUp : say.turnOffTheSecondFactor }}
          </button>
        </form>
      }
      <div class="field-error" role="alert">{{ errors()['code'] || errors()['password'] }}</div>

      <h3 class="section-label">{{ common.password }}</h3>
      <form class="one-line" (submit)="$event.preventDefault(); change(current, next)">
        <input #current type="password" class="form-control" autocomplete="current-password" [placeholder]="say.theOneYouHave" [attr.aria-label]="say.thePasswordYouHave" />
        <input #next type="password" class="form-control" autocomplete="new-password" [placeholder]="say.theNewOne" [attr.aria-label]="say.theNewPassword" />
        <button type="submit" class="btn btn-plain">{{ common.change }}</button>
      </form>
      <div class="field-error" role="alert">{{ errors()['current'] || errors()['next'] }}</div>
      <p class="field-note">{{ say.atLeast10CharactersYouWillBe }}</p>

      <h3 class="section-label">{{ say.whereYouAreSignedIn }}</h3>
      <table class="sheet-rows">
        @for (one of sessions(); track one.id) {
          <tr>
            <td>
              <strong>{{ browser(one.agent) }}</strong>
              @if (one.isThis) {
                <span class="tag moss">{{ say.thisOne }}</span>
              }
              <div class="quiet">{{ one.address }}</div>
            </td>
            <td class="quiet number">{{ say.used(written(one.seenAt)) }}<br />{{ say.since(written(one.since)) }}</td>
            <td class="end">
              @if (!one.isThis) {
                <button type="button" class="btn-link-plain quiet" (click)="endSession(one.id)">
                  {{ say.signOut }}<span class="visually-hidden"> {{ browser(one.agent) }}</span>
                </button>
              }
            </td>
          </tr>
        }
      </table>
      @if (sessions().length > 1) {
        <p><button type="button" class="btn btn-plain" (click)="endOthers()">{{ say.signOutEverywhereElse }}</button></p>
      }
      @if (errors()['whole']; as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
    </dm-wide-sheet>
  `,
  styles: `
    h3 {
      margin-top: 20px;
    }
    .told {
      padding: 10px 12px;
      background: var(--moss-tint);
      border-radius: var(--corner);
    }
    .codes {
      columns: 2;
      padding: 0;
      list-style: none;
    }
    .key {
      overflow-wrap: anywhere;
    }
    .tag {
      margin-left: 8px;
    }
    .qr {
      display: block;
      margin-bottom: 8px;
    }
    .field-note {
      margin-top: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AccountSheet {
  protected readonly schemes = SCHEMES;
  protected readonly scheme = signal(chosenScheme());
  protected readonly say = say;
  protected readonly common = common;
  protected readonly session = inject(SessionService);
  protected readonly place = inject(PlaceService);
  private readonly register = inject(RegisterService);
  private readonly account = inject(AccountService);
  private readonly notices = inject(NoticeService);
  protected readonly factor = signal<FactorView | null>(null);
  protected readonly sessions = signal<readonly SessionRowView[]>([]);
  private readonly secret = signal<{ readonly secret: string; readonly picture: string } | null>(null);
  protected readonly begun = computed(() =>
    this.secret()
      ?.secret.replace(/(.{4})/g, '$1 ')
      .trim(),
  );
  protected readonly picture = computed(() => this.secret()?.picture ?? '');
  protected readonly codes = signal<readonly string[] | null>(null);
  protected readonly errors = signal<FieldErrors>({});

  constructor() {
    void this.load();
  }

  private async load(): Promise<void> {
    const [factor, sessions] = await Promise.all([this.account.factor(), this.account.sessions()]);
    if ('value' in factor) this.factor.set(factor.value);
    if ('value' in sessions) this.sessions.set(sessions.value);
  }

  protected chooseScheme(scheme: Scheme): void {
    chooseScheme(scheme);
    this.scheme.set(scheme);
  }

  protected async rename(name: string): Promise<void> {
    const wish = this.session.session()?.account.mailWish ?? 'at-once';
    if (this.took(await this.account.setAccount(name, wish))) await this.session.reload();
  }

  protected async wish(wish: MailWish): Promise<void> {
    const name = this.session.session()?.account.name ?? '';
    if (this.took(await this.account.setAccount(name, wish))) await this.session.reload();
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.register.zone(), this.register.now());
  }

  /** A browser by the name it gives itself, without its versions. */
  protected browser(agent: string): string {
    const name = /Edg\//.test(agent)
      ? 'Edge'
      : (/(Firefox|Chrome|Safari)\//.exec(agent)?.[1] ?? (agent.split(/[\s/]/)[0] || 'A program'));
    const system = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)/.exec(agent)?.[1];
    return system ? say.on(name, system) : name;
  }

  protected async begin(password: string): Promise<void> {
    const answer = await this.account.beginFactor(password);
    if (!this.took(answer)) return;
    const { default: qr } = await import('qrcode');
    this.secret.set({
      secret: answer.value.secret,
      picture: await qr.toDataURL(answer.value.uri, { margin: 1, width: 360 }),
    });
  }

  protected async confirm(code: string): Promise<void> {
    const answer = await this.account.confirmFactor(code);
    if (!this.took(answer)) return;
    this.secret.set(null);
    this.codes.set(answer.value.recoveryCodes);
    await this.session.reload();
    await this.load();
  }

  protected async end(password: string): Promise<void> {
    if (this.took(await this.account.endFactor(password))) await this.load();
  }

  protected async change(current: HTMLInputElement, next: HTMLInputElement): Promise<void> {
    const wrong = errorsOf(changePasswordBody, { current: current.value, next: next.value });
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    const answer = await this.account.changePassword(current.value, next.value);
    if ('errors' in answer) {
      const { password, ...others } = answer.errors;
      return this.errors.set(password ? { ...others, current: password } : others);
    }
    current.value = next.value = '';
    this.errors.set({});
    this.notices.say({ kind: 'done', text: say.passwordChangedYouAreSignedOut });
    await this.load();
  }

  protected async endSession(id: number): Promise<void> {
    if (this.took(await this.account.endSession(id))) await this.load();
  }

  protected async endOthers(): Promise<void> {
    if (this.took(await this.account.endOthers())) await this.load();
  }

  private took<T>(answer: Answer<T>): answer is { value: T } {
    this.errors.set('errors' in answer ? answer.errors : {});
    return 'value' in answer;
  }
}
