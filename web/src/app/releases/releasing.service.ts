import { inject, Injectable } from '@angular/core';
import type { ReleaseChange, ReleasePreview, ReleaseView } from '@domatium/contracts';
import { RegisterService } from '../register/register.service';
import { api, Api, Refusal } from '../shared/api';
import { NoticeService, type Notice } from '../shared/notices';

/** What is wrong with a release as it stands: refusals by field, or one for the whole. */
export interface Faults {
  readonly fields: readonly { readonly path: string; readonly message: string }[];
  readonly whole: string | null;
  /** The other side was not there: nothing is wrong with the release, and it can be pressed again. */
  readonly isPassing?: boolean;
}

export const NO_FAULTS: Faults = { fields: [], whole: null };

/** Previews, presses and undoes releases; a press that was not answered is sent again as the same one. */
@Injectable({ providedIn: 'root' })
export class ReleasingService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);

  async preview(changes: readonly ReleaseChange[]): Promise<{ preview: ReleasePreview | null; faults: Faults }> {
    try {
      const preview = await this.client.call(api.preview, { params: this.params(), body: { changes } });
      return { preview, faults: { fields: preview.faults, whole: null } };
    } catch (error) {
      return { preview: null, faults: faultsOf(error) };
    }
  }

  /** Presses; gives the faults where it was refused. `key` stays the same while the same thing is tried again. */
  async release(
    changes: readonly ReleaseChange[],
    key: string,
    done: string,
    link?: Notice['link'],
  ): Promise<Faults | null> {
    try {
      const view = await this.client.call(api.release, {
        params: this.params(),
        body: { changes, idempotencyKey: key },
      });
      this.tell(view, done, link);
      return null;
    } catch (error) {
      return faultsOf(error);
    }
  }

  async undo(releaseId: number): Promise<string | null> {
    try {
      const view = await this.client.call(api.undo, {
        params: { ...this.params(), releaseId },
        body: { idempotencyKey: crypto.randomUUID(), leavesRedirect: true },
      });
      this.tell(view, 'Undone. Visitors get what they got before.');
      return null;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.notices.say({ kind: 'trouble', text: error.message });
      return error.message;
    }
  }

  private tell(view: ReleaseView, text: string, link?: Notice['link']): void {
    this.notices.say({
      kind: 'done',
      text,
      ...(link ? { link } : {}),
      action: { label: 'Undo', run: () => void this.undo(view.id) },
    });
    void this.register.load();
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}

function faultsOf(error: unknown): Faults {
  if (!(error instanceof Refusal)) throw error;
  const fields = error.problem.fields ?? [];
  return { fields, whole: fields.length ? null : error.message, isPassing: error.isPassing };
}
