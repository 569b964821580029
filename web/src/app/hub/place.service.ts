import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, UrlTree, type Params } from '@angular/router';
import {
  FINDING_FILTERS,
  GROUPS,
  scopeOf,
  STATE_FILTERS,
  VIEW_PARTS,
  type ViewParts,
  VISIT_FILTERS,
  SEARCH_FILTERS,
  WAYS_FILTERS,
  type FindingFilter,
  type GroupBy,
  type Scope,
  type StateFilter,
  type VisitFilter,
  type SearchFilter,
  type WaysFilter,
} from '@domatium/core/register';
import { parseInstant, type Instant } from '@domatium/core/time';
import { filter, map, startWith } from 'rxjs';

export const PANELS = [
  'new',
  'release',
  'take-off',
  'move',
  'period',
  'history',
  'difference',
  'arrange',
  'place',
  'fill',
  'fix',
  'checks',
  'settings',
  'seen',
  'delete',
  'prepared',
  'copy',
  'template',
  'templates',
  'campaign',
  'new-campaign',
  'again',
  'todo',
  'feeds',
  'import',
  'people',
  'record',
  'portfolio',
  'site',
  'everywhere',
  'account',
  'share',
  'new-site',
  'copy-site',
  'new-portfolio',
  'notice',
] as const;
export type Panel = (typeof PANELS)[number];
/** Acts on all chosen pages, as their sheets are called in the address. */
export const MANY_ACTS = ['release', 'take-off', 'shift', 'afterwards', 'move', 'bin', 'restore'] as const;
export type ManyAct = (typeof MANY_ACTS)[number];

/** What the address bar says beside the path. */
type Part =
  | 'scope'
  | 'state'
  | 'find'
  | 'sort'
  | 'page'
  | 'panel'
  | 'prepared'
  | 'at'
  | 'since'
  | 'rail'
  | 'campaign'
  | 'owner'
  | 'label'
  | 'template'
  | 'findings'
  | 'visits'
  | 'ways'
  | 'search'
  | 'group'
  | 'columns';

/** How far the rail reaches, in days from now. */
export interface Reach {
  readonly back: number;
  readonly ahead: number;
}
export const USUAL_REACH: Reach = { back: -30, ahead: 90 };

/** While the handle is dragged, everything but the handle follows this often: drawing all for each step would stutter. */
const FOLLOWED = 120;

