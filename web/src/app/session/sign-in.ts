import { ChangeDetectionStrategy, Component, inject, Injector, input, signal } from '@angular/core';
import { Router } from '@angular/router';
import { signInBody } from '@domatium/contracts';
import { Refusal } from '../hub/api';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { AFTER_SIGN_IN } from '../hub/after-sign-in';
import { SessionService } from '../hub/session.service';
import { say } from '@domatium/core/words/session';
import { say as common } from '@domatium/core/words/common';

@Component({
  selector: 'dm-sign-in',
  templateUrl: './sign-in.html',
  styleUrl: './sign-in.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignIn {
  protected readonly say = say;
  protected readonly common = common;
  readonly next = input<string>();
  private readonly session = inject(SessionService);
  private readonly router = inject(Router);
  private readonly injector = inject(Injector);
  protected readonly email = signal('');
  protected readonly password = signal('');
  protected readonly code = signal('');
  /** Shown once the password was right and a code is wanted too. */
  protected readonly asksCode = signal(false);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly trouble = signal<string | null>(null);
  protected readonly isBusy = signal(false);

  protected check(field: 'email' | 'password'): void {
    const all = errorsOf(signInBody, { email: this.email(), password: this.password() });
    this.errors.update((errors) => ({ ...errors, [field]: all[field] ?? '' }));
  }

  /** What comes after the sign-in is fetched while one types; where that fails it is fetched again when it is needed. */
  private readonly after = inject(AFTER_SIGN_IN)();

  /** The register is on its way while the application is built around it. */
  private async begin(portfolioId: number | undefined): Promise<void> {
    const loaded = await this.after;
    if (loaded && portfolioId !== undefined) this.injector.get(loaded).open(portfolioId);
  }

  protected async submit(event: Event): Promise<void> {
    event.preventDefault();
    const errors = errorsOf(signInBody, { email: this.email(), password: this.password() });
    this.errors.set(errors);
    this.trouble.set(null);
    if (Object.keys(errors).length) return;
    this.isBusy.set(true);
    try {
      const { portfolios } = await this.session.signIn(this.email(), this.password(), this.code() || null);
      const next = this.next();
      if (!next) void this.begin(portfolios[0]?.id);
      await this.router.navigateByUrl(next?.startsWith('/') && !next.startsWith('//') ? next : '/');
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      const [code, field] = [error.at('code'), error.at('password')];
      if (code) {
        // The first time it is a question, not a fault.
        this.errors.set(this.asksCode() ? { code } : {});
        this.asksCode.set(true);
      } else if (field) this.errors.set({ password: field });
      else this.trouble.set(error.message);
    } finally {
      this.isBusy.set(false);
    }
  }
}
