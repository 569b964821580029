import { ChangeDetectionStrategy, Component, computed, inject, model, output } from '@angular/core';
import { readablePath } from '@domatium/core/address';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { NoticeService } from '../hub/notices';
import { RegisterService } from '../hub/register.service';
import { SessionService } from '../hub/session.service';
import { PresenceService } from '../presence/presence.service';
import type { CanvasWidth } from './canvas';
import { DraftService } from './draft.service';
import { saveFolder } from './export-page';
import { keepingWords } from './keeping-words';
import { PageWorld } from './page-world';
import { SeenAt } from './seen-at';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

/** What needs more room than the margin. */
export type EditorPanel = 'history' | 'start' | 'source' | 'import' | 'phone';

/** The bar over the canvas: which page, whether it is saved, how it is looked at, and where one goes from here. */
@Component({
  selector: 'dm-editor-head',
  imports: [NgbDropdownModule, SeenAt],
  templateUrl: './editor-head.html',
  styleUrl: './editor-head.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EditorHead {
  protected readonly say = say;
  protected readonly common = common;
  readonly width = model.required<CanvasWidth | 'both'>();
  readonly panel = output<EditorPanel>();
  readonly release = output();
  readonly back = output();
  protected readonly service = inject(RegisterService);
  protected readonly draft = inject(DraftService);
  protected readonly presence = inject(PresenceService);
  protected readonly world = inject(PageWorld);
  private readonly notices = inject(NoticeService);
  private readonly session = inject(SessionService);
  protected readonly address = computed(() => {
    const draft = this.draft.draft();
    return draft ? draft.host + readablePath(draft.path) : '';
  });
  protected readonly revision = computed(() => (this.draft.draft()?.latestRevision ?? 0) + 1);
  protected readonly keptWords = computed(() =>
    keepingWords(this.draft, { zone: this.service.zone(), now: this.service.now() }),
  );

  protected async exportFolder(): Promise<void> {
    const document = this.draft.document();
    if (!document) return;
    const { scheme = 'https' } = this.session.session()?.style ?? {};
    const { host = '', name = 'page' } = this.draft.draft() ?? {};
    await saveFolder(name, {
      document,
      theme: this.world.theme(),
      brand: this.world.profile().brand,
      siteCss: this.world.siteCss(),
      world: this.world.world(),
      portfolioId: this.service.portfolioId(),
      outside: (href) => (href.startsWith('//') ? `${scheme}:${href}` : `${scheme}://${host}${href}`),
    });
    this.notices.say({ kind: 'done', text: say.thePageIsInYourDownloads });
  }
}
