import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { askForResetBody, resetBody } from '@domatium/contracts';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { AccountService } from './account.service';

/** A new password: asked for by address, or taken through the link of a mail. */
@Component({
  selector: 'dm-new-password',
  template: `
    <main>
      <form (submit)="$event.preventDefault(); token() ? take() : ask()" novalidate>
        <div class="brand">
          <img src="/favicon.svg" alt="" width="26" height="26" />
          <h1>A new password</h1>
        </div>
        @if (done(); as text) {
          <p role="status">{{ text }}</p>
        } @else if (token()) {
          <label class="form-label" for="password">The new password</label>
          <input
            id="password"
            type="password"
            class="form-control"
            autocomplete="new-password"
            [attr.aria-invalid]="!!errors()['password']"
            (input)="password.set($any($event.target).value)"
          />
          <div class="field-error" role="alert">{{ errors()['password'] || errors()['whole'] }}</div>
          <button class="btn btn-primary" type="submit">Take it</button>
        } @else {
          <label class="form-label" for="email">E-mail address</label>
          <input
            id="email"
            type="email"
            class="form-control"
            autocomplete="username"
            [attr.aria-invalid]="!!errors()['email']"
            (input)="email.set($any($event.target).value)"
          />
          <div class="field-error" role="alert">{{ errors()['email'] || errors()['whole'] }}</div>
          <button class="btn btn-primary" type="submit">Send the link</button>
        }
        <p class="back"><a href="/sign-in">Sign in</a></p>
      </form>
    </main>
  `,
  styleUrl: './sign-in.scss',
  styles: `
    .back {
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPassword {
  readonly token = input<string>();
  private readonly account = inject(AccountService);
  protected readonly email = signal('');
  protected readonly password = signal('');
  protected readonly errors = signal<FieldErrors>({});
  protected readonly done = signal<string | null>(null);

  protected async ask(): Promise<void> {
    const wrong = errorsOf(askForResetBody, { email: this.email() });
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    const answer = await this.account.askForReset(this.email());
    if ('errors' in answer) return this.errors.set(answer.errors);
    this.done.set('If that address has an account, a link is on its way. It works once, for two hours.');
  }

  protected async take(): Promise<void> {
    const wrong = errorsOf(resetBody, { password: this.password() });
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    const answer = await this.account.reset(this.token() ?? '', this.password());
    if ('errors' in answer) return this.errors.set(answer.errors);
    this.done.set('Password changed; all sessions ended. Sign in with the new one.');
  }
}
