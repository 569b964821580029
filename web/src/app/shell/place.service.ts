import { computed, inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, NavigationEnd, Router, type Params } from '@angular/router';
import { STATE_FILTERS, type Scope, type StateFilter } from '@domatium/core/register';
import { filter, map, startWith } from 'rxjs';

export const PANELS = ['new', 'release', 'take-off', 'move', 'history'] as const;
export type Panel = (typeof PANELS)[number];

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
  readonly pageId = computed(() => Number(this.text('page')) || null);
  readonly panel = computed<Panel | null>(() => PANELS.find((panel) => panel === this.text('panel')) ?? null);

  private text(name: string): string {
    const value: unknown = this.params()[name];
    return typeof value === 'string' ? value : '';
  }

  /** Changes some of the place; `replace` for what is typed, so that *back* does not go letter by letter. */
  go(
    changes: Partial<Record<'scope' | 'state' | 'find' | 'sort' | 'page' | 'panel', string | number | null>>,
    replace = false,
  ): void {
    const queryParams = Object.fromEntries(
      Object.entries(changes).map(([name, value]) => [name, value === '' || value === 'all' ? null : value]),
    );
    void this.router.navigate([], {
      queryParams,
      queryParamsHandling: 'merge',
      replaceUrl: replace,
      relativeTo: this.leaf(),
    });
  }

  private leaf(): ActivatedRoute {
    let route = this.router.routerState.root;
    while (route.firstChild) route = route.firstChild;
    return route;
  }
}

function scopeOf(text: string): Scope {
  const [kind, value] = text.split(':');
  if (kind === 'site' && Number(value)) return { kind, id: Number(value) };
  if (kind === 'campaign' && Number(value)) return { kind, id: Number(value) };
  return kind === 'domain' && value ? { kind, name: value } : null;
}
