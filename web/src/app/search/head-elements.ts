import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import {
  headElementsFromJSON,
  LINK_RELATIONS,
  LONGEST_CONTENT,
  MOST_ELEMENTS,
  type HeadElement,
} from '@domatium/core/document';
import { canonical } from '@domatium/core/plan';
import { faultWords } from '@domatium/core/words';
import { say } from '@domatium/core/words/metadata';

const NEW: HeadElement = { kind: 'meta', name: '', content: '' };

/** Further elements of a head: rows that are kept once all of them are right. */
@Component({
  selector: 'dm-head-elements',
  template: `
    @for (row of rows(); track $index) {
      <div class="row-of" role="group" [attr.aria-label]="say.metaElement + ' ' + ($index + 1)">
        <select
          class="form-select kind"
          [attr.aria-label]="say.kindOfElement($index + 1)"
          (change)="turn($index, $any($event.target).value)"
        >
          <option value="meta" [selected]="row.kind === 'meta'">{{ say.metaElement }}</option>
          <option value="link" [selected]="row.kind === 'link'">{{ say.linkElement }}</option>
        </select>
        @if (row.kind === 'meta') {
          <input
            class="form-control mono"
            maxlength="80"
            spellcheck="false"
            autocomplete="off"
            [attr.aria-label]="say.nameOfElement($index + 1)"
            [class.is-invalid]="!!faults()[$index + '.name']"
            [value]="row.name"
            (input)="set($index, { name: $any($event.target).value })"
          />
        } @else {
          <select
            class="form-select"
            [attr.aria-label]="say.relationOfElement($index + 1)"
            (change)="set($index, { rel: $any($event.target).value })"
          >
            @for (one of relations; track one) {
              <option [value]="one" [selected]="one === row.rel">{{ one }}</option>
            }
          </select>
        }
        <button type="button" class="btn-link-plain quiet" [attr.aria-label]="say.removeElement($index + 1)" (click)="remove($index)">
          <i class="bi bi-x-lg" aria-hidden="true"></i>
        </button>
        @if (row.kind === 'meta') {
          <input
            class="form-control whole"
            [attr.maxlength]="longest"
            [attr.aria-label]="say.contentOfElement($index + 1)"
            [class.is-invalid]="!!faults()[$index + '.content']"
            [value]="row.content"
            (input)="set($index, { content: $any($event.target).value })"
          />
        } @else {
          <input
            class="form-control mono whole"
            maxlength="2000"
            spellcheck="false"
            [placeholder]="say.addressBegins"
            [attr.aria-label]="say.addressOfElement($index + 1)"
            [class.is-invalid]="!!faults()[$index + '.href']"
            [value]="row.href"
            (input)="set($index, { href: $any($event.target).value })"
          />
        }
        @for (text of faultsOf($index); track $index) {
          <div class="field-error whole" role="alert">{{ text }} {{ say.notKeptYet }}</div>
        }
      </div>
    }
    @if (rows().length < most) {
      <button type="button" class="btn-link-plain" (click)="add()">{{ say.addAnElement }}</button>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .row-of {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr) 24px;
      gap: 4px 6px;
      align-items: center;
      margin-bottom: 10px;
    }
    .whole {
      grid-column: 1 / 3;
    }
    .form-control.mono {
      font-size: 0.8125rem;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HeadElements {
  protected readonly say = say;
  readonly elements = input.required<readonly HeadElement[]>();
  readonly changed = output<readonly HeadElement[]>();
  protected readonly most = MOST_ELEMENTS;
  protected readonly longest = LONGEST_CONTENT;
  protected readonly relations = LINK_RELATIONS;
  protected readonly rows = signal<readonly HeadElement[]>([]);
  /** What was last told, as a text. */
  private sent: string | null = null;
  private readonly read = computed(() => headElementsFromJSON(this.rows()));
  /** By row and field. A row that was only just added says nothing. */
  protected readonly faults = computed<Readonly<Record<string, string>>>(() => {
    const read = this.read();
    if (read.ok) return {};
    return Object.fromEntries(
      read.faults.flatMap((fault) => {
        const [, index = '', field = ''] = /^\[(\d+)\]\.(\w+)$/.exec(fault.path) ?? [];
        return canonical(this.rows()[Number(index)]) === canonical(NEW)
          ? []
          : [[`${index}.${field}`, faultWords(fault)]];
      }),
    );
  });

  constructor() {
    effect(() => {
      const kept = this.elements();
      // What one is typing stays as it is typed.
      if (canonical(kept) !== this.sent) this.rows.set(kept);
      this.sent = canonical(kept);
    });
  }

  protected faultsOf(index: number): string[] {
    return Object.entries(this.faults()).flatMap(([place, text]) => (place.startsWith(`${index}.`) ? [text] : []));
  }

  protected add(): void {
    this.rows.update((rows) => [...rows, NEW]);
  }

  protected turn(index: number, kind: HeadElement['kind']): void {
    this.put(this.rows().with(index, kind === 'meta' ? NEW : { kind, rel: 'me', href: '' }));
  }

  protected set(index: number, change: object): void {
    const row = this.rows()[index];
    if (row) this.put(this.rows().with(index, { ...row, ...change }));
  }

  protected remove(index: number): void {
    this.put(this.rows().toSpliced(index, 1));
  }

  /** Rows that are empty yet hold nothing up. */
  private put(rows: readonly HeadElement[]): void {
    this.rows.set(rows);
    const read = headElementsFromJSON(rows.filter((row) => canonical(row) !== canonical(NEW)));
    if (!read.ok || canonical(read.value) === this.sent) return;
    this.sent = canonical(read.value);
    this.changed.emit(read.value);
  }
}
