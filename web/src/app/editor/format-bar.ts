import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Format, formatsOf } from './rich-text';
import { say } from '@domatium/core/words/editor';

const FORMATS: readonly {
  readonly format: Format;
  readonly label: string;
  readonly title: string;
  readonly icon: string;
}[] = [
  { format: 'bold', label: say.bold, title: say.boldCtrlB, icon: 'bi-type-bold' },
  { format: 'italic', label: say.italic, title: say.italicCtrlI, icon: 'bi-type-italic' },
  { format: 'superscript', label: say.raised, title: say.raised, icon: 'bi-superscript' },
  { format: 'subscript', label: say.lowered, title: say.lowered, icon: 'bi-subscript' },
  { format: 'h2', label: say.heading, title: say.heading, icon: 'bi-type-h2' },
  { format: 'h3', label: say.smallHeading, title: say.smallHeading, icon: 'bi-type-h3' },
  { format: 'quote', label: say.quotation, title: say.quotation, icon: 'bi-quote' },
  { format: 'bullets', label: say.list, title: say.list, icon: 'bi-list-ul' },
  { format: 'numbers', label: say.numberedList, title: say.numberedList, icon: 'bi-list-ol' },
  { format: 'centre', label: say.centred, title: say.centred, icon: 'bi-text-center' },
  { format: 'end', label: say.atTheEnd, title: say.atTheEnd, icon: 'bi-text-right' },
];

/** What formatted text can be made: bold, italic, headings, lists, a link, a small picture. The text keeps the cursor. */
@Component({
  selector: 'dm-format-bar',
  template: `
    <div class="tools" role="toolbar" [attr.aria-label]="say.formatOf(label())" (mousedown)="$event.preventDefault()">
      @for (one of formats; track one.format) {
        <button
          type="button"
          [attr.aria-pressed]="active()[one.format] ?? false"
          [title]="one.title"
          [attr.aria-label]="one.label"
          (click)="chosen.emit(one.format)"
        >
          <i class="bi" [class]="one.icon"></i>
        </button>
      }
      <button
        type="button"
        [attr.aria-pressed]="active().link ?? false"
        [disabled]="!mayLink()"
        [title]="say.linkChooseWordsFirst"
        [attr.aria-label]="say.link"
        (click)="link.emit()"
      >
        <i class="bi bi-link-45deg"></i>
      </button>
      <button type="button" [title]="say.smallPicture" [attr.aria-label]="say.smallPicture" (click)="picture.emit()">
        <i class="bi bi-image"></i>
      </button>
    </div>
  `,
  styles: `
    .tools {
      display: flex;
      flex-wrap: wrap;
      border-bottom: 1px solid var(--rule-soft);
      padding: 2px;
    }
    button {
      border: 0;
      background: none;
      border-radius: 4px;
      width: 28px;
      height: 26px;
      padding: 0;
    }
    button[aria-pressed='true'] {
      background: var(--moss-tint);
      color: var(--moss);
    }
    button:disabled {
      color: var(--ended);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormatBar {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly active = input.required<Partial<ReturnType<typeof formatsOf>>>();
  readonly mayLink = input.required<boolean>();
  readonly chosen = output<Format>();
  readonly link = output();
  /** A small picture is wanted within the line, or the selected one is to be changed. */
  readonly picture = output();
  protected readonly formats = FORMATS;
}
