import { inject, Injectable } from '@angular/core';
import type { InvitationView, PeopleView, Role, SessionView, SiteRules } from '@domatium/contracts';
import { SessionService } from '../hub/session.service';
import { tried, type Answer } from '../hub/answer';
import { api, Api, type SentTo } from '../hub/api';

export interface Joining {
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly code?: string | null;
}
/** People of a portfolio, invitations, sites and portfolios: what an owner arranges. */
@Injectable({ providedIn: 'root' })
export class PeopleService {
  private readonly client = inject(Api);
  private readonly session = inject(SessionService);

  people(portfolioId: number): Promise<Answer<PeopleView>> {
    return tried(() => this.client.call(api.people, { params: { portfolioId } }));
  }

  invite(portfolioId: number, email: string, role: Role): Promise<Answer<{ path: string }>> {
    return tried(() => this.client.call(api.invite, { params: { portfolioId }, body: { email, role } }));
  }

  revoke(portfolioId: number, invitationId: number): Promise<Answer<object>> {
    return tried(() => this.client.call(api.revokeInvitation, { params: { portfolioId, invitationId } }));
  }

  setRole(portfolioId: number, personId: number, role: Role): Promise<Answer<object>> {
    return tried(() => this.client.call(api.setRole, { params: { portfolioId, personId }, body: { role } }));
  }

  /** Private links they made end with them, or go to whoever removes them. */
  remove(portfolioId: number, personId: number, keepsLinks: boolean): Promise<Answer<object>> {
    return tried(() => this.client.call(api.removePerson, { params: { portfolioId, personId }, body: { keepsLinks } }));
  }

  setWantsFactor(portfolioId: number, isWanted: boolean): Promise<Answer<object>> {
    return tried(() => this.client.call(api.setWantsFactor, { params: { portfolioId }, body: { isWanted } }));
  }

  setKeepDays(portfolioId: number, days: number | null): Promise<Answer<object>> {
    return tried(() => this.client.call(api.setKeepDays, { params: { portfolioId }, body: { days } }));
  }

  allowHost(portfolioId: number, host: string): Promise<Answer<{ code: string }>> {
    return tried(() => this.client.call(api.allowHost, { params: { portfolioId }, body: { host } }));
  }

  setSiteRules(portfolioId: number, siteId: number, rules: SiteRules): Promise<Answer<object>> {
    return tried(() => this.client.call(api.setSiteRules, { params: { portfolioId, siteId }, body: rules }));
  }

  newSite(portfolioId: number, body: SentTo<typeof api.newSite>): Promise<Answer<{ id: number }>> {
    return tried(() => this.client.call(api.newSite, { params: { portfolioId }, body }));
  }

  copySite(
    portfolioId: number,
    siteId: number,
    body: SentTo<typeof api.copySite>,
  ): Promise<Answer<{ id: number; pages: number }>> {
    return tried(() => this.client.call(api.copySite, { params: { portfolioId, siteId }, body }));
  }

  setSite(portfolioId: number, siteId: number, name: string): Promise<Answer<object>> {
    return tried(() => this.client.call(api.setSite, { params: { portfolioId, siteId }, body: { name } }));
  }

  async setPortfolio(portfolioId: number, body: SentTo<typeof api.setPortfolio>): Promise<Answer<object>> {
    const answer = await tried(() => this.client.call(api.setPortfolio, { params: { portfolioId }, body }));
    if ('value' in answer) await this.session.reload();
    return answer;
  }

  async newPortfolio(body: SentTo<typeof api.newPortfolio>): Promise<Answer<{ id: number }>> {
    const answer = await tried(() => this.client.call(api.newPortfolio, { body }));
    if ('value' in answer) await this.session.reload();
    return answer;
  }

  invitation(token: string): Promise<Answer<InvitationView>> {
    return tried(() => this.client.call(api.invitation, { params: { token } }));
  }

  async join(token: string, body: Joining): Promise<Answer<SessionView>> {
    const answer = await tried(() => this.client.call(api.join, { params: { token }, body }));
    if ('value' in answer) await this.session.reload();
    return answer;
  }

  async found(
    token: string,
    person: Joining,
    portfolio: SentTo<typeof api.newPortfolio>,
  ): Promise<Answer<{ id: number }>> {
    const answer = await tried(() => this.client.call(api.found, { params: { token }, body: { person, portfolio } }));
    if ('value' in answer) await this.session.reload();
    return answer;
  }
}
