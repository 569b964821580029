import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { blockTypes, fieldsOf, layoutsOf, looksFrom, looksToText } from '@domatium/core/blocks';
import { blockWords, type Block } from '@domatium/core/document';
import { say } from '@domatium/core/words/editor';

/** Other layouts for the blocks of a linked piece, on this page alone: it stays linked, and its texts stay its own. */
@Component({
  selector: 'dm-piece-looks',
  template: `
    @for (one of choices(); track one.id) {
      <div class="one">
        <label class="form-label" [for]="'look-' + one.id">{{ say.lookOf(one.words) }}</label>
        <select class="form-select" [id]="'look-' + one.id" (change)="set(one.id, $any($event.target).value)">
          <option value="" [selected]="!one.chosen">{{ say.asInThePiece(one.usual) }}</option>
          @for (option of one.options; track option.value) {
            <option [value]="option.value" [selected]="one.chosen === option.value">{{ option.label }}</option>
          }
        </select>
      </div>
    }
  `,
  styles: `
    .one {
      margin-bottom: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PieceLooks {
  protected readonly say = say;
  /** What the piece holds. */
  readonly blocks = input.required<readonly Block[]>();
  /** The looks of this page, as the block keeps them. */
  readonly looks = input.required<string>();
  readonly changed = output<string>();

  protected readonly choices = computed(() => {
    const looks = looksFrom(this.looks());
    return this.blocks().flatMap((block) => {
      const layouts = layoutsOf(fieldsOf(block.type));
      if (!layouts || layouts.options.length < 2) return [];
      const own = block.fields['layout'] ?? layouts.options[0]?.value;
      const chosen = looks.get(block.id) ?? '';
      return [
        {
          id: block.id,
          words: this.blocks().length > 1 ? blockWords(block) : blockTypes[block.type].label,
          usual: layouts.options.find(({ value }) => value === own)?.label ?? '',
          options: layouts.options,
          chosen,
        },
      ];
    });
  });

  protected set(id: string, layout: string): void {
    const looks = new Map(looksFrom(this.looks()));
    if (layout) looks.set(id, layout);
    else looks.delete(id);
    this.changed.emit(looksToText(looks));
  }
}
