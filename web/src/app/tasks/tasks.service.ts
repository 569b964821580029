import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { TaskView } from '@domatium/contracts';
import { dayOf } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { SessionService } from '../hub/session.service';
import { refusalOf } from '../hub/answer';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { say } from '@domatium/core/words/tasks';
import { say as common } from '@domatium/core/words/common';

/** Tasks of all pages, read anew whenever something changed. */
@Injectable({ providedIn: 'root' })
export class TasksService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly session = inject(SessionService);
  private readonly notices = inject(NoticeService);
  readonly all = signal<readonly TaskView[]>([]);
  readonly today = computed(() => dayOf(this.register.now(), this.register.zone()));
  readonly me = computed(() => this.session.session()?.account.id ?? null);
  readonly mine = computed(() =>
    this.all().filter(({ personId, doneAt }) => doneAt === null && personId === this.me()),
  );

  constructor() {
    effect(() => {
      if (this.register.version()) untracked(() => void this.load());
    });
  }

  isOverdue({ dueDay, doneAt }: TaskView): boolean {
    return doneAt === null && dueDay !== null && dueDay < this.today();
  }

  private async load(): Promise<void> {
    try {
      this.all.set(await this.client.call(api.tasks, { params: this.params() }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  add(pageId: number, text: string, personId: number | null, dueDay: string | null): Promise<string | null> {
    return this.tried(() =>
      this.client.call(api.newTask, { params: { ...this.params(), pageId }, body: { text, personId, dueDay } }),
    );
  }

  async setDone(task: TaskView, isDone: boolean): Promise<void> {
    const refusal = await this.tried(() =>
      this.client.call(api.changeTask, {
        params: { ...this.params(), taskId: task.id },
        body: { version: task.version, isDone },
      }),
    );
    if (refusal) this.notices.say({ kind: 'trouble', text: refusal });
  }

  async remove(task: TaskView): Promise<void> {
    const refusal = await this.tried(() =>
      this.client.call(api.removeTask, {
        params: { ...this.params(), taskId: task.id },
        body: { version: task.version },
      }),
    );
    if (refusal) return this.notices.say({ kind: 'trouble', text: refusal });
    this.notices.say({
      kind: 'done',
      text: say.isRemoved(task.text),
      action: { label: common.undo, run: () => void this.add(task.pageId, task.text, task.personId, task.dueDay) },
    });
  }

  private async tried(work: () => Promise<unknown>): Promise<string | null> {
    const refusal = await refusalOf(work);
    void this.load();
    return refusal;
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}
