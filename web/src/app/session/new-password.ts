import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { askForResetBody, resetBody } from '@domatium/contracts';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { AccountService } from './account.service';
import { say } from '@domatium/core/words/session';

/** A new password: asked for by address, or taken through the link of a mail. */
@Component({
  selector: 'dm-new-password',
  template: `
    <main>
      <form (submit)="$event.preventDefault(); token() ? take() : ask()" novalidate>
        <div class="brand">
          <img src="/favicon.svg" alt="" width="26" height="26" />
          <h1>{{ say.aNewPassword }}</h1>
        </div>
        @if (done(); as text) {
          <p role="status">{{ text }}</p>
        } @else if (token()) {
          <label class="form-label" for="password">{{ say.theNewPassword }}</label>
          <input
            id="password"
            type="password"
            class="form-control"
            autocomplete="new-password"
            [attr.aria-invalid]="!!errors()['password']"
            (input)="password.set($any($event.target).value)"
          />
          <div class="field-error" role="alert">{{ errors()['password'] || errors()['whole'] }}</div>
          <button class="btn btn-primary" type="submit">{{ say.takeIt }}</button>
        } @else {
          <label class="form-label" for="email">{{ say.eMailAddress }}</label>
          <input
            id="email"
            type="email"
            class="form-control"
            autocomplete="username"
            [attr.aria-invalid]="!!errors()['email']"
            (input)="email.set($any($event.target).value)"
          />
          <div class="field-error" role="alert">{{ errors()['email'] || errors()['whole'] }}</div>
          <button class="btn btn-primary" type="submit">{{ say.sendTheLink }}</button>
        }
        <p class="back"><a href="/sign-in">{{ say.signIn }}</a></p>
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
  protected readonly say = say;
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
    this.done.set(say.aLinkIsOnItsWay);
  }

  protected async take(): Promise<void> {
    const wrong = errorsOf(resetBody, { password: this.password() });
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    const answer = await this.account.reset(this.token() ?? '', this.password());
    if ('errors' in answer) return this.errors.set(answer.errors);
    this.done.set(say.passwordChangedSignIn);
  }
}
