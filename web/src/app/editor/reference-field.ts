import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Reference, Referred } from '@domatium/core/document';
import { BringIn } from '../pictures/bring-in';
import { PicturesService, writeBytes } from '../pictures/pictures.service';
import { Uploads } from '../pictures/uploads';
import { PagePicker } from '../shared/page-picker';
import { StockService } from '../hub/stock.service';
import { playsHere } from './plays-here';
import { say } from '@domatium/core/words/editor';

/** Chooses a page, a piece or a film of the portfolio. */
@Component({
  selector: 'dm-reference-field',
  imports: [PagePicker, BringIn, Uploads],
  template: `
    @switch (of()) {
      @case ('page') {
        <dm-page-picker [label]="label()" [pageId]="value()?.id ?? null" (picked)="changed.emit({ id: $event })" />
      }
      @case ('piece') {
        <select class="form-select" [attr.aria-label]="label()" (change)="choose($any($event.target).value)">
          <option value="0" disabled [selected]="!value()">{{ say.chooseAPiece }}</option>
          @for (piece of stock.pieces(); track piece.id) {
            <option [value]="piece.id" [selected]="piece.id === value()?.id">
              {{ piece.name }}{{ piece.blocks ? '' : say.notReleased }}
            </option>
          }
        </select>
      }
      @case ('file') {
        <select class="form-select" [attr.aria-label]="label()" (change)="choose($any($event.target).value)">
          <option value="0" [selected]="!value()">{{ say.none }}</option>
          @for (film of fitting(); track film.id) {
            <option [value]="film.id" [selected]="film.id === value()?.id">{{ film.name }} · {{ size(film.bytes) }}</option>
          }
        </select>
        <dm-bring-in
          [words]="holds() ? say.uploadCaptions : say.uploadAVideo"
          [accept]="holds() ? '.vtt,text/vtt' : 'video/mp4,video/webm'"
          (brought)="bring($event)"
        />
        <dm-uploads />
      }
    }
    @if (error(); as text) {
      <div class="field-error" role="alert">{{ text }}</div>
    }
  `,
  styles: `
    select {
      margin-bottom: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReferenceField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly of = input.required<Referred>();
  readonly value = input.required<Reference | null>();
  readonly changed = output<Reference | null>();
  protected readonly stock = inject(StockService);
  protected readonly pictures = inject(PicturesService);
  protected readonly error = signal<string | null>(null);
  /** Which files are offered: films where it says nothing. */
  readonly holds = input<'captions'>();
  protected readonly fitting = computed(() => {
    const endings = this.holds() ? ['vtt'] : ['mp4', 'webm'];
    return this.pictures.files().filter(({ ending }) => endings.includes(ending));
  });

  protected choose(id: string): void {
    this.changed.emit(Number(id) ? { id: Number(id) } : null);
  }

  protected size(bytes: number): string {
    return writeBytes(bytes);
  }

  protected async bring([file]: readonly File[]): Promise<void> {
    this.error.set(null);
    if (!file) return;
    if (!this.holds() && !(await playsHere(file))) {
      this.error.set(say.cantBePlayed(file.name));
      return;
    }
    const received = await this.pictures.bring(file);
    if (received?.file) this.changed.emit({ id: received.file.id });
  }
}
