import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { APPEARANCE, appearanceOf, isUsual } from '@domatium/core/blocks';
import { besideEdit, placesInRows, type Block, type FieldValue, type PageDocument } from '@domatium/core/document';
import { contrast, veilOf, type Palette } from '@domatium/core/theme';
import { say } from '@domatium/core/words/editor';
import { BlockFields } from './block-fields';
import { ChosenBlocks } from './chosen-blocks';
import { PageWorld } from './page-world';

/** The least contrast of text (WCAG 2.2, 1.4.3). */
const LEAST = 4.5;

/** How the chosen block stands on its page: what is unusual in one line, all of it below. */
@Component({
  selector: 'dm-block-appearance',
  imports: [BlockFields],
  template: `
    <details #details [open]="isOpen()" (toggle)="isOpen.set(details.open)">
      <summary>
        {{ say.appearance }} <span class="quiet">{{ words() }}</span>
      </summary>
      @if (isOpen()) {
      <div class="beside">
        @if (place(); as place) {
          <span>{{ say.columnOf(place.column, place.of) }}</span>
          <button type="button" class="btn-link-plain" (click)="choice.stand('alone')">{{ say.takeOutOfTheRow }}</button>
        }
        @if (mayStandBeside()) {
          <button type="button" class="btn-link-plain" (click)="choice.stand('beside')">
            {{ place() ? say.intoTheColumnBefore : say.besideTheBlockAbove }}
          </button>
        }
      </div>
      <dm-block-fields [fields]="fields()" [values]="block().fields" (changed)="changed.emit($event)" />
      @if (contrastWords(); as words) {
        <p class="field-note">{{ words }}</p>
      }
      }
    </details>
  `,
  styles: `
    details {
      border-top: 1px solid var(--rule-soft);
      padding: 6px 0 0;
      margin-top: 12px;
    }
    summary {
      font-weight: 620;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      .quiet {
        font-weight: 400;
      }
    }
    .beside {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 12px;
      margin: 6px 0 10px;
      font-size: 0.8125rem;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockAppearance {
  protected readonly say = say;
  readonly block = input.required<Block>();
  readonly document = input.required<PageDocument>();
  readonly changed = output<{ field: string; value: FieldValue }>();
  protected readonly choice = inject(ChosenBlocks);
  private readonly world = inject(PageWorld);

  /** What is folded is not there: its fields have labels that those above may have too. */
  protected readonly isOpen = signal(false);
  protected readonly look = computed(() => appearanceOf(this.block().fields));
  protected readonly place = computed(() => placesInRows(this.document().blocks).get(this.block().id) ?? null);
  protected readonly mayStandBeside = computed(() => besideEdit(this.document(), this.block().id) !== null);
  /** What is asked: where it stands is said by the acts above, a picture and a share only where they matter. */
  protected readonly fields = computed(() =>
    APPEARANCE.filter(
      ({ key }) =>
        key !== 'beside' &&
        (key !== 'groundPicture' || this.look().ground === 'picture') &&
        (key !== 'share' || this.place()),
    ),
  );
  /** What is unusual, in a few words. */
  protected readonly words = computed(() =>
    APPEARANCE.flatMap((field) => {
      const value = this.block().fields[field.key];
      if (field.kind !== 'choice' || field.key === 'beside' || field.key === 'share' || isUsual(field.key, value))
        return [];
      const label = field.options.find((one) => one.value === value)?.label ?? '';
      return [/^room|^reach/.test(field.key) ? `${field.label}: ${label.toLowerCase()}` : label];
    }).join(' · '),
  );
  protected readonly contrastWords = computed(() => {
    const { ground } = this.look();
    if (ground === 'page') return null;
    const { colours, dark } = this.world.theme();
    const ratio = Math.min(...[colours, ...(dark ? [dark] : [])].map((palette) => ratioOn(ground, palette)));
    if (ground === 'picture') return say.pictureIsDarkened(veilOf(colours));
    return say.contrastOfText(ratio.toFixed(1), ratio >= LEAST);
  });
}

const ratioOn = (ground: 'tint' | 'strong' | 'picture', palette: Palette): number =>
  ground === 'tint' ? contrast(palette.ink, palette.tint) : contrast(palette.onDeep, palette.deep);
