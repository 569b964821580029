import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import type { PeopleView } from '@domatium/contracts';
import { SETTABLE, TAKEN, usually, type Severities, type Taken } from '@domatium/core/checks';
import { fold } from '@domatium/core/text';
import { FINDING_KINDS, type FindingCode } from '@domatium/core/words';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/fixing';
import { tried } from '../hub/answer';
import { api, Api } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { WideSheet } from '../shared/wide-sheet';

/** How serious a site takes each thing that checks can find. */
@Component({
  selector: 'dm-checks-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet [heading]="say.checks" [lead]="say.checksLead" (closed)="place.go({ panel: null })">
      <div class="one-line">
        <label class="section-label" for="checks-site">{{ common.site }}</label>
        <select id="checks-site" class="form-select" (change)="siteId.set(+$any($event.target).value)">
          @for (site of view()?.sites; track site.id) {
            <option [value]="site.id" [selected]="site.id === siteId()">{{ site.name }}</option>
          }
        </select>
        <input
          class="form-control"
          type="search"
          [placeholder]="say.findChecks"
          [attr.aria-label]="say.findChecks"
          (input)="sought.set($any($event.target).value)"
        />
      </div>
      @if (error(); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      @if (site(); as shown) {
        <p class="quiet">{{ summary() }} {{ say.eitherIs }}</p>
        <table class="sheet-rows">
          @for (kind of kinds(); track kind.code) {
            <tr [class.is-set]="kind.taken">
              <td>
                <span class="title">{{ kind.title }}</span>&ngsp;<span class="quiet">{{ kind.why }}</span>
              </td>
              <td class="taken">
                @if (service.mayManage()) {
                  <select class="form-select" [attr.aria-label]="say.takenOn(kind.title, shown.name)" (change)="set(kind.code, $any($event.target).value)">
                    <option value="" [selected]="!kind.taken">{{ say.asUsual[kind.usual] }}</option>
                    @for (one of taken; track one) {
                      <option [value]="one" [selected]="one === kind.taken">{{ words[one] }}</option>
                    }
                  </select>
                } @else {
                  {{ kind.taken ? words[kind.taken] : say.asUsual[kind.usual] }}
                }
              </td>
            </tr>
          } @empty {
            <tr>
              <td class="quiet">{{ say.noCheckLikeThat }}</td>
            </tr>
          }
        </table>
      } @else if (view()) {
        <p class="quiet">{{ say.noSites }}</p>
      }
      <ng-container foot>
        <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'fix' })">{{ say.toFix }}</button>
      </ng-container>
    </dm-wide-sheet>
  `,
  styles: `
    .one-line {
      align-items: center;
      gap: 10px;
      margin-bottom: 8px;
    }
    .one-line .section-label {
      margin: 0;
    }
    .one-line .form-select {
      flex: 1 1 200px;
    }
    .one-line .form-control {
      flex: 1 1 160px;
    }
    td {
      padding: 6px 4px;
    }
    td > * {
      display: block;
    }
    .quiet {
      font-size: 0.8125rem;
    }
    .is-set .title {
      font-weight: 580;
    }
    .taken {
      width: 204px;
    }
    @media (max-width: 700px) {
      .one-line {
        flex-wrap: wrap;
      }
      .taken {
        width: 128px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChecksSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly place = inject(PlaceService);
  protected readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  protected readonly taken = TAKEN;
  protected readonly words: Readonly<Record<Taken, string>> = {
    blocks: say.blocks,
    'worth-fixing': say.worthFixing,
    off: say.off,
  };
  protected readonly view = signal<PeopleView | null>(null);
  protected readonly error = signal<string | null>(null);
  protected readonly sought = signal('');
  protected readonly siteId = linkedSignal(() => {
    const scope = this.place.scope();
    const first = this.view()?.sites[0]?.id ?? 0;
    return scope?.kind === 'site' ? scope.id : first;
  });
  protected readonly site = computed(() => this.view()?.sites.find(({ id }) => id === this.siteId()) ?? null);
  /** What is set otherwise stands first. */
  protected readonly kinds = computed(() => {
    const severities = this.site()?.severities ?? {};
    const sought = fold(this.sought().trim());
    return SETTABLE.map((code) => ({
      code,
      ...FINDING_KINDS[code],
      usual: usually(code),
      taken: severities[code] ?? null,
    }))
      .filter(({ title, why }) => fold(`${title} ${why}`).includes(sought))
      .sort((a, b) => Number(b.taken !== null) - Number(a.taken !== null) || a.title.localeCompare(b.title));
  });
  protected readonly summary = computed(() => say.setOtherwise(Object.keys(this.site()?.severities ?? {}).length));

  constructor() {
    effect(() => {
      if (this.service.version()) untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    const answer = await tried(() =>
      this.client.call(api.people, { params: { portfolioId: this.service.portfolioId() } }),
    );
    if ('value' in answer) this.view.set(answer.value);
    else this.error.set(Object.values(answer.errors).join(' '));
  }

  protected async set(code: FindingCode, taken: Taken | ''): Promise<void> {
    const site = this.site();
    if (!site) return;
    const { [code]: _, ...others } = site.severities;
    if (!(await this.write(site.id, site.approvals, taken ? { ...others, [code]: taken } : others))) return;
    const run = () => void this.write(site.id, site.approvals, site.severities);
    this.notices.say({ kind: 'done', text: say.savedOf(site.name), action: { label: common.undo, run } });
  }

  private async write(siteId: number, approvals: number, severities: Severities): Promise<boolean> {
    const params = { portfolioId: this.service.portfolioId(), siteId };
    const answer = await tried(() => this.client.call(api.setSiteRules, { params, body: { approvals, severities } }));
    await this.load();
    await this.service.load();
    this.error.set('errors' in answer ? Object.values(answer.errors).join(' ') : null);
    return 'value' in answer;
  }
}
