import { inject, Injectable } from '@angular/core';
import type { Changes, ReleaseBody, ReleasePreview, ReleaseView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { api, Api, Cancelled, Refusal } from '../hub/api';
import type { Work } from '../shared/work';
import { NoticeService, type Notice } from '../hub/notices';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** What is wrong with a release as it stands: refusals by field, or one for the whole. */
export interface Faults {
  readonly fields: readonly { readonly path: string; readonly message: string }[];
  readonly whole: string | null;
  /** The other side was not there: nothing is wrong with the release, and it can be pressed again. */
  readonly isPassing?: boolean;
  /** Found in the fields before anything was asked: wrong for every change alike. */
  readonly isEveryones?: boolean;
}

export const NO_FAULTS: Faults = { fields: [], whole: null };

/** Previews, presses and undoes releases; a press that was not answered is sent again as the same one. */
@Injectable({ providedIn: 'root' })
export class ReleasingService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);

  async preview(changes: Changes, work?: Work): Promise<{ preview: ReleasePreview | null; faults: Faults }> {
    try {
      const preview = await this.client.call(api.preview, { params: this.params(), body: changes }, work);
      return { preview, faults: { fields: preview.faults, whole: null } };
    } catch (error) {
      if (error instanceof Cancelled) return { preview: null, faults: NO_FAULTS };
      return { preview: null, faults: faultsOf(error) };
    }
  }

  /**
   * Presses; gives the faults where it was refused. `key` stays the same while the same thing is tried again. Where the
   * person cancels, nothing changes unless it was decided already, and then that is said.
   */
  async release(
    changes: Changes & Pick<ReleaseBody, 'basis'>,
    key: string,
    done: string,
    { link, work }: { link?: Notice['link']; work?: Work } = {},
  ): Promise<Faults | null> {
    try {
      const view = await this.client.call(
        api.release,
        { params: this.params(), body: { ...changes, idempotencyKey: key } },
        work,
      );
      this.tell(view, done, link);
      return null;
    } catch (error) {
      if (error instanceof Cancelled) return this.cancelled(key, done);
      return faultsOf(error);
    }
  }

  private async cancelled(key: string, done: string): Promise<Faults | null> {
    try {
      const { release } = await this.client.call(api.releaseOfKey, { params: { ...this.params(), key } });
      if (release) {
        this.tell(release, say.itWasDecidedBeforeTheCancel(done));
        return null;
      }
      this.notices.say({ kind: 'done', text: say.cancelledNothingHasChanged });
      return NO_FAULTS;
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
      this.tell(view, say.undoneVisitorsGetWhatTheyGot);
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
      action: { label: common.undo, run: () => void this.undo(view.id) },
    });
    void this.register.load();
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}

/**
 * The piece of a finding that shows nothing when its page goes live. One that only ends later is no such: it would take its
 * draft to pages that show it now.
 */
export function missingPieceOf({ code, severity, params }: ReleasePreview['findings'][number]): number | null {
  const { piece, itemId } = params as { piece: string | null; itemId: number };
  return code === 'piece-not-out' && severity === 'blocks' && piece !== null ? itemId : null;
}

function faultsOf(error: unknown): Faults {
  if (!(error instanceof Refusal)) throw error;
  const fields = error.problem.fields ?? [];
  return { fields, whole: fields.length ? null : error.message, isPassing: error.isPassing };
}
