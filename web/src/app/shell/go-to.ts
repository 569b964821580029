import { A11yModule } from '@angular/cdk/a11y';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  output,
  signal,
  viewChild,
  type AfterViewInit,
} from '@angular/core';
import { readablePath } from '@domatium/core/address';
import type { RegisterRow } from '@domatium/core/register';
import { matches } from '@domatium/core/text';
import { RegisterService } from '../hub/register.service';
import { ViewsService } from '../views/views.service';
import { PlaceService } from '../hub/place.service';

interface Goal {
  readonly kind: 'page' | 'site' | 'campaign' | 'view' | 'do';
  readonly name: string;
  readonly more: string;
  readonly go: () => void;
}

const KINDS: Record<Goal['kind'], string> = {
  page: 'Page',
  site: 'Site',
  campaign: 'Campaign',
  view: 'View',
  do: 'Do',
};
const PAGES = 8;
const MOST = 14;
const EVERYTHING = { scope: null, state: null, find: null, campaign: null, owner: null, label: null, visits: null };

/** Goes to any page, site, campaign, view or act by a few letters. */
@Component({
  selector: 'dm-go-to',
  imports: [A11yModule],
  template: `
    <div class="veil" (click)="closed.emit()"></div>
    <section role="dialog" cdkTrapFocus aria-modal="true" aria-label="Go to anything">
      <input
        #field
        type="text"
        role="combobox"
        aria-expanded="true"
        aria-controls="goals"
        aria-label="Go to a page, site, campaign, view or act"
        placeholder="A page, site, campaign, view, or what to do"
        autocomplete="off"
        spellcheck="false"
        [attr.aria-activedescendant]="'goal-' + chosen()"
        [value]="typed()"
        (input)="type($any($event.target).value)"
        (keydown)="onKey($event)"
      />
      <ul id="goals" role="listbox" aria-label="Found">
        @for (goal of goals(); track $index) {
          <li
            role="option"
            [id]="'goal-' + $index"
            [attr.aria-selected]="$index === chosen()"
            (click)="take(goal)"
            (mousemove)="chosen.set($index)"
          >
            <span class="kind quiet">{{ kinds[goal.kind] }}</span>
            <span class="name">{{ goal.name }}</span>
            <span class="more quiet mono">{{ goal.more }}</span>
          </li>
        } @empty {
          <li class="none quiet">No results.</li>
        }
      </ul>
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
    ul {
      list-style: none;
      margin: 0;
      padding: 6px;
      max-height: 60vh;
      overflow-y: auto;
    }
    li {
      display: flex;
      gap: 10px;
      align-items: baseline;
      padding: 5px 10px;
      border-radius: 4px;
      cursor: default;
    }
    li[aria-selected='true'] {
      background: var(--moss-tint);
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
export class GoTo implements AfterViewInit {
  readonly closed = output();
  private readonly service = inject(RegisterService);
  private readonly views = inject(ViewsService);
  private readonly place = inject(PlaceService);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private readonly before = document.activeElement;
  protected readonly kinds = KINDS;
  protected readonly typed = signal('');
  protected readonly chosen = signal(0);
  private readonly pages = signal<readonly RegisterRow[]>([]);

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
            panel('do', 'New page', 'new'),
            panel('do', 'New campaign', 'new-campaign'),
            panel('do', 'Import pages from a CSV file', 'import'),
          ]
        : []),
      panel('do', 'To do', 'todo'),
      panel('do', 'Calendar feeds', 'feeds'),
      scope('view', 'Whole portfolio', '', null),
      scope('view', 'Bin', '', 'bin'),
      panel('view', 'Prepared releases', 'prepared'),
      panel('view', 'Templates', 'templates'),
      panel('view', 'People', 'people'),
      panel('view', 'Private links', 'share'),
      ...this.views
        .named()
        .map((view): Goal => ({ kind: 'view', name: view.name, more: '', go: () => this.views.show(view) })),
      ...(head?.sites ?? []).map(({ id, name, host }) => scope('site', name, host, `site:${id}`)),
      ...(head?.campaigns ?? []).map(({ id, name }) => scope('campaign', name, '', `campaign:${id}`)),
    ];
  });
  protected readonly goals = computed<Goal[]>(() => {
    const typed = this.typed().trim();
    const pages = this.pages().map(({ id, name, host, path }): Goal => ({
      kind: 'page',
      name,
      more: host + readablePath(path),
      go: () => this.place.go({ page: id, panel: null }),
    }));
    const others = this.others().filter(({ name, more }) => !typed || matches(typed, [name, more]));
    return [...others.slice(0, MOST - Math.min(pages.length, PAGES)), ...pages].slice(0, MOST);
  });

  constructor() {
    effect(() => {
      const typed = this.typed();
      void this.service.desk.pick(typed, this.service.shown(), null, PAGES).then((pages) => {
        if (typed === this.typed()) this.pages.set(typed.trim() ? pages : []);
      });
    });
  }

  ngAfterViewInit(): void {
    this.field().nativeElement.focus();
  }

  protected type(value: string): void {
    this.typed.set(value);
    this.chosen.set(0);
  }

  protected onKey(event: KeyboardEvent): void {
    const last = this.goals().length - 1;
    const acts: Record<string, (() => void) | undefined> = {
      ArrowDown: () => this.chosen.update((at) => (at >= last ? 0 : at + 1)),
      ArrowUp: () => this.chosen.update((at) => (at <= 0 ? last : at - 1)),
      Enter: () => {
        const goal = this.goals()[this.chosen()];
        if (goal) this.take(goal);
      },
      Escape: () => {
        this.closed.emit();
        if (this.before instanceof HTMLElement) this.before.focus();
      },
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }

  protected take(goal: Goal): void {
    this.closed.emit();
    goal.go();
  }
}
