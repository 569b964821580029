import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { blockTypes, type BlockType } from '@domatium/core/blocks';

/** A small drawing of a block, as its definition has it. */
@Component({
  selector: 'dm-block-glyph',
  template: `
    <svg width="42" height="26" viewBox="0 0 42 26" aria-hidden="true">
      <rect x=".5" y=".5" width="41" height="25" rx="3" class="sheet" />
      @for (part of parts(); track $index) {
        <path [attr.class]="part[0]" [attr.d]="part[1]" />
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      flex: none;
    }
    .sheet {
      fill: var(--surface);
      stroke: var(--rule);
    }
    .paper {
      fill: var(--surface);
    }
    .ink {
      fill: var(--ink);
    }
    .moss {
      fill: var(--moss);
    }
    .soft {
      fill: color-mix(in srgb, var(--moss) 26%, var(--surface));
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockGlyph {
  readonly type = input.required<BlockType>();
  protected readonly parts = computed(() => blockTypes[this.type()].glyph);
}
