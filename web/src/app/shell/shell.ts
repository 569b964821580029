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
import { isInScope } from '@domatium/core/register';
import { HistorySheet } from '../pages/history-sheet';
import { NewPageSheet } from '../pages/new-page-sheet';
import { PageSheetView } from '../pages/page-sheet';
import { Rail } from '../rail/rail';
import { RegisterView } from '../register/register-view';
import { RegisterService } from '../register/register.service';
import { MoveSheet } from '../releases/move-sheet';
import { ReleaseSheet } from '../releases/release-sheet';
import { TakeOffSheet } from '../releases/take-off-sheet';
import { SessionService } from '../session/session.service';
import { KeysHelp } from './keys-help';
import { PlaceService } from './place.service';
import { ScopeColumn } from './scope-column';

/** The frame of every view: what (top), where (left), when (bottom), and the sheet of what is open (right). */
@Component({
  selector: 'dm-shell',
  imports: [
    NgbDropdownModule,
    ScopeColumn,
    RegisterView,
    Rail,
    PageSheetView,
    NewPageSheet,
    ReleaseSheet,
    TakeOffSheet,
    MoveSheet,
    HistorySheet,
    KeysHelp,
  ],
  templateUrl: './shell.html',
  styleUrl: './shell.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Shell {
  readonly portfolioId = input.required<string>();
  protected readonly service = inject(RegisterService);
  protected readonly session = inject(SessionService);
  protected readonly place = inject(PlaceService);
  private readonly router = inject(Router);

  protected readonly initials = computed(() =>
    (this.session.session()?.account.name ?? '')
      .split(' ')
      .map((word) => word.charAt(0))
      .join('')
      .slice(0, 2),
  );
  protected readonly role = computed(() => this.service.portfolio()?.role ?? '');
  protected readonly scoped = computed(() => {
    const domains = new Map((this.service.register()?.sites ?? []).map(({ id, domain, host }) => [id, domain ?? host]));
    return this.service.pages().filter((page) => isInScope(page, this.place.scope(), domains));
  });
  protected readonly isKeysOpen = signal(false);

  constructor() {
    effect(() => this.service.open(Number(this.portfolioId())));
  }

  protected async signOut(): Promise<void> {
    await this.session.signOut();
    this.service.close();
    await this.router.navigateByUrl('/sign-in');
  }

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.key === 'Escape' && !event.defaultPrevented) return this.escape();
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.isContentEditable
    )
      return;
    const pageId = this.place.pageId();
    const acts: Record<string, (() => void) | undefined> = {
      '/': () => document.querySelector<HTMLInputElement>('#find')?.focus(),
      n: this.service.mayWrite() ? () => this.place.go({ panel: 'new' }) : undefined,
      e:
        pageId && this.service.mayWrite()
          ? () => void this.router.navigate(['/portfolios', this.portfolioId(), 'pages', pageId, 'edit'])
          : undefined,
      p: pageId && this.service.mayRelease() ? () => this.place.go({ panel: 'release' }) : undefined,
      '?': () => this.isKeysOpen.set(true),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }

  private escape(): void {
    if (this.isKeysOpen()) this.isKeysOpen.set(false);
    else if (this.place.panel()) this.place.go({ panel: null });
    else if (this.place.pageId()) this.place.go({ page: null });
  }
}
