import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { say } from '@domatium/core/words/pictures';

/** A place for files: dropped on it, or chosen. */
@Component({
  selector: 'dm-bring-in',
  template: `
    <label
      class="place"
      [class.over]="isOver()"
      (dragover)="over($event)"
      (dragleave)="isOver.set(false)"
      (drop)="drop($event)"
    >
      <input #field type="file" class="visually-hidden" [accept]="accept()" [multiple]="isMany()" (change)="take(field)" />
      <span><strong>{{ words() }}</strong> {{ say.orDropHere(isMany() ? say.filesSmall : say.one) }}</span>
    </label>
  `,
  styles: `
    .place {
      display: block;
      border: 1px dashed var(--quiet);
      border-radius: var(--corner);
      padding: 9px 12px;
      text-align: center;
      cursor: pointer;
    }
    .place:focus-within {
      outline: 2px solid var(--moss);
      outline-offset: 1px;
    }
    .over {
      background: var(--moss-tint);
      border-style: solid;
      border-color: var(--moss);
    }
    strong {
      font-weight: 620;
      color: var(--moss);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BringIn {
  protected readonly say = say;
  readonly words = input(say.uploadAPicture);
  readonly accept = input('image/*,.heic');
  readonly isMany = input(false);
  readonly brought = output<readonly File[]>();
  protected readonly isOver = signal(false);

  protected over(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(true);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(false);
    this.emit([...(event.dataTransfer?.files ?? [])]);
  }

  protected take(field: HTMLInputElement): void {
    this.emit([...(field.files ?? [])]);
    field.value = '';
  }

  private emit(files: readonly File[]): void {
    if (files.length) this.brought.emit(this.isMany() ? files : files.slice(0, 1));
  }
}
