import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { ICON_LABELS, iconPaths, isIcon, type IconName } from '@domatium/core/icons';
import { say } from '@domatium/core/words/editor';

const ALL = Object.entries(ICON_LABELS).flatMap(([name, label]) =>
  isIcon(name) ? [{ name, label, paths: iconPaths(name) }] : [],
);

/** One of the icons that ship, or none: found by its name, chosen from a grid. */
@Component({
  selector: 'dm-icon-field',
  template: `
    <span class="chosen">
      @if (drawn(); as icon) {
        <svg viewBox="0 0 16 16" fill="currentColor" aria-hidden="true">@for (path of icon.paths; track $index) {
            <path [attr.d]="path" />
          }</svg>
        <span>{{ icon.label }}</span>
        <button type="button" class="btn-link-plain" [attr.aria-expanded]="isOpen()" (click)="isOpen.set(!isOpen())">
          {{ say.changeIt }}
        </button>
        <button type="button" class="btn-link-plain quiet" (click)="changed.emit('')">{{ say.takeAway }}</button>
      } @else {
        <button
          type="button"
          class="btn-link-plain"
          [attr.aria-expanded]="isOpen()"
          [attr.aria-label]="say.chooseAnIconFor(label())"
          (click)="isOpen.set(!isOpen())"
        >
          {{ say.chooseAnIcon }}
        </button>
      }
    </span>
    @if (isOpen()) {
      <div class="panel" (keydown.escape)="$event.stopPropagation(); isOpen.set(false)">
        <input
          class="form-control"
          [attr.aria-label]="say.findAnIcon"
          [placeholder]="say.findAnIcon"
          (input)="text.set($any($event.target).value)"
        />
        <div class="grid" role="group" [attr.aria-label]="label()">
          @for (icon of found(); track icon.name) {
            <button
              type="button"
              [title]="icon.label"
              [attr.aria-label]="icon.label"
              [attr.aria-pressed]="icon.name === value()"
              (click)="pick(icon.name)"
            >
              <svg viewBox="0 0 16 16" fill="currentColor" aria-hidden="true">@for (path of icon.paths; track $index) {
                <path [attr.d]="path" />
              }</svg>
            </button>
          } @empty {
            <span class="quiet">{{ say.noIconIsCalled(text()) }}</span>
          }
        </div>
      </div>
    }
  `,
  styles: `
    .chosen {
      display: flex;
      align-items: center;
      gap: 10px;
      font-size: 0.8125rem;
    }
    svg {
      width: 18px;
      height: 18px;
      flex: none;
    }
    .panel {
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      padding: 8px;
      margin-top: 6px;
    }
    .grid {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(30px, 1fr));
      gap: 2px;
      margin-top: 6px;
      max-height: 190px;
      overflow-y: auto;
    }
    .grid .quiet {
      grid-column: 1 / -1;
    }
    .grid button {
      border: 0;
      background: none;
      border-radius: 4px;
      height: 30px;
      padding: 0;
    }
    .grid button:hover {
      background: color-mix(in srgb, var(--ink) 6%, transparent);
    }
    .grid button[aria-pressed='true'] {
      background: var(--moss-tint);
      color: var(--moss);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class IconField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  /** The name of the icon, empty for none. */
  readonly changed = output<IconName | ''>();
  protected readonly isOpen = signal(false);
  protected readonly text = signal('');
  protected readonly drawn = computed(() => ALL.find(({ name }) => name === this.value()) ?? null);
  protected readonly found = computed(() => {
    const text = this.text().trim().toLowerCase();
    return ALL.filter(({ name, label }) => `${name} ${label}`.toLowerCase().includes(text));
  });

  protected pick(name: IconName): void {
    this.isOpen.set(false);
    this.changed.emit(name);
  }
}
