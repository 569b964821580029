import { A11yModule } from '@angular/cdk/a11y';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  output,
  signal,
  viewChild,
  type AfterViewInit,
  type OnDestroy,
} from '@angular/core';
import { NgbTypeahead } from '@ng-bootstrap/ng-bootstrap';
import { readablePath } from '@domatium/core/address';
import { matches } from '@domatium/core/text';
import {
  dayOf,
  dayOrderOf,
  instantOfWall,
  isoInstant,
  parseWhen,
  writeDistance,
  writeInstant,
} from '@domatium/core/time';
import { map, merge, Subject, switchMap, tap, type OperatorFunction } from 'rxjs';
import { RegisterService } from '../hub/register.service';
import { ViewsService } from '../views/views.service';
import { PlaceService } from '../hub/place.service';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/shell';

interface Goal {
  readonly kind: 'page' | 'site' | 'campaign' | 'view' | 'moment' | 'do';
  readonly name: string;
  readonly more: string;
  readonly go: () => void;
}

const KINDS: Record<Goal['kind'], string> = {
  page: common.page,
  site: common.site,
  campaign: common.campaign,
  view: say.view,
  moment: common.when,
  do: 'Do',
};
const PAGES = 8;
const MOST = 14;
const EVERYTHING = { scope: null, state: null, find: null, campaign: null, owner: null, label: null, visits: null };

