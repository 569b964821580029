import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { changePasswordBody, type FactorView, type SessionRowView } from '@domatium/contracts';
import { writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import type { Answer } from '../hub/answer';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { AccountService } from './account.service';
import { SessionService } from '../hub/session.service';

/** What is one's own: the password, the second factor, and where one is signed in. */
@Component({
  selector: 'dm-account-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet heading="Your account" [lead]="session.session()?.account?.email ?? ''" (closed)="place.go({ panel: null })">
      <h3 class="section-label">Second factor</h3>
      @if (codes(); as all) {
        <div class="told" role="status">
          <p>
            Second factor is on. Use these codes if you lose your phone, each once. They are shown only now: save them somewhere safe.
          </p>
          <ul class="mono codes">
            @for (code of all; track code) {
              <li>{{ code }}</li>
            }
          </ul>
          <button type="button" class="btn btn-plain" (click)="codes.set(null)">I have saved them</button>
        </div>
      } @else if (begun(); as secret) {
        <p>Scan this with your authenticator app, or enter its key; then enter the code it shows.</p>
        <img class="qr" [src]="picture()" width="180" height="180" alt="QR code of the key below" />
        <p class="mono key">{{ secret }}</p>
        <form class="one-line" (submit)="$event.preventDefault(); confirm(code.value)">
          <input #code class="form-control mono" inputmode="numeric" autocomplete="one-time-code" aria-label="Code of the authenticator" />
          <button type="submit" class="btn btn-primary">Put in force</button>
        </form>
      } @else if (factor(); as shown) {
        @if (shown.since !== null) {
          <p>
            In force since {{ written(shown.since) }}; {{ shown.recoveryCodes }} of 10 recovery codes left.
          </p>
        } @else {
          <p>Signing in needs only your password. With an authenticator app, a stolen password isn’t enough.</p>
        }
        <form class="one-line" (submit)="$event.preventDefault(); shown.since === null ? begin(own.value) : end(own.value)">
          <input #own type="password" class="form-control" autocomplete="current-password" placeholder="Your password" aria-label="Your password" />
          <button type="submit" class="btn" [class.btn-primary]="shown.since === null" [class.btn-plain]="shown.since !== null">
            {{ shown.since === null ? 'Set up' : 'Turn off the second factor' }}
          </button>
        </form>
      }
      <div class="field-error" role="alert">{{ errors()['code'] || errors()['password'] }}</div>

      <h3 class="section-label">Password</h3>
      <form class="one-line" (submit)="$event.preventDefault(); change(current, next)">
        <input #current type="password" class="form-control" autocomplete="current-password" placeholder="The one you have" aria-label="The password you have" />
        <input #next type="password" class="form-control" autocomplete="new-password" placeholder="The new one" aria-label="The new password" />
        <button type="submit" class="btn btn-plain">Change</button>
      </form>
      <div class="field-error" role="alert">{{ errors()['current'] || errors()['next'] }}</div>
      <p class="field-note">At least 10 characters. You will be signed out everywhere else.</p>

      <h3 class="section-label">Where you are signed in</h3>
      <table class="sheet-rows">
        @for (one of sessions(); track one.id) {
          <tr>
            <td>
              <strong>{{ browser(one.agent) }}</strong>
              @if (one.isThis) {
                <span class="tag moss">this one</span>
              }
              <div class="quiet">{{ one.address }}</div>
            </td>
            <td class="quiet number">used {{ written(one.seenAt) }}<br />since {{ written(one.since) }}</td>
            <td class="end">
              @if (!one.isThis) {
                <button type="button" class="btn-link-plain quiet" (click)="endSession(one.id)">
                  Sign out<span class="visually-hidden"> {{ browser(one.agent) }}</span>
                </button>
              }
            </td>
          </tr>
        }
      </table>
      @if (sessions().length > 1) {
        <p><button type="button" class="btn btn-plain" (click)="endOthers()">Sign out everywhere else</button></p>
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

  protected written(at: number): string {
    return writeInstant(at as Instant, this.register.zone(), this.register.now());
  }

  /** A browser by the name it gives itself, without its versions. */
  protected browser(agent: string): string {
    const name = /Edg\//.test(agent)
      ? 'Edge'
      : (/(Firefox|Chrome|Safari)\//.exec(agent)?.[1] ?? (agent.split(/[\s/]/)[0] || 'A program'));
    const system = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)/.exec(agent)?.[1];
    return system ? `${name} on ${system}` : name;
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
    this.notices.say({ kind: 'done', text: 'Password changed. You are signed out everywhere else.' });
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
