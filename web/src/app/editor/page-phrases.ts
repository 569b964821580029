import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MOST_PHRASES, LONGEST_PHRASE, phrasesFromJSON } from '@domatium/core/document';
import { PHRASE_PLACES, placesOfPhrase } from '@domatium/core/metadata';
import { faultWords } from '@domatium/core/words';
import { say } from '@domatium/core/words/metadata';
import { AlikePhrases } from './alike-pages';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';

/** What people are to find the page by: where each phrase stands on it, and who else aims at it. */
@Component({
  selector: 'dm-page-phrases',
  providers: [AlikePhrases],
  template: `
    @if (draft.document()) {
      <section class="card" [attr.aria-label]="say.targetPhrases">
        <h2>{{ say.targetPhrases }}</h2>
        @for (one of phrases(); track one.phrase) {
          <div class="phrase">
            <strong>{{ one.phrase }}</strong>
            <button
              type="button"
              class="btn-link-plain quiet"
              [attr.aria-label]="say.removePhrase(one.phrase)"
              (click)="remove(one.phrase)"
            >
              <i class="bi bi-x-lg" aria-hidden="true"></i>
            </button>
            <ul>
              @for (at of one.places; track at.place) {
                <li [class.quiet]="!at.isIn">
                  <i class="bi" [class]="at.isIn ? 'bi-check-lg' : 'bi-dash'" aria-hidden="true"></i>
                  {{ say.phrasePlaces[at.place] }}<span class="visually-hidden">{{ at.isIn ? say.isThere : say.isNotThere }}</span>
                </li>
              }
            </ul>
            @for (other of one.others; track other.pageId) {
              <div class="field-note alike">
                <i class="bi bi-files" aria-hidden="true"></i> {{ say.aimsAtItToo(other.name, other.address) }}
              </div>
            }
          </div>
        }
        @if (phrases().length < most) {
          <form class="row-of" (submit)="$event.preventDefault(); add(field.value) && (field.value = '')">
            <input
              #field
              class="form-control"
              [attr.maxlength]="longest"
              [attr.aria-label]="say.newPhrase"
              [placeholder]="say.newPhrase"
              [class.is-invalid]="!!error()"
              (input)="error.set(null)"
            />
            <button type="submit" class="btn btn-plain">{{ say.addPhrase }}</button>
          </form>
        }
        @if (error(); as text) {
          <div class="field-error" role="alert">{{ text }}</div>
        }
        <div class="field-note">{{ say.phrasesNote }}</div>
      </section>
    }
  `,
  styles: `
    .phrase {
      border-bottom: 1px solid var(--rule-soft);
      padding: 4px 0;
      button {
        margin-left: 6px;
      }
    }
    ul {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 12px;
      list-style: none;
      margin: 2px 0;
      padding: 0;
      font-size: 0.8125rem;
    }
    li:not(.quiet) {
      color: var(--moss);
      font-weight: 580;
    }
    .row-of {
      display: flex;
      gap: 8px;
      margin-top: 6px;
    }
    .alike {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PagePhrases {
  protected readonly say = say;
  protected readonly draft = inject(DraftService);
  private readonly world = inject(PageWorld);
  private readonly alike = inject(AlikePhrases);
  protected readonly most = MOST_PHRASES;
  protected readonly longest = LONGEST_PHRASE;
  protected readonly error = signal<string | null>(null);
  private readonly kept = computed(() => this.draft.document()?.metadata.phrases ?? []);
  protected readonly phrases = computed(() => {
    const document = this.draft.document();
    const { whole, description } = this.world.knownAs();
    const texts = { title: whole, description, path: this.draft.draft()?.path ?? '/', filled: this.world.filled };
    return this.kept().map((phrase) => {
      const found = document ? placesOfPhrase(document, texts, phrase) : new Set();
      return {
        phrase,
        places: PHRASE_PLACES.map((place) => ({ place, isIn: found.has(place) })),
        others: this.alike.all().filter((one) => one.what === 'phrase' && one.phrase === phrase),
      };
    });
  });

  protected add(typed: string): boolean {
    if (!typed.trim()) return false;
    const read = phrasesFromJSON([...this.kept(), typed]);
    this.error.set(read.ok ? null : read.faults.map(faultWords).join(' '));
    if (!read.ok) return false;
    return this.draft.edit({ kind: 'phrases', value: read.value });
  }

  protected remove(phrase: string): void {
    const left = this.kept().filter((one) => one !== phrase);
    this.draft.edit({ kind: 'phrases', value: left.length ? left : null });
  }
}
