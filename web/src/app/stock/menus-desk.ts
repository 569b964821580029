import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { StockView } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import { rowState, type RegisterRow } from '@domatium/core/register';
import {
  indentRow,
  isMenuName,
  legalOn,
  MENU_NAMES,
  menuOfRows,
  pagesOfEntries,
  rowsOfMenu,
  stepRow,
  treeOfPaths,
  withoutRow,
  type LegalPage,
  type Menu,
  type MenuEntry,
  type MenuRow,
} from '@domatium/core/stock';
import { say } from '@domatium/core/words/menus';
import { say as stockSay } from '@domatium/core/words/stock';
import { onKeys } from '../shared/keys';
import { PagePicker } from '../shared/page-picker';
import { RegisterService } from '../hub/register.service';
import { LegalWords } from '../hub/legal-words';
import { StockService } from '../hub/stock.service';
import { DeskTrouble } from './desk-trouble';
import { LegalDesk } from './legal-desk';
import { MenuOutline } from './menu-outline';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';

const EMPTY: Readonly<Record<string, Menu>> = {
  tree: { by: 'hand', levels: 3, entries: [] },
  main: { by: 'tree', levels: 1, entries: [] },
  legal: { by: 'legal', levels: 1, entries: [] },
};
const BY_HAND: Menu = { by: 'hand', levels: 1, entries: [] };
const MOST_PAGES = 2_000;

