import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { PictureView } from '@domatium/contracts';
import { say } from '@domatium/core/words/pictures';
import { PicturesService } from './pictures.service';

/** The pictures of the portfolio, found by words, to choose one of them. */
@Component({
  selector: 'dm-picture-shelf',
  template: `
    <input
      type="search"
      class="form-control"
      [placeholder]="say.findAPicture"
      [attr.aria-label]="say.findAPictureWithLabel(label())"
      [value]="text()"
      (input)="text.set($any($event.target).value)"
    />
    <div class="shelf" role="listbox" [attr.aria-label]="label()">
      @for (one of shelf(); track one.id) {
        <button
          type="button"
          role="option"
          [attr.aria-selected]="one.id === chosen()"
          [title]="one.description || one.name"
          (click)="picked.emit(one)"
        >
          @if (one.variants[0]; as small) {
            <img [src]="small.src" [alt]="one.description" loading="lazy" width="90" height="60" />
          } @else {
            <span class="quiet number">{{ percent(one.progress) }}</span>
          }
        </button>
      } @empty {
        <p class="quiet">{{ text() ? say.noPictureIsCalledThat : say.thePortfolioHasNoPicturesYet }}</p>
      }
    </div>
  `,
  styleUrl: './picture-shelf.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PictureShelf {
  protected readonly say = say;
  /** What one chooses for. */
  readonly label = input.required<string>();
  readonly chosen = input<number | null>(null);
  /** One that can’t be chosen. */
  readonly without = input<number | null>(null);
  readonly picked = output<PictureView>();
  private readonly pictures = inject(PicturesService);
  protected readonly text = signal('');
  protected readonly shelf = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    return this.pictures.whole().filter(({ id, name, description, labels }) => {
      const all = [name, description, ...labels].join(' ').toLowerCase();
      return id !== this.without() && words.every((word) => all.includes(word));
    });
  });

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }
}
