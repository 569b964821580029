import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { CampaignBody, CampaignView, CampaignVisits, CopyBody, CopyPreview } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { tried, type Answer } from '../hub/answer';
import { api, Api, Refusal, type PartOf, type SentTo } from '../hub/api';
import type { Work } from '../shared/work';

/** Campaigns of the portfolio, read anew whenever something changed. */
@Injectable({ providedIn: 'root' })
export class CampaignsService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  readonly all = signal<readonly CampaignView[]>([]);

  constructor() {
    effect(() => {
      if (this.register.version()) untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    try {
      this.all.set(await this.client.call(api.campaigns, { params: this.params() }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  make(body: CampaignBody): Promise<Answer<{ id: number }>> {
    return tried(() => this.client.call(api.newCampaign, { params: this.params(), body }));
  }

  change(campaignId: number, version: number, body: CampaignBody): Promise<Answer<{ version: number }>> {
    const params = { ...this.params(), campaignId };
    return tried(() => this.client.call(api.changeCampaign, { params, body: { ...body, version } }));
  }

  remove(campaignId: number, version: number): Promise<Answer<{ id: number }>> {
    const params = { ...this.params(), campaignId };
    return tried(() => this.client.call(api.removeCampaign, { params, body: { version } }));
  }

  async visits(campaignId: number): Promise<CampaignVisits | null> {
    const answer = await tried(() =>
      this.client.call(api.campaignVisits, { params: { ...this.params(), campaignId } }),
    );
    return 'errors' in answer ? null : answer.value;
  }

  copyPreview(body: PartOf<typeof api.copyPreview>): Promise<Answer<CopyPreview>> {
    return tried(() =>
      this.client.call(api.copyPreview, { params: this.params(), body: body as SentTo<typeof api.copyPreview> }),
    );
  }

  again(campaignId: number, campaign: CampaignBody, copy: CopyBody, work: Work) {
    const params = { ...this.params(), campaignId };
    return tried(() => this.client.call(api.runAgain, { params, body: { campaign, copy } }, work));
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}
