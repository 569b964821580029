import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { AcceptedView } from '@domatium/contracts';
import type { FindingCode } from '@domatium/core/words';
import { groupBy } from '@domatium/core/plan';
import { say } from '@domatium/core/words/hub';
import { say as common } from '@domatium/core/words/common';
import { tried, type Answer } from './answer';
import { api, Api, Refusal, type SentTo } from './api';
import { NoticeService } from './notices';
import { RegisterService } from './register.service';

type Asked = SentTo<typeof api.acceptFinding>;

/** What was found in a portfolio and is let be, with a reason: it counts nowhere. */
@Injectable({ providedIn: 'root' })
export class AcceptedService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);
  readonly all = signal<readonly AcceptedView[]>([]);
  private readonly byPage = computed(() => groupBy([...this.all()], ({ pageId }) => pageId));
  /** What is accepted on a page. */
  readonly of = (pageId: number): readonly AcceptedView[] => this.byPage().get(pageId) ?? [];

  constructor() {
    effect(() => {
      const portfolioId = this.register.portfolioId();
      if (this.register.version() && portfolioId) untracked(() => void this.load(portfolioId));
    });
  }

  private async load(portfolioId: number): Promise<void> {
    try {
      this.all.set(await this.client.call(api.accepted, { params: { portfolioId } }));
    } catch (error) {
      // What was known stays; the register says that the server is away.
      if (!(error instanceof Refusal)) throw error;
    }
  }

  /** Lets something be; what was accepted in the same place before takes its reason and end. */
  async accept(asked: Asked): Promise<Answer<object>> {
    const portfolioId = this.register.portfolioId();
    const answer = await tried(() => this.client.call(api.acceptFinding, { params: { portfolioId }, body: asked }));
    await this.load(portfolioId);
    if ('value' in answer) {
      const { id } = answer.value;
      const run = () => void this.remove(portfolioId, id);
      this.notices.say({ kind: 'done', text: say.accepted, action: { label: common.undo, run } });
    }
    return answer;
  }

  /** Lets it count again. */
  async withdraw({ id, pageId, code, blockId, reason, until }: AcceptedView): Promise<void> {
    const portfolioId = this.register.portfolioId();
    if (!(await this.remove(portfolioId, id))) return;
    const run = () => void this.accept({ pageId, code: code as FindingCode, blockId, reason, until });
    this.notices.say({ kind: 'done', text: say.countsAgain, action: { label: common.undo, run } });
  }

  private async remove(portfolioId: number, acceptanceId: number): Promise<boolean> {
    const answer = await tried(() =>
      this.client.call(api.withdrawAcceptance, { params: { portfolioId, acceptanceId } }),
    );
    await this.load(portfolioId);
    if ('errors' in answer) this.notices.say({ kind: 'trouble', text: Object.values(answer.errors).join(' ') });
    return 'value' in answer;
  }
}
