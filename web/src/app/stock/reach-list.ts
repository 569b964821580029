import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { CodeReach } from '@domatium/core/codes';
import { say } from '@domatium/core/words/codes';
import { RegisterService } from '../hub/register.service';
import { PagePicker } from '../shared/page-picker';
import { ReachWords } from './reach-words';

type Kind = keyof typeof say.kinds;
const KINDS = Object.entries(say.kinds) as [Kind, string][];

/** Sites, paths and pages on which something runs or does not: a line each, and a row that adds one. */
@Component({
  selector: 'dm-reach-list',
  imports: [PagePicker],
  template: `
    @for (one of lines(); track one.key) {
      <div class="reach">
        <span>{{ one.words }}</span>
        <button
          type="button"
          class="btn-link-plain quiet"
          [attr.aria-label]="say.remove(one.words)"
          (click)="remove(one.key)"
        >
          <i class="bi bi-x-lg" aria-hidden="true"></i>
        </button>
      </div>
    }
    <div class="adding" role="group" [attr.aria-label]="say.addFor + ': ' + label()">
      <select
        class="form-select"
        [attr.aria-label]="label() + ': ' + say.addFor"
        (change)="begin($any($event.target).value)"
      >
        @for (one of kinds; track one[0]) {
          <option [value]="one[0]" [selected]="one[0] === kind()">{{ one[1] }}</option>
        }
      </select>
      @if (kind() === 'page') {
        <dm-page-picker class="wide" [label]="label() + ': ' + say.page" [pageId]="null" (picked)="addPage($event)" />
      } @else {
        <select
          class="form-select"
          [attr.aria-label]="label() + ': ' + say.site"
          (change)="siteId.set(+$any($event.target).value)"
        >
          @for (one of sites(); track one.id) {
            <option [value]="one.id" [selected]="one.id === site()">{{ one.name }}</option>
          }
        </select>
        @if (kind() === 'path') {
          <input
            class="form-control mono"
            maxlength="1024"
            spellcheck="false"
            [placeholder]="say.examplePath"
            [attr.aria-label]="label() + ': ' + say.path"
            [value]="path()"
            (input)="path.set($any($event.target).value)"
            (keydown.enter)="$event.preventDefault(); add()"
          />
        }
        <button type="button" class="btn btn-plain" [disabled]="!mayAdd()" (click)="add()">{{ say.add }}</button>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      margin: 6px 0 10px;
    }
    .reach {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      padding: 3px 0;
      border-bottom: 1px solid var(--rule-soft);
      span {
        min-width: 0;
        overflow-wrap: anywhere;
      }
    }
    .adding {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin-top: 6px;
      > * {
        flex: 1 1 120px;
        min-width: 0;
      }
      .btn {
        flex: none;
      }
      .wide {
        flex-basis: 200px;
      }
    }
    .form-control.mono {
      font-size: 0.8125rem;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReachList {
  protected readonly say = say;
  protected readonly kinds = KINDS;
  readonly label = input.required<string>();
  readonly reaches = input.required<readonly CodeReach[]>();
  readonly changed = output<readonly CodeReach[]>();
  private readonly register = inject(RegisterService);
  private readonly words = inject(ReachWords);
  protected readonly kind = signal<Kind>('site');
  protected readonly path = signal('');
  protected readonly siteId = signal<number | null>(null);
  protected readonly sites = computed(() => this.register.head()?.sites ?? []);
  protected readonly site = computed(() => this.siteId() ?? this.sites()[0]?.id ?? null);
  protected readonly mayAdd = computed(
    () => this.site() !== null && (this.kind() === 'site' || this.path().trim().startsWith('/')),
  );
  protected readonly lines = computed(() =>
    this.reaches().map((reach) => ({ key: JSON.stringify(reach), words: this.words.words(reach) })),
  );

  protected begin(kind: Kind): void {
    this.kind.set(kind);
  }

  protected add(): void {
    const siteId = this.site();
    if (siteId === null || !this.mayAdd()) return;
    this.put({ siteId, path: this.kind() === 'site' ? null : this.path().trim() });
    this.path.set('');
  }

  protected addPage(pageId: number | null): void {
    if (pageId !== null) this.put({ pageId });
  }

  private put(reach: CodeReach): void {
    const key = JSON.stringify(reach);
    if (!this.lines().some((one) => one.key === key)) this.changed.emit([...this.reaches(), reach]);
  }

  protected remove(key: string): void {
    this.changed.emit(this.reaches().filter((reach) => JSON.stringify(reach) !== key));
  }
}
