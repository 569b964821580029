import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { NgbTypeahead, type NgbTypeaheadSelectItemEvent } from '@ng-bootstrap/ng-bootstrap';
import { readablePath } from '@domatium/core/address';
import type { RegisterRow } from '@domatium/core/register';
import { distinctUntilChanged, switchMap, type Observable, type OperatorFunction } from 'rxjs';
import { RegisterService } from '../hub/register.service';
import { whenWords } from './when-drawing';
import { say } from '@domatium/core/words/shared';

const SHOWN = 9;

/** Chooses a page of the portfolio by its name or address; says how long it is live. */
@Component({
  selector: 'dm-page-picker',
  imports: [NgbTypeahead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-template #row let-page="result">
      <span class="name">{{ page.name }}</span> <span class="mono quiet">{{ address(page) }}</span>
      <span class="when-words quiet">{{ words(page) }}</span>
    </ng-template>
    <input
      type="text"
      class="form-control"
      [class.is-invalid]="!!error()"
      [attr.aria-label]="label()"
      [placeholder]="say.nameOrAddressOfAPage"
      [value]="name()"
      [ngbTypeahead]="search"
      [inputFormatter]="format"
      [resultTemplate]="row"
      [editable]="false"
      container="body"
      popupClass="picker-list"
      (selectItem)="select($event)"
      (focus)="$any($event.target).select()"
      (keydown.escape)="$event.stopPropagation()"
    />
    @if (error(); as text) {
      <div class="field-error">{{ text }}</div>
    } @else if (chosen(); as page) {
      <div class="field-note">{{ words(page) }}</div>
    }
  `,
  styles: `
    ::ng-deep .picker-list {
      max-width: 480px;
      max-height: 340px;
      overflow-y: auto;
    }
    ::ng-deep .picker-list .when-words {
      display: block;
      font-size: 0.75rem;
    }
  `,
})
export class PagePicker {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly pageId = input.required<number | null>();
  readonly except = input<number | null>(null);
  readonly error = input<string | null>(null);
  readonly picked = output<number>();
  private readonly service = inject(RegisterService);
  protected readonly chosen = computed(() => this.service.page(this.pageId() || null) ?? null);
  protected readonly name = computed(() => this.chosen()?.name ?? '');

  protected readonly search: OperatorFunction<string, readonly RegisterRow[]> = (typed: Observable<string>) =>
    typed.pipe(
      distinctUntilChanged(),
      switchMap((text) => this.service.desk.pick(text, this.service.now(), this.except(), SHOWN)),
    );
  protected readonly format = (page: RegisterRow) => page.name;

  protected address({ host, path }: RegisterRow): string {
    return host + readablePath(path);
  }

  protected words(page: RegisterRow): string {
    return whenWords(page, this.service.now(), this.service.zone());
  }

  protected select({ item }: NgbTypeaheadSelectItemEvent<RegisterRow>): void {
    this.picked.emit(item.id);
  }
}