/** Goes to any page, site, campaign, view or act by a few letters. */
@Component({
  selector: 'dm-go-to',
  imports: [A11yModule, NgbTypeahead],
  template: `
    <ng-template #row let-goal="result">
      <span class="kind quiet">{{ kindOf(goal) }}</span>
      <span class="name">{{ goal.name }}</span>
      <span class="more quiet mono">{{ goal.more }}</span>
    </ng-template>
    <div class="veil" (click)="closed.emit()"></div>
    <section
      role="dialog"
      cdkTrapFocus
      cdkTrapFocusAutoCapture
      aria-modal="true"
      [attr.aria-label]="say.goToAnything"
      (pointerdown)="isPointed = true"
      (keydown)="isPointed = $event.key.startsWith('Arrow')"
      (keydown.escape)="$event.stopPropagation(); closed.emit()"
    >
      <input
        #field
        type="text"
        [attr.aria-label]="say.goToAPageSiteCampaign"
        [placeholder]="say.aPageSiteCampaignViewOr"
        spellcheck="false"
        [ngbTypeahead]="search"
        [resultTemplate]="row"
        [inputFormatter]="nameOf"
        [editable]="false"
        (focus)="asked.next(field.value)"
        (selectItem)="$event.preventDefault(); choose($event.item, field.value.trim())"
      />
      @if (isNone()) {
        <p class="none quiet" role="status">{{ say.noResults }}</p>
      }
    </section>
  `,
  styles: `
    .veil {
      position: fixed;
      inset: 0;
      background: rgb(34 48 43 / 18%);
      z-index: 1100;
    }
    section {
      position: fixed;
      top: 12vh;
      left: 50%;
      transform: translateX(-50%);
      width: min(620px, calc(100vw - 32px));
      background: var(--surface);
      border-radius: var(--corner);
      box-shadow: var(--shadow);
      z-index: 1101;
      overflow: hidden;
    }
    input {
      width: 100%;
      border: 0;
      border-bottom: 1px solid var(--rule);
      padding: 12px 16px;
      font-size: 1rem;
      outline: 0;
    }
    .none {
      margin: 0;
      padding: 11px 16px;
    }
    /* The list belongs to the dialog: it lies below the field, however Popper would place it. */
    ::ng-deep dm-go-to ngb-typeahead-window {
      display: block;
      position: static !important;
      transform: none !important;
      border: 0;
      padding: 6px;
      background: var(--surface);
      max-height: 60vh;
      overflow-y: auto;
      box-shadow: none;
    }
    ::ng-deep dm-go-to .dropdown-item {
      display: flex;
      gap: 10px;
      align-items: baseline;
      padding: 5px 10px;
      border-radius: 4px;
      &.active {
        background: var(--moss-tint);
        color: inherit;
      }
    }
    .kind {
      width: 74px;
      flex: none;
      font-size: 0.8125rem;
    }
    .name {
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
      max-width: 60%;
    }
    .more {
      flex: 1;
      text-align: right;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GoTo implements AfterViewInit, OnDestroy {
  protected readonly say = say;
  readonly closed = output();
  private readonly service = inject(RegisterService);
  private readonly views = inject(ViewsService);
  private readonly place = inject(PlaceService);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private readonly before = document.activeElement;
  protected readonly kindOf = ({ kind }: Goal) => KINDS[kind];
  protected readonly nameOf = ({ name }: Goal) => name;
  /** What is looked for without a letter typed: as the field is entered. */
  protected readonly asked = new Subject<string>();
  protected readonly isNone = signal(false);
  protected readonly search: OperatorFunction<string, readonly Goal[]> = (typed) =>
    merge(typed, this.asked).pipe(
      switchMap(async (text) => {
        const typed = text.trim();
        return { typed, goals: await this.goalsFor(typed) };
      }),
      tap(({ typed, goals }) => {
        this.listed = typed;
        this.isNone.set(!goals.length);
      }),
      map(({ goals }) => goals),
    );
  /** The letters of which the list is, and whether one chose from it by pointer or arrows. */
  private listed = '';
  protected isPointed = false;

  private readonly others = computed<Goal[]>(() => {
    const head = this.service.head();
    const panel = (kind: Goal['kind'], name: string, id: string): Goal => ({
      kind,
      name,
      more: '',
      go: () => this.place.go({ page: null, panel: id }),
    });
    const scope = (kind: Goal['kind'], name: string, more: string, key: string | null): Goal => ({
      kind,
      name,
      more,
      go: () => this.place.go({ ...EVERYTHING, scope: key, page: null, panel: null }),
    });
    return [
      ...(this.service.mayWrite()
        ? [
            panel('do', common.newPage, 'new'),
            panel('do', say.newCampaign, 'new-campaign'),
            panel('do', say.importPagesFromACSV, 'import'),
          ]
        : []),
      ...(this.service.mayRelease() ? [panel('do', say.putUpANotice, 'notice')] : []),
      panel('do', common.toDo, 'todo'),
      panel('do', say.calendarFeeds, 'feeds'),
      scope('view', say.wholePortfolio, '', null),
      scope('view', common.bin, '', 'bin'),
      panel('view', say.toFix, 'fix'),
      panel('view', say.preparedReleases, 'prepared'),
      panel('view', say.templates, 'templates'),
      panel('view', say.people, 'people'),
      panel('view', say.record, 'record'),
      panel('view', say.portfolio, 'portfolio'),
      panel('view', say.pagesOfAllPortfolios, 'everywhere'),
      ...(head?.sites ?? []).map(({ id, name }): Goal => ({
        kind: 'site',
        name: say.siteSheetOf(name),
        more: '',
        go: () => this.place.go({ ...EVERYTHING, scope: `site:${id}`, page: null, panel: 'site' }),
      })),
      panel('view', say.privateLinks, 'share'),
      ...this.views
        .named()
        .map((view): Goal => ({ kind: 'view', name: view.name, more: '', go: () => this.views.show(view) })),
      ...(head?.sites ?? []).map(({ id, name, host }) => scope('site', name, host, `site:${id}`)),
      ...(head?.campaigns ?? []).map(({ id, name }) => scope('campaign', name, '', `campaign:${id}`)),
    ];
  });
  ngAfterViewInit(): void {
    this.field().nativeElement.focus();
  }

  ngOnDestroy(): void {
    if (this.before instanceof HTMLElement) this.before.focus();
  }

  private async goalsFor(typed: string): Promise<Goal[]> {
    const found = typed ? await this.service.desk.pick(typed, this.service.shown(), null, PAGES) : [];
    const pages = found.map(({ id, name, host, path }): Goal => ({
      kind: 'page',
      name,
      more: host + readablePath(path),
      go: () => this.place.go({ page: id, panel: null }),
    }));
    const others = this.others().filter(({ name, more }) => !typed || matches(typed, [name, more]));
    const goals = [...others.slice(0, MOST - pages.length), ...pages].slice(0, MOST);
    const moment = this.momentIn(typed);
    // Half a word may be a day by chance.
    const isMeant = /\d|day$|tomorrow/i.test(typed);
    return moment ? (isMeant ? [moment, ...goals] : [...goals, moment]) : goals;
  }

  /** The portfolio as of a moment that was typed. */
  private momentIn(typed: string): Goal | null {
    const [now, zone] = [this.service.now(), this.service.zone()];
    const local = parseWhen(typed, dayOf(now, zone), dayOrderOf());
    const at = local && instantOfWall({ local, zone });
    if (!at) return null;
    return {
      kind: 'moment',
      name: say.asOf(writeInstant(at, zone, now)),
      more: writeDistance(at, now),
      go: () => this.place.go({ at: isoInstant(at), panel: null }),
    };
  }

  /** Whoever types on and presses Enter means what they typed, not the first of a list that is still of fewer letters. */
  protected async choose(listed: Goal, typed: string): Promise<void> {
    if (this.isPointed || typed === this.listed) return this.take(listed);
    const [first] = await this.goalsFor(typed);
    if (first) this.take(first);
  }

  private take(goal: Goal): void {
    this.closed.emit();
    goal.go();
  }
}
