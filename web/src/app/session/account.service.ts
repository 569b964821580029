import { inject, Injectable } from '@angular/core';
import type { FactorView, MailWish, SessionRowView } from '@domatium/contracts';
import { tried, type Answer } from '../hub/answer';
import { api, Api } from '../hub/api';

/** One's own account: password, sessions, second factor. */
@Injectable({ providedIn: 'root' })
export class AccountService {
  private readonly client = inject(Api);

  sessions(): Promise<Answer<readonly SessionRowView[]>> {
    return tried(() => this.client.call(api.ownSessions, {}));
  }

  setAccount(name: string, mailWish: MailWish): Promise<Answer<object>> {
    return tried(() => this.client.call(api.setAccount, { body: { name, mailWish } }));
  }

  endSession(sessionId: number): Promise<Answer<{ ended: number }>> {
    return tried(() => this.client.call(api.endSession, { params: { sessionId } }));
  }

  endOthers(): Promise<Answer<{ ended: number }>> {
    return tried(() => this.client.call(api.endOtherSessions, {}));
  }

  changePassword(current: string, next: string): Promise<Answer<{ ended: number }>> {
    return tried(() => this.client.call(api.changePassword, { body: { current, next } }));
  }

  askForReset(email: string): Promise<Answer<object>> {
    return tried(() => this.client.call(api.askForReset, { body: { email } }));
  }

  reset(token: string, password: string): Promise<Answer<object>> {
    return tried(() => this.client.call(api.reset, { params: { token }, body: { password } }));
  }

  factor(): Promise<Answer<FactorView>> {
    return tried(() => this.client.call(api.factor, {}));
  }

  beginFactor(password: string): Promise<Answer<{ secret: string; uri: string }>> {
    return tried(() => this.client.call(api.beginFactor, { body: { password } }));
  }

  confirmFactor(code: string): Promise<Answer<{ recoveryCodes: readonly string[] }>> {
    return tried(() => this.client.call(api.confirmFactor, { body: { code } }));
  }

  endFactor(password: string): Promise<Answer<object>> {
    return tried(() => this.client.call(api.endFactor, { body: { password } }));
  }
}
