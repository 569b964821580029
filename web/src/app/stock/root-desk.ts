import {
  ChangeDetectionStrategy,
  Component,
  computed,
  HostListener,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { pathBelow } from '@domatium/core/address';
import {
  LONGEST_FILE,
  LONGEST_ROBOTS,
  MOST_FILES,
  NO_ROOT,
  readRobots,
  robotsDecision,
  rootFromJSON,
  SECURITY_PATH,
  type RootContent,
  type SecurityTxt,
} from '@domatium/core/root';
import { DAY, dayOf, later } from '@domatium/core/time';
import { faultWords } from '@domatium/core/words';
import { say } from '@domatium/core/words/root';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { onKeys } from '../shared/keys';
import { DeskTrouble } from './desk-trouble';
import { LinesField, type ReadLines } from './lines-field';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';

const YEAR = 365 * DAY;

/** Files at the root of a site's host: own lines of `robots.txt` with a tester, `security.txt`, and others by their names. */
@Component({
  selector: 'dm-root-desk',
  imports: [DeskTrouble, LinesField, StockRelease],
  templateUrl: './root-desk.html',
  styleUrls: ['./desk.scss', './metadata-desk.scss', './root-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RootDesk {
  protected readonly say = say;
  readonly item = input.required<string | null>();
  readonly go = output<number>();
  protected readonly desk = inject(StockDesk);
  private readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  protected readonly longest = { robots: LONGEST_ROBOTS, file: LONGEST_FILE };
  protected readonly most = MOST_FILES;
  protected readonly agent = signal('*');
  protected readonly address = signal('/');
  protected readonly sites = computed(() => {
    const kept = this.stock.items()?.filter(({ kind }) => kind === 'root');
    // Not known yet is not none: others would be made beside them.
    if (!kept) return [];
    return (this.service.head()?.sites ?? []).map(({ id, name, host, basePath }) => {
      const item = kept.find(({ siteId }) => siteId === id) ?? null;
      return { id, name, host, item, isRoot: basePath === '/', note: item ? host : say.nothingYet };
    });
  });
  protected readonly root = computed<RootContent | null>(() =>
    this.desk.draft() && this.desk.item()?.kind === 'root' ? (this.desk.draft() as RootContent) : null,
  );
  protected readonly site = computed(() => this.sites().find(({ id }) => id === this.desk.item()?.siteId) ?? null);
  private readonly lines = computed(() => readRobots(this.root()?.robots ?? ''));
  protected readonly faults = computed(() =>
    this.lines().faults.map((fault) => ({ line: fault.path, text: faultWords(fault) })),
  );
  /** Whether the crawler that is tried may ask for the address that is tried, and by which line. */
  protected readonly tried = computed(() => {
    const { isAllowed, rule } = robotsDecision(this.lines(), this.agent() || '*', this.pathOf(this.address()));
    const words = !rule
      ? say.mayAsk
      : isAllowed
        ? say.lineAllows(rule.line, rule.pattern)
        : say.lineForbids(rule.line, rule.pattern);
    return { isAllowed, words };
  });
  protected readonly today = computed(() => dayOf(this.service.now(), this.service.zone()));
  /** What is to be said of the day until which `security.txt` is right. */
  protected readonly expiry = computed(() => {
    const day = this.root()?.security?.expires ?? '';
    const yearAhead = dayOf(later(this.service.now(), YEAR), this.service.zone());
    return !day ? '' : day < this.today() ? say.expired : day > yearAhead ? say.longAhead : '';
  });
  protected readonly served = computed(() => {
    const [root, site] = [this.root(), this.site()];
    if (!root || !site) return [];
    const files = root.files.map(({ name }) => `/${name}`);
    return ['/robots.txt', ...(root.security ? [SECURITY_PATH] : []), ...files].map((path) => site.host + path);
  });

  private readonly keys = onKeys({ undo: () => this.desk.undo(), redo: () => this.desk.redo() });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    this.keys(event);
  }

  /** An address as it is typed or pasted: with its host, or from the first `/` on. */
  private pathOf(typed: string): string {
    const text = typed.trim();
    if (URL.canParse(text)) {
      const { pathname, search } = new URL(text);
      return pathname + search;
    }
    return text.startsWith('/') ? text : pathBelow('/', `/${text}`);
  }

  protected async open(site: ReturnType<RootDesk['sites']>[number]): Promise<void> {
    const { id, name, item } = site;
    const known = item?.id ?? (await this.desk.make({ kind: 'root', name, content: NO_ROOT, siteId: id }));
    if (known) this.go.emit(known);
  }

  protected change(more: Partial<RootContent>): void {
    const root = this.root();
    if (root) this.desk.change({ ...root, ...more });
  }

  protected addSecurity(): void {
    const expires = dayOf(later(this.service.now(), YEAR - DAY), this.service.zone());
    const host = this.site()?.host ?? '';
    this.change({ security: { contacts: [`mailto:security@${host}`], expires, policy: '', languages: '' } });
  }

  protected secure(more: Partial<SecurityTxt>): void {
    const security = this.root()?.security;
    if (security) this.change({ security: { ...security, ...more } });
  }

  protected readonly readContacts: ReadLines<readonly string[]> = (lines) => {
    const security = { contacts: lines, expires: this.today(), policy: '', languages: '' };
    const read = rootFromJSON({ ...NO_ROOT, security });
    const fault = read.ok ? undefined : read.faults[0];
    return fault ? { wrong: faultWords(fault) } : { value: (read.ok && read.value.security?.contacts) || [] };
  };

  protected addFile(): void {
    this.change({ files: [...(this.root()?.files ?? []), { name: this.freeName(), text: '' }] });
  }

  /** A name that no file has yet. */
  private freeName(): string {
    const taken = new Set(this.root()?.files.map(({ name }) => name));
    let number = 1;
    while (taken.has(number === 1 ? 'ads.txt' : `file-${number}.txt`)) number += 1;
    return number === 1 ? 'ads.txt' : `file-${number}.txt`;
  }

  protected setFile(at: number, more: Partial<RootContent['files'][number]>): void {
    this.change({
      files: (this.root()?.files ?? []).map((file, index) => (index === at ? { ...file, ...more } : file)),
    });
  }

  protected removeFile(at: number): void {
    this.change({ files: (this.root()?.files ?? []).filter((_, index) => index !== at) });
  }
}
