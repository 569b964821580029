import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  signal,
} from '@angular/core';
import { Router } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { ManySheet } from '../many/many-sheet';
import { PageSheetView } from '../pages/page-sheet';
import { Rail } from '../rail/rail';
import { RegisterView } from '../register/register-view';
import { RegisterService } from '../hub/register.service';
import { ViewService } from '../hub/view.service';
import { TasksService } from '../tasks/tasks.service';
import { SessionService } from '../hub/session.service';
import { GoTo } from './go-to';
import { PanelOutlet } from './panel-outlet';
import { KeysHelp } from './keys-help';
import { TroubleBar } from '../troubles/trouble-bar';
import { PlaceService } from '../hub/place.service';
import { ScopeColumn } from './scope-column';
import { isTyping, onKeys, type KeyAct } from '../shared/keys';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/shell';

/** The frame of every view: what (top), where (left), when (bottom), and the sheet of what is open (right). */
@Component({
  selector: 'dm-shell',
  imports: [
    NgbDropdownModule,
    ScopeColumn,
    RegisterView,
    Rail,
    PageSheetView,
    PanelOutlet,
    ManySheet,
    KeysHelp,
    GoTo,
    TroubleBar,
  ],
  templateUrl: './shell.html',
  styleUrl: './shell.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Shell {
  protected readonly common = common;
  protected readonly say = say;
  readonly portfolioId = input.required<string>();
  protected readonly service = inject(RegisterService);
  protected readonly session = inject(SessionService);
  protected readonly place = inject(PlaceService);
  protected readonly tasks = inject(TasksService);
  protected readonly view = inject(ViewService);
  /** On a phone the places open over the list, until one is chosen. */
  protected readonly isScopeOpen = signal(false);
  private readonly router = inject(Router);

  protected readonly initials = computed(() =>
    (this.session.session()?.account.name ?? '')
      .split(' ')
      .map((word) => word.charAt(0))
      .join('')
      .slice(0, 2),
  );
  protected readonly role = computed(() => this.service.portfolio()?.role ?? '');
  /** The open page: `undefined` until it is known, `null` where it is not here any more. */
  protected readonly openPage = computed(() => this.service.page(this.place.pageId()));
  protected readonly overdue = computed(() => this.tasks.mine().filter((task) => this.tasks.isOverdue(task)).length);
  protected readonly isKeysOpen = signal(false);
  protected readonly isGoToOpen = signal(false);

  constructor() {
    effect(() => this.service.open(Number(this.portfolioId())));
    effect(() => {
      this.place.scopeKey();
      this.place.panel();
      this.service.portfolioId();
      this.isScopeOpen.set(false);
    });
  }

  protected async signOut(): Promise<void> {
    await this.session.signOut();
    this.service.close();
    await this.router.navigateByUrl('/sign-in');
  }

  private readonly keys = onKeys({
    goTo: () => this.isGoToOpen.set(true),
    close: (event) => !event.defaultPrevented && this.escape(),
    find: this.letter(() => document.querySelector<HTMLInputElement>('#find')?.focus()),
    newPage: this.letter(() => this.service.mayWrite() && this.place.go({ panel: 'new' })),
    edit: this.letter(() => {
      const pageId = this.place.pageId();
      if (!pageId || !this.service.mayWrite()) return false;
      return void this.router.navigate(['/portfolios', this.portfolioId(), 'pages', pageId, 'edit']);
    }),
    release: this.letter(
      () => this.place.pageId() !== null && this.service.mayRelease() && this.place.go({ panel: 'release' }),
    ),
    help: this.letter(() => this.isKeysOpen.set(true)),
    // The open sheet goes through the rows of the list; in the list itself the arrows are the list's.
    stepUp: this.letter((event) => this.canStep(event.target as HTMLElement) && void this.step(-1)),
    stepDown: this.letter((event) => this.canStep(event.target as HTMLElement) && void this.step(1)),
  });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    this.keys(event);
  }

  /** A key by itself, where nobody types. */
  private letter(act: KeyAct): KeyAct {
    return (event) => !isTyping(event) && act(event);
  }

  private canStep(target: HTMLElement): boolean {
    const isElsewhere = target.closest('.ag-root-wrapper, dm-rail, [ngbDropdownMenu], [role="dialog"]') === null;
    return isElsewhere && this.place.pageId() !== null && this.place.panel() === null && this.place.many() === null;
  }

  private async step(by: 1 | -1): Promise<void> {
    const pageId = this.place.pageId();
    const next = pageId === null ? null : await this.service.desk.neighbour(pageId, by);
    if (next !== null) this.place.go({ page: next });
  }

  /** Closes what is open, the uppermost; gives whether anything was. */
  private escape(): boolean {
    if (this.isKeysOpen()) this.isKeysOpen.set(false);
    else if (this.isScopeOpen()) this.isScopeOpen.set(false);
    else if (this.place.panel() || this.place.many()) this.place.go({ panel: null });
    else if (this.place.pageId()) this.place.go({ page: null });
    else return false;
    return true;
  }
}