/** Where one is: scope, filters, order, the open page and what is done with it, all read from the address bar. */
@Injectable({ providedIn: 'root' })
export class PlaceService {
  private readonly router = inject(Router);
  private readonly params = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      startWith(null),
      map(() => this.router.parseUrl(this.router.url).queryParams),
    ),
    { initialValue: {} as Params },
  );

  readonly scope = computed<Scope>(() => scopeOf(this.text('scope')));
  readonly scopeKey = computed(() => this.text('scope'));
  readonly state = computed<StateFilter>(() => STATE_FILTERS.find((state) => state === this.text('state')) ?? 'all');
  readonly find = computed(() => this.text('find'));
  readonly sort = computed(() => this.text('sort'));
  /** Filters by name; `-` asks for pages that have none. */
  readonly campaign = computed(() => this.text('campaign'));
  readonly owner = computed(() => this.text('owner'));
  readonly label = computed(() => this.text('label'));
  readonly template = computed(() => this.text('template'));
  readonly findings = computed<FindingFilter | null>(
    () => FINDING_FILTERS.find((one) => one === this.text('findings')) ?? null,
  );
  readonly visits = computed<VisitFilter | null>(
    () => VISIT_FILTERS.find((one) => one === this.text('visits')) ?? null,
  );
  readonly ways = computed<WaysFilter | null>(() => WAYS_FILTERS.find((one) => one === this.text('ways')) ?? null);
  readonly search = computed<SearchFilter | null>(
    () => SEARCH_FILTERS.find((one) => one === this.text('search')) ?? null,
  );
  readonly group = computed<GroupBy | null>(() => GROUPS.find((one) => one === this.text('group')) ?? null);
  /** While the handle of the rail is dragged the moment is only here; the address bar gets it when it is let go. */
  readonly dragged = signal<Instant | null>(null);
  /** The moment that is shown instead of now, `null` for now. */
  private readonly settled = signal<Instant | null>(null);
  readonly asOf = computed<Instant | null>(() => this.settled() ?? parseInstant(this.text('at')));
  /** The end of a period that was dragged on a bar, for the sheet that opens with it. */
  readonly movedEnd = signal<{ start: number; end: 'from' | 'until'; at: number } | null>(null);
  /** The other moment of a comparison; `null` for now. */
  readonly since = computed<Instant | null>(() => parseInstant(this.text('since')));
  readonly reach = computed<Reach>(() => {
    const [back, ahead] = this.text('rail').split('~').map(Number);
    return back !== undefined && ahead !== undefined && back < ahead ? { back, ahead } : USUAL_REACH;
  });
  /** Which columns the list shows, in their order; `null` where the address says nothing of them. */
  readonly columns = computed(() => (this.text('columns') ? this.text('columns').split('.') : null));
  readonly pageId = computed(() => Number(this.text('page')) || null);
  /** The prepared release that is open. */
  readonly preparedId = computed(() => Number(this.text('prepared')) || null);
  readonly panel = computed<Panel | null>(() => PANELS.find((panel) => panel === this.text('panel')) ?? null);

  readonly many = computed<ManyAct | null>(() => MANY_ACTS.find((act) => `many-${act}` === this.text('panel')) ?? null);

  /** All parts of the view that are set, as a link, an export or a named view carries them. */
  readonly view = computed<ViewParts>(() =>
    Object.fromEntries(VIEW_PARTS.flatMap((name) => (this.text(name) ? [[name, this.text(name)]] : []))),
  );

  /** The view of a portfolio's pages that was shown last, to come back to from the editor. */
  private last: { readonly path: string; readonly view: ViewParts } | null = null;

  constructor() {
    effect(() => {
      const [view, path] = [this.view(), this.router.url.split('?')[0] ?? ''];
      if (path.endsWith('/pages')) this.last = { path, view };
    });
    let timer: ReturnType<typeof setTimeout> | undefined;
    const follow = () => {
      const at = untracked(this.dragged);
      timer = at === null || at === untracked(this.settled) ? undefined : setTimeout(follow, FOLLOWED);
      this.settled.set(at);
    };
    effect(() => {
      if (this.dragged() === null) {
        clearTimeout(timer);
        timer = undefined;
        this.settled.set(null);
      } else if (timer === undefined) follow();
    });
  }

  private text(name: string): string {
    const value: unknown = this.params()[name];
    return typeof value === 'string' ? value : '';
  }

  /** Changes some of the place; `replace` for what is typed, so that *back* does not go letter by letter. */
  go(changes: Partial<Record<Part, string | number | null>>, replace = false): void {
    const queryParams = Object.fromEntries(
      Object.entries(changes).map(([name, value]) => [name, value === '' || value === 'all' ? null : value]),
    );
    // What is on its way counts as if it were there: a press that follows another at once takes nothing back.
    const onItsWay = untracked(this.router.currentNavigation);
    const tree = onItsWay?.extractedUrl ?? this.router.parseUrl(this.router.url);
    const merged: Params = Object.fromEntries(
      Object.entries({ ...tree.queryParams, ...queryParams }).filter(([, value]) => value !== null),
    );
    void this.router.navigateByUrl(new UrlTree(tree.root, merged, tree.fragment), {
      replaceUrl: replace && (onItsWay?.extras.replaceUrl ?? true),
    });
  }

  /** To the settings of the chosen pages, side by side. */
  toGrid(portfolioId: number): Promise<boolean> {
    return this.router.navigate(['/portfolios', portfolioId, 'settings-grid']);
  }

  /** To the pages of a portfolio, as they were shown last, with a page open or a sheet. */
  toPages(
    portfolioId: number | string,
    open: Partial<Record<'page' | 'panel', string | number>> = {},
  ): Promise<boolean> {
    const path = `/portfolios/${portfolioId}/pages`;
    return this.router.navigate([path], {
      queryParams: { ...(this.last?.path === path ? this.last.view : {}), ...open },
    });
  }
}
