import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { BlockType } from '@domatium/core/blocks';

/** A small drawing of a block for the outline. */
@Component({
  selector: 'dm-block-glyph',
  template: `
    <svg width="42" height="26" viewBox="0 0 42 26" aria-hidden="true">
      <rect x=".5" y=".5" width="41" height="25" rx="3" class="paper" />
      @switch (type()) {
        @case ('opening') {
          <path class="ink" d="M5 7h15v3H5zM5 12h11v2H5z" />
          <path class="moss" d="M5 17h9v4H5z" />
          <path class="soft" d="M25 4h12v18H25z" />
        }
        @case ('text') {
          <path class="ink" d="M7 7h28v1.5H7zM7 11h28v1.5H7zM7 15h28v1.5H7zM7 19h18v1.5H7z" />
        }
        @case ('picture') {
          <path class="soft" d="M5 4h32v18H5z" />
          <path class="ink" d="m9 20 8-9 6 6 4-4 6 7z" />
        }
        @case ('reasons') {
          <path class="soft" d="M5 5h9v9H5zM17 5h9v9h-9zM29 5h8v9h-8z" />
          <path class="ink" d="M5 17h9v1.5H5zM17 17h9v1.5h-9zM29 17h8v1.5h-8z" />
        }
        @case ('quote') {
          <path class="ink" d="M11 8h20v2H11zM14 12h14v2H14z" />
          <path class="soft" d="M17 18h8v1.5h-8z" />
        }
        @case ('callToAction') {
          <path class="ink" d="M4 8h34v11H4z" />
          <path class="paper-fill" d="M8 12h11v3H8zM26 11h9v5h-9z" />
        }
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      flex: none;
    }
    .paper {
      fill: var(--surface);
      stroke: var(--rule);
    }
    .paper-fill {
      fill: var(--surface);
    }
    .ink {
      fill: var(--ink);
    }
    .moss {
      fill: var(--moss);
    }
    .soft {
      fill: #cdd6d1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockGlyph {
  readonly type = input.required<BlockType>();
}
