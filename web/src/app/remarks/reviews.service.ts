import { inject, Injectable } from '@angular/core';
import type { PrivateLinkView, ReviewView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { tried, type Answer } from '../hub/answer';
import { api, Api, type SentTo } from '../hub/api';

/** Private links of the portfolio, and what their readers said of its pages. */
@Injectable({ providedIn: 'root' })
export class ReviewsService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);

  links(): Promise<Answer<readonly PrivateLinkView[]>> {
    return tried(() => this.client.call(api.privateLinks, { params: this.params() }));
  }

  share(body: SentTo<typeof api.newPrivateLink>): Promise<Answer<{ address: string }>> {
    return tried(() => this.client.call(api.newPrivateLink, { params: this.params(), body }));
  }

  revoke(linkId: number): Promise<Answer<object>> {
    return tried(() => this.client.call(api.revokePrivateLink, { params: { ...this.params(), linkId } }));
  }

  review(pageId: number): Promise<Answer<ReviewView>> {
    return tried(() => this.client.call(api.review, { params: { ...this.params(), pageId } }));
  }

  answer(remarkId: number, text: string): Promise<Answer<object>> {
    return tried(() => this.client.call(api.answerRemark, { params: { ...this.params(), remarkId }, body: { text } }));
  }

  settle(remarkId: number): Promise<Answer<object>> {
    return tried(() => this.client.call(api.settleRemark, { params: { ...this.params(), remarkId } }));
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}
