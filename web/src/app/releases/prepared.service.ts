import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Changes, PreparedView, ReleaseView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { ReleasingService } from './releasing.service';
import { refusalOf } from '../hub/answer';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** Prepared releases of the portfolio, read anew whenever something changed. */
@Injectable({ providedIn: 'root' })
export class PreparedService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly releasing = inject(ReleasingService);
  private readonly notices = inject(NoticeService);
  private readonly place = inject(PlaceService);
  readonly all = signal<readonly PreparedView[]>([]);

  constructor() {
    effect(() => {
      if (this.register.version()) untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    try {
      this.all.set(await this.client.call(api.preparedReleases, { params: this.params() }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  /** Writes changes down; gives why that was refused, or `null`. */
  prepare(name: string, { changes, stock = [] }: Changes): Promise<string | null> {
    return this.tried(async () => {
      await this.client.call(api.prepare, {
        params: this.params(),
        body: { name: name.slice(0, 200), changes, stock },
      });
      this.notices.say({
        kind: 'done',
        text: say.isPreparedNothingIsReleasedYet(name),
        action: { label: say.seeIt, run: () => this.place.go({ page: null, panel: 'prepared' }) },
      });
    });
  }

  /** Says something of it to those who work on it, or sends it back with words. */
  speak(one: PreparedView, text: string, sendsBack: boolean): Promise<string | null> {
    return this.tried(async () => {
      const params = { ...this.params(), preparedId: one.id };
      await this.client.call(api.sayOfPrepared, { params, body: { version: one.version, text, sendsBack } });
    });
  }

  change(one: PreparedView, name: string, { changes, stock = [] }: Changes): Promise<string | null> {
    return this.tried(async () => {
      const params = { ...this.params(), preparedId: one.id };
      await this.client.call(api.changePrepared, { params, body: { version: one.version, name, changes, stock } });
    });
  }

  press(one: PreparedView, key: string): Promise<string | null> {
    return this.tried(async () => {
      const params = { ...this.params(), preparedId: one.id };
      const view: ReleaseView = await this.client.call(api.pressPrepared, {
        params,
        body: { version: one.version, idempotencyKey: key },
      });
      this.notices.say({
        kind: 'done',
        text: say.isReleased(one.name),
        action: { label: common.undo, run: () => void this.releasing.undo(view.id) },
      });
    });
  }

  approve(one: PreparedView): Promise<string | null> {
    return this.tried(async () => {
      const params = { ...this.params(), preparedId: one.id };
      await this.client.call(api.approvePrepared, { params, body: { version: one.version } });
      this.notices.say({ kind: 'done', text: say.approved(one.name) });
    });
  }

  drop(one: PreparedView): Promise<string | null> {
    return this.tried(async () => {
      const params = { ...this.params(), preparedId: one.id };
      await this.client.call(api.dropPrepared, { params, body: { version: one.version } });
      this.notices.say({
        kind: 'done',
        text: say.droppedNoneOfItWasEver(one.name),
        action: { label: common.undo, run: () => void this.prepare(one.name, one) },
      });
    });
  }

  private async tried(work: () => Promise<void>): Promise<string | null> {
    const refusal = await refusalOf(work);
    void this.load();
    return refusal;
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}
