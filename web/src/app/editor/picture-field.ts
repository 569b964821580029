import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { PictureView } from '@domatium/contracts';
import type { PictureUse } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';

/** A picture of the portfolio, as one block uses it: which, and how it is described. */
@Component({
  selector: 'dm-picture-field',
  template: `
    @if (picture(); as shown) {
      <div class="chosen">
        <img [src]="shown.variants[0]?.src" alt="" width="72" height="48" />
        <span class="name" [title]="shown.name">{{ shown.name }}</span>
        <button type="button" class="btn-link-plain quiet" (click)="isOpen.set(!isOpen())">change</button>
        <button type="button" class="btn-link-plain quiet" (click)="changed.emit(null)">remove</button>
      </div>
    } @else {
      <button type="button" class="btn btn-plain wide" (click)="isOpen.set(!isOpen())">Choose a picture</button>
    }
    @if (isOpen()) {
      <div class="shelf" role="listbox" [attr.aria-label]="label()">
        @for (one of pictures(); track one.id) {
          <button
            type="button"
            role="option"
            [attr.aria-selected]="one.id === value()?.pictureId"
            [title]="one.description || one.name"
            (click)="pick(one)"
          >
            <img [src]="one.variants[0]?.src" [alt]="one.description" loading="lazy" width="90" height="60" />
          </button>
        } @empty {
          <p class="quiet">The portfolio has no pictures yet.</p>
        }
      </div>
    }
    @if (value(); as use) {
      <label class="form-label" [for]="'description-' + label()">Describe it for people who can’t see it</label>
      <input
        class="form-control"
        [id]="'description-' + label()"
        maxlength="500"
        [value]="use.description"
        [disabled]="use.isDecorative"
        (input)="
          changed.emit({
            pictureId: use.pictureId,
            isDecorative: use.isDecorative,
            description: $any($event.target).value,
          })
        "
      />
      <label class="form-check">
        <input
          type="checkbox"
          class="form-check-input"
          [checked]="use.isDecorative"
          (change)="
            changed.emit({
              pictureId: use.pictureId,
              description: use.description,
              isDecorative: $any($event.target).checked,
            })
          "
        />
        <span>Decorative: says nothing by itself</span>
      </label>
    }
  `,
  styles: `
    .chosen {
      display: flex;
      gap: 10px;
      align-items: center;
      margin-bottom: 8px;
    }
    .chosen img {
      object-fit: cover;
      border-radius: 4px;
    }
    .name {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .wide {
      width: 100%;
    }
    .shelf {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 6px;
      max-height: 232px;
      overflow-y: auto;
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      padding: 6px;
      margin: 6px 0;
    }
    .shelf button {
      border: 2px solid transparent;
      border-radius: 5px;
      padding: 0;
      background: none;
    }
    .shelf button[aria-selected='true'] {
      border-color: var(--moss);
    }
    .shelf img {
      width: 100%;
      height: auto;
      aspect-ratio: 3/2;
      object-fit: cover;
      border-radius: 3px;
      display: block;
    }
    .form-check {
      display: flex;
      gap: 8px;
      margin-top: 6px;
      padding-left: 24px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PictureField {
  readonly label = input.required<string>();
  readonly value = input.required<PictureUse | null>();
  readonly pictures = input.required<readonly PictureView[]>();
  readonly changed = output<PictureUse | null>();
  protected readonly isOpen = signal(false);
  protected readonly picture = computed(() => this.pictures().find(({ id }) => id === this.value()?.pictureId) ?? null);

  protected pick({ id, description }: PictureView): void {
    this.isOpen.set(false);
    this.changed.emit({ pictureId: id as PictureId, description, isDecorative: false });
  }
}
