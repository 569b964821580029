import { inject, Injectable, signal } from '@angular/core';
import { mayAct, type Act, type SessionView } from '@domatium/contracts';
import { absoluteAddress } from '@domatium/core/address';
import { api, Api, Refusal } from './api';

/** Who is signed in, where they may work, and as what. */
@Injectable({ providedIn: 'root' })
export class SessionService {
  private readonly client = inject(Api);
  readonly session = signal<SessionView | null>(null);

  /** The session of the cookie, asked for once. */
  async load(): Promise<SessionView | null> {
    if (this.session()) return this.session();
    try {
      this.take(await this.client.call(api.session, {}));
    } catch (error) {
      if (!(error instanceof Refusal) || error.code !== 'signed-out') throw error;
    }
    return this.session();
  }

  /** The session once more: portfolios or roles have changed. */
  async reload(): Promise<SessionView | null> {
    this.session.set(null);
    return this.load();
  }

  async signIn(email: string, password: string, code: string | null): Promise<SessionView> {
    return this.take(await this.client.call(api.signIn, { body: { email, password, code } }));
  }

  async signOut(): Promise<void> {
    await this.client.call(api.signOut, {});
    this.session.set(null);
    this.client.csrf.set(null);
  }

  mayAct(portfolioId: number, act: Act): boolean {
    const role = this.session()?.portfolios.find(({ id }) => id === portfolioId)?.role;
    return role !== undefined && mayAct(role, act);
  }

  /** Where an address can be opened. */
  openHref(host: string, path: string): string {
    const style = this.session()?.style;
    return style ? absoluteAddress(style, host, path) : '';
  }

  private take(view: SessionView): SessionView {
    this.session.set(view);
    this.client.csrf.set(view.csrf);
    return view;
  }
}