/** Menus and page trees of sites, and the legal pages that menus are filled from: arranged, and put on all pages at once. */
@Component({
  selector: 'dm-menus-desk',
  imports: [DeskTrouble, LegalDesk, MenuOutline, PagePicker, StockRelease],
  templateUrl: './menus-desk.html',
  styleUrls: ['./desk.scss', './menus-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MenusDesk {
  protected readonly say = say;
  protected readonly stockSay = stockSay;
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  private readonly chosenSite = signal<number | null>(null);
  protected readonly chosen = signal<number | null>(null);
  protected readonly isNaming = signal(false);
  protected readonly typedName = signal('');
  private readonly pagesOfSite = signal<readonly RegisterRow[] | null>(null);
  protected readonly sites = computed(() => this.service.head()?.sites ?? []);
  protected readonly site = computed(() => {
    const of = this.desk.item()?.siteId ?? this.chosenSite();
    return this.sites().find(({ id }) => id === of) ?? this.sites()[0] ?? null;
  });
  private readonly ofKind = (kind: string, siteId: number | null) =>
    (this.stock.items() ?? []).filter((one) => one.kind === kind && one.siteId === siteId);
  /** The menus of the site, made or not. */
  protected readonly menus = computed(() => {
    const made = this.ofKind('menu', this.site()?.id ?? 0);
    const names = [...MENU_NAMES, ...made.flatMap(({ key }) => key ?? []).filter((key) => !isUsual(key))];
    return names.map((key) => {
      const item = made.find((one) => one.key === key) ?? null;
      return { key, item, name: say.names[key] ?? say.menu(key), words: this.stateOf(item) };
    });
  });
  protected readonly legals = computed(() => {
    const site = this.site();
    const owners = [
      { siteId: null as number | null, name: say.allSites },
      ...(site ? [{ siteId: site.id, name: site.name }] : []),
    ];
    return owners.map(({ siteId, name }) => ({
      ...{ siteId, name, item: this.ofKind('legal', siteId)[0] ?? null },
      words: this.legalState(siteId),
    }));
  });
  private readonly legalWords = inject(LegalWords);
  protected readonly menu = computed(() =>
    this.desk.draft() && this.desk.item()?.kind === 'menu' ? (this.desk.draft() as Menu) : null,
  );
  protected readonly legal = computed(() =>
    this.desk.draft() && this.desk.item()?.kind === 'legal' ? (this.desk.draft() as readonly LegalPage[]) : null,
  );
  protected readonly key = computed(() => this.desk.item()?.key ?? '');
  protected readonly isTree = computed(() => this.key() === 'tree');
  protected readonly title = computed(() => say.names[this.key()] ?? say.menu(this.key()));
  protected readonly ways = computed(() =>
    Object.entries(say.by).map(([value, label]) => ({ value: value as Menu['by'], label })),
  );
  protected readonly rows = computed(() => rowsOfMenu(this.menu()?.entries ?? []));
  /** What a menu that isn’t arranged by hand shows. */
  protected readonly shownRows = computed<readonly MenuRow[]>(() => {
    const menu = this.menu();
    const siteId = this.site()?.id;
    if (!menu || menu.by === 'hand') return this.rows();
    const held = this.stock.held();
    if (menu.by === 'legal') {
      const of = (id: number | null) => held?.legal.find((one) => one.siteId === id)?.pages ?? [];
      return legalOn(of(null), of(siteId ?? 0)).flatMap(({ name, pageId }) =>
        pageId === null ? [] : [{ level: 1, entry: { kind: 'page' as const, pageId, label: name } }],
      );
    }
    const tree = held?.menus.find((one) => one.siteId === siteId && one.name === 'tree');
    const isShown = ({ isHidden }: MenuEntry) => !isHidden;
    const visible = (entries: readonly MenuEntry[]): MenuEntry[] =>
      entries.filter(isShown).map((one) => ({ ...one, entries: visible(one.entries) }));
    return rowsOfMenu(visible(tree?.menu.entries ?? [])).filter(({ level }) => level <= menu.levels);
  });
  protected readonly entry = computed(() => this.rows()[this.chosen() ?? -1]?.entry ?? null);
  /** Live pages of the site that have no place in the tree, its home page apart. */
  protected readonly unplaced = computed(() => {
    const [menu, pages, site, now] = [this.menu(), this.pagesOfSite(), this.site(), this.service.now()];
    if (!menu || !pages || !site || !this.isTree()) return [];
    const placed = new Set<number>(pagesOfEntries(menu.entries));
    return pages.filter(
      (page) =>
        page.role === 'ordinary' &&
        page.siteId === site.id &&
        page.path !== site.basePath &&
        rowState(page, now) === 'live' &&
        !placed.has(page.id),
    );
  });

  constructor() {
    effect(() => {
      this.item();
      untracked(() => {
        this.chosen.set(null);
        this.isNaming.set(false);
      });
    });
    effect(() => {
      const isTree = this.isTree();
      this.service.version();
      if (isTree) untracked(() => void this.lookUpPages());
    });
  }

  private async lookUpPages(): Promise<void> {
    await this.service.ready();
    const rows = await this.service.desk.pick('', this.service.now(), null, 20_000);
    this.pagesOfSite.set(rows);
  }

  private stateOf(item: StockView | null): string {
    if (!item) return say.notMadeYet;
    if (!item.periods.length) return stockSay.notReleased;
    return item.draftDiffers ? stockSay.draftDiffers : stockSay.onItsPages;
  }

  private legalState(siteId: number | null): string {
    const wanted = this.legalWords.held(null).length;
    if (!wanted) return say.nothingWanted;
    if (siteId === null) return say.wanted(wanted);
    const missing = this.legalWords.findingsOf(siteId).length;
    return missing ? say.missing(missing) : say.complete;
  }

  protected toSite(id: number): void {
    this.chosenSite.set(id);
    this.go.emit(null);
  }

  protected async open(key: string, item: StockView | null): Promise<void> {
    const site = this.site();
    if (!site) return;
    const name = `${say.names[key] ?? say.menu(key)}, ${site.name}`;
    const id =
      item?.id ?? (await this.desk.make({ kind: 'menu', name, key, siteId: site.id, content: EMPTY[key] ?? BY_HAND }));
    if (id) this.go.emit(id);
  }

  protected async openLegal({ siteId, name, item }: ReturnType<MenusDesk['legals']>[number]): Promise<void> {
    const id =
      item?.id ?? (await this.desk.make({ kind: 'legal', name: `${say.legalPages}, ${name}`, content: [], siteId }));
    if (id) this.go.emit(id);
  }

  protected isNameRight(): boolean {
    return isMenuName(this.typedName()) && !this.menus().some(({ key }) => key === this.typedName());
  }

  protected async makeNamed(): Promise<void> {
    if (!this.isNameRight()) return;
    await this.open(this.typedName(), null);
    this.typedName.set('');
    this.isNaming.set(false);
  }

  protected setMenu(change: Partial<Menu>): void {
    const menu = this.menu();
    if (menu) this.desk.change({ ...menu, ...change });
  }

  protected arrange(rows: readonly MenuRow[] | null, chosen: number | null = this.chosen()): void {
    if (!rows) return;
    this.setMenu({ entries: menuOfRows(rows) });
    this.chosen.set(chosen);
  }

  protected step(kind: 'up' | 'down' | 'in' | 'out'): void {
    const [rows, index] = [this.rows(), this.chosen() ?? -1];
    const next =
      kind === 'in' || kind === 'out'
        ? indentRow(rows, index, kind === 'in' ? 1 : -1)
        : stepRow(rows, index, kind === 'up' ? -1 : 1);
    if (next)
      this.arrange(
        next,
        next.findIndex(({ entry }) => entry === rows[index]?.entry),
      );
  }

  protected remove(): void {
    const index = this.chosen();
    if (index !== null) this.arrange(withoutRow(this.rows(), index), null);
  }

  protected setEntry(change: object): void {
    const index = this.chosen();
    if (index === null) return;
    const rows = this.rows().map((row, n) => {
      if (n !== index) return row;
      const { isHidden, shownAt, ...entry } = { ...row.entry, ...change } as MenuRow['entry'];
      return {
        ...row,
        entry: { ...entry, ...(isHidden ? { isHidden } : {}), ...(shownAt ? { shownAt } : {}) } as MenuRow['entry'],
      };
    });
    this.arrange(rows);
  }

  protected addPage(pageId: number): void {
    this.add({ kind: 'page', pageId: pageId as PageId, label: '' });
  }

  protected add(entry: MenuRow['entry']): void {
    this.arrange([...this.rows(), { level: 1, entry }], this.rows().length);
  }

  protected addLive(): void {
    const rows = treeOfPaths(this.unplaced().slice(0, MOST_PAGES));
    this.arrange([...this.rows(), ...rows], null);
  }

  /** What is wrong with an entry, as the server says it. */
  protected errorOf(field: string): string | null {
    const path = pathOf(this.rows(), this.chosen() ?? -1);
    return this.desk.errors()[`${path}${field}`] ?? null;
  }

  protected async removeMenu(): Promise<void> {
    if (await this.desk.remove()) this.go.emit(null);
  }

  private readonly keys = onKeys({ undo: () => this.desk.undo(), redo: () => this.desk.redo() });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    this.keys(event);
  }
}

const isUsual = (key: string) => (MENU_NAMES as readonly string[]).includes(key);

/** Where a row lies among the entries it is kept in. */
function pathOf(rows: readonly MenuRow[], index: number): string {
  const row = rows[index];
  if (!row) return '';
  const counts: number[] = [];
  for (const { level } of rows.slice(0, index + 1)) {
    counts.length = Math.min(counts.length, level);
    counts[level - 1] = (counts[level - 1] ?? -1) + 1;
  }
  return counts.map((n) => `entries[${n}]`).join('.');
}
