import { inject, Injectable } from '@angular/core';
import type { FileUses, FileView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { refusalOf, tried } from '../hub/answer';
import { api, Api } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PicturesService } from './pictures.service';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

/** What is done to files that are no pictures. */
@Injectable({ providedIn: 'root' })
export class FilesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);
  private readonly pictures = inject(PicturesService);

  private params(fileId: number) {
    return { portfolioId: this.register.portfolioId(), fileId };
  }

  /** Where a file is used; `null` where that can’t be known. */
  async usesOf(fileId: number): Promise<FileUses | null> {
    const answer = await tried(() => this.client.call(api.fileUses, { params: this.params(fileId) }));
    return 'value' in answer ? answer.value : null;
  }

  /** Puts bytes, or another file, in the place of a file, wherever that is used; the way back is offered at once. */
  async replace({ id, name }: FileView, fresh: File | FileView): Promise<void> {
    if (fresh instanceof File) {
      const received = await this.pictures.bring(fresh, { replacesFile: id });
      if (received?.file) this.say(id, say.replacedPagesThatUseItAre(name));
      return;
    }
    const body = { from: fresh.id };
    const refusal = await refusalOf(() => this.client.call(api.takeFile, { params: this.params(id), body }));
    if (refusal) return this.notices.say({ kind: 'trouble', text: refusal });
    await this.pictures.load();
    this.say(id, say.replacedPagesThatUseItAre(name));
  }

  /** Makes a file again what it was before it was replaced. */
  async putBack(fileId: number): Promise<void> {
    const file = this.pictures.files().find(({ id }) => id === fileId);
    if (!file) return;
    const body = { version: file.version };
    const refusal = await refusalOf(() => this.client.call(api.putBackFile, { params: this.params(fileId), body }));
    if (refusal) return this.notices.say({ kind: 'trouble', text: refusal });
    await this.pictures.load();
    this.say(fileId, say.isRestoredPagesThatUseIt(file.name));
  }

  private say(fileId: number, text: string): void {
    this.notices.say({ kind: 'done', text, action: { label: common.undo, run: () => void this.putBack(fileId) } });
  }
}
