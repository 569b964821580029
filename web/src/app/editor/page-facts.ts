import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  FACT_KINDS,
  factFields,
  factsFromJSON,
  longestOf,
  piecesOf,
  type Fact,
  type FactForm,
  type FactKind,
} from '@domatium/core/document';
import { gapsOf, saidByPage, type FactSource } from '@domatium/core/structured';
import { instantOfWall, wallOf, type Instant } from '@domatium/core/time';
import { faultWords } from '@domatium/core/words';
import { say } from '@domatium/core/words/facts';
import { RegisterService } from '../hub/register.service';
import { MomentField } from '../shared/moment-field';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';

type FieldKey = keyof typeof say.fields;
const labelOf = (key: string) => say.fields[key as FieldKey];
const names = (keys: readonly string[]) => keys.map((key) => labelOf(key).toLowerCase()).join(', ');
const isOptions = (form: FactForm): form is readonly (keyof typeof say.choices)[] => typeof form !== 'string';

/** What the page states for machines: what is made of it by itself, and what a person states beside. */
@Component({
  selector: 'dm-page-facts',
  imports: [MomentField],
  template: `
    @if (draft.document()) {
      <section class="card" [attr.aria-label]="say.structuredData">
        <h2>{{ say.structuredData }}</h2>
        <div class="field-note">{{ say.structuredNote }}</div>
        <p>
          <span class="quiet">{{ say.statesByItself }}:</span>&ngsp;{{ byItself() }}
        </p>
        @for (fact of facts(); track fact.kind) {
          <fieldset>
            <legend>
              {{ say.kinds[fact.kind] }}
              <button
                type="button"
                class="btn-link-plain quiet"
                [attr.aria-label]="say.takeAway(say.kinds[fact.kind])"
                (click)="remove(fact.kind)"
              >
                <i class="bi bi-x-lg" aria-hidden="true"></i>
              </button>
            </legend>
            <p class="state" [class.lacks]="fact.lacks" aria-live="polite">
              <i class="bi" [class]="fact.lacks ? 'bi-triangle-fill' : 'bi-check-lg'" aria-hidden="true"></i>
              {{ fact.words }}
            </p>
            <div class="values">
              @for (field of fact.fields; track field.key) {
                <div [class.wide]="field.form === 'paragraph'">
                  <label class="form-label" [attr.for]="field.form === 'moment' ? null : field.id">{{ field.label }}</label>
                  @if (field.form === 'moment') {
                    <dm-moment-field
                      [label]="field.label"
                      [value]="field.wall"
                      (changed)="setMoment(fact.kind, field.key, $event)"
                    />
                  } @else if (field.options) {
                    <select [id]="field.id" class="form-select" (change)="set(fact.kind, field.key, $any($event.target).value)">
                      <option value="" [selected]="!field.value">{{ say.notSaid }}</option>
                      @for (option of field.options; track option) {
                        <option [value]="option" [selected]="field.value === option">{{ say.choices[option] }}</option>
                      }
                    </select>
                  } @else if (field.form === 'paragraph') {
                    <textarea
                      [id]="field.id"
                      class="form-control"
                      rows="2"
                      [attr.maxlength]="field.most"
                      [placeholder]="field.fromPage"
                      [value]="field.value"
                      (input)="set(fact.kind, field.key, $any($event.target).value)"
                    ></textarea>
                  } @else {
                    <input
                      [id]="field.id"
                      class="form-control"
                      [type]="field.form === 'day' ? 'date' : 'text'"
                      [attr.maxlength]="field.most"
                      [placeholder]="field.fromPage"
                      [class.is-invalid]="!!field.error"
                      [attr.aria-invalid]="!!field.error"
                      [value]="field.value"
                      (input)="set(fact.kind, field.key, $any($event.target).value)"
                    />
                  }
                  @if (field.error) {
                    <div class="field-error" role="alert">{{ field.error }}</div>
                  } @else if (field.help && !field.value && !field.fromPage) {
                    <div class="field-note">{{ field.help }}</div>
                  }
                </div>
              }
            </div>
          </fieldset>
        }
        @if (left().length) {
          <div class="more" role="group" [attr.aria-label]="say.stateMore">
            <span class="quiet">{{ say.stateMore }}</span>
            @for (kind of left(); track kind) {
              <button type="button" class="chip" (click)="add(kind)">
                <i class="bi bi-plus-lg" aria-hidden="true"></i> {{ say.kinds[kind] }}
              </button>
            }
          </div>
        }
      </section>
    }
  `,
  styles: `
    p {
      margin: 4px 0 6px;
    }
    fieldset {
      border-top: 1px solid var(--rule-soft);
      padding-top: 4px;
      margin-bottom: 8px;
    }
    legend {
      float: none;
      width: auto;
      margin: 0;
      padding: 0;
      font-size: inherit;
      font-weight: 620;
      button {
        margin-left: 6px;
      }
    }
    .state {
      margin: 0;
      font-size: 0.8125rem;
      color: var(--moss);
    }
    .state.lacks {
      color: var(--ochre);
    }
    .values {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(230px, 100%), 1fr));
      gap: 0 10px;
      align-items: start;
    }
    .values > div {
      min-width: 0;
    }
    .wide {
      grid-column: 1 / -1;
    }
    .form-label {
      display: block;
      margin-top: 6px;
    }
    .more {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px;
    }
    .chip {
      padding: 2px 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageFacts {
  protected readonly say = say;
  protected readonly draft = inject(DraftService);
  private readonly world = inject(PageWorld);
  private readonly register = inject(RegisterService);
  private readonly kept = computed(() => this.draft.document()?.metadata.facts ?? []);
  /** What was typed and can't be kept as it is, by kind and field. */
  private readonly unkept = signal<ReadonlyMap<string, { readonly typed: string; readonly fault: string }>>(new Map());
  protected readonly left = computed(() => FACT_KINDS.filter((kind) => !this.kept().some((one) => one.kind === kind)));

  private readonly source = computed((): FactSource => {
    const document = this.draft.document();
    const { title, description, siteName } = this.world.knownAs();
    const pieces = document ? piecesOf(document).flatMap(({ value }) => this.world.piece(value)) : [];
    return {
      blocks: [...(document?.blocks ?? []), ...pieces],
      ...{ title, description, fill: this.world.filled },
      organization: this.world.filled(this.world.said().organization.value) || siteName || this.world.profile().brand,
    };
  });
  protected readonly byItself = computed(() => {
    const { blocks } = this.source();
    const questions = blocks.flatMap(({ type, fields }) =>
      type === 'questions' ? (fields['items'] as readonly unknown[]) : [],
    ).length;
    const films = blocks.filter(({ type, fields }) => type === 'video' && fields['file'] && fields['picture']).length;
    return [
      say.page,
      ...(questions ? [questions === 1 ? say.oneQuestion : say.questionsOf(questions)] : []),
      ...(films ? [films === 1 ? say.oneFilm : say.filmsOf(films)] : []),
    ].join(' · ');
  });
  protected readonly facts = computed(() =>
    this.kept().map((fact) => {
      const said = saidByPage(fact.kind, this.source());
      const { required, recommended } = gapsOf(fact, said);
      return {
        kind: fact.kind,
        lacks: required.length > 0,
        words: required.length
          ? say.isMissing(names(required))
          : recommended.length
            ? say.wouldHelp(names(recommended))
            : say.isWhole,
        fields: factFields(fact.kind).map(({ key, form }) => this.fieldOf(fact, key, form, said[key] ?? '')),
      };
    }),
  );

  private fieldOf({ kind, values }: Fact, key: string, form: FactForm, fromPage: string) {
    const value = values[key] ?? '';
    const wrong = this.unkept().get(`${kind} ${key}`);
    return {
      ...{ key, form, id: `fact-${kind}-${key}`, label: labelOf(key), most: longestOf(form) },
      options: isOptions(form) ? form : null,
      wall: typeof value === 'object' ? wallOf(value.at as Instant, value.zone) : null,
      value: wrong?.typed ?? (typeof value === 'string' ? value : ''),
      error: wrong?.fault ?? '',
      fromPage: fromPage && say.fromThePage(fromPage),
      help: say.helps[key as keyof typeof say.helps] ?? '',
    };
  }

  protected add(kind: FactKind): void {
    this.draft.edit({ kind: 'facts', value: [...this.kept(), { kind, values: {} }] });
  }

  protected remove(kind: FactKind): void {
    this.unkept.update((all) => new Map([...all].filter(([key]) => !key.startsWith(`${kind} `))));
    const left = this.kept().filter((one) => one.kind !== kind);
    this.draft.edit({ kind: 'facts', value: left.length ? left : null });
  }

  /** What can't be right is said beside its field, and leaves what was there. */
  protected set(kind: FactKind, key: string, typed: Fact['values'][string]): void {
    const next = this.kept().map((one) =>
      one.kind === kind ? { kind, values: withValue(one.values, key, typed) } : one,
    );
    const read = factsFromJSON(next);
    const unkept = new Map(this.unkept());
    unkept.delete(`${kind} ${key}`);
    if (!read.ok && typeof typed === 'string')
      unkept.set(`${kind} ${key}`, { typed, fault: read.faults.map(faultWords).join(' ') });
    this.unkept.set(unkept);
    if (read.ok) this.draft.edit({ kind: 'facts', value: next });
  }

  protected setMoment(kind: FactKind, key: string, local: string | null): void {
    const zone = this.register.zone();
    const at = local === null ? null : instantOfWall({ local, zone });
    if (local === null) this.set(kind, key, '');
    else if (at !== null) this.set(kind, key, { at, zone });
  }
}

function withValue(values: Fact['values'], key: string, value: Fact['values'][string]): Fact['values'] {
  const { [key]: _, ...rest } = values;
  return value === '' ? rest : { ...rest, [key]: value };
}
