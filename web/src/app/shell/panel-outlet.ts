import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, type Type } from '@angular/core';
import { PlaceService, type Panel } from '../hub/place.service';
import { NoticeService } from '../hub/notices';
import { RegisterService } from '../hub/register.service';
import { PANEL_TABLE } from './panels';
import { say } from '@domatium/core/words/shell';

/** While nobody waits for anything, the panels are fetched: they open at once, and also while the server is away. */
const IDLE = 4_000;

/** The panel that the address bar names, fetched when it is opened first. */
@Component({
  selector: 'dm-panel-outlet',
  imports: [NgComponentOutlet],
  template: `
    @if (open(); as panel) {
      @if (types().get(panel.name); as type) {
        <ng-container *ngComponentOutlet="type; inputs: panel.inputs" />
      }
    }
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PanelOutlet {
  private readonly place = inject(PlaceService);
  private readonly service = inject(RegisterService);
  private readonly notices = inject(NoticeService);
  protected readonly types = signal<ReadonlyMap<Panel, Type<unknown>>>(new Map());

  protected readonly open = computed(() => {
    const name = this.place.panel();
    if (name === null) return null;
    const { of, isOfMoment } = PANEL_TABLE[name];
    if (isOfMoment && this.service.isNow()) return null;
    if (!of) return { name, inputs: {} };
    const scope = this.place.scope();
    const ids = {
      pageId: this.place.pageId(),
      campaignId: scope?.kind === 'campaign' ? scope.id : null,
      siteId: scope?.kind === 'site' ? scope.id : null,
    };
    const id = ids[of];
    return id === null ? null : { name, inputs: { [of]: id } };
  });

  constructor() {
    effect(() => {
      const panel = this.open();
      if (panel) void this.load(panel.name);
    });
    setTimeout(() => void this.loadAll(), IDLE);
  }

  private async load(name: Panel): Promise<void> {
    if (this.types().has(name)) return;
    try {
      const type = await PANEL_TABLE[name].load();
      this.types.update((types) => new Map(types).set(name, type));
    } catch {
      this.notices.say({
        kind: 'trouble',
        text: say.thisCantBeFetchedJustNow,
        action: { label: say.tryAgain, run: () => void this.load(name) },
      });
    }
  }

  private async loadAll(): Promise<void> {
    // What can't be fetched ahead is fetched when it is wanted.
    for (const { load } of Object.values(PANEL_TABLE)) if ((await load().catch(() => null)) === null) return;
  }
}
