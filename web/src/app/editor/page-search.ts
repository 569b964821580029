import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { picturesOf, type LinkTarget, type Robots } from '@domatium/core/document';
import { METADATA_LABELS } from '@domatium/core/words';
import { say } from '@domatium/core/words/metadata';
import { RuleWords } from '../hub/rule-words';
import { PicturesService } from '../pictures/pictures.service';
import { HeadElements } from '../search/head-elements';
import { ResultDrawings, type KnownAs } from '../search/result-drawings';
import { RobotsFields } from '../search/robots-fields';
import { elementsWords, robotsWords } from '../search/said-words';
import { DraftService } from './draft.service';
import { LinkField } from './link-field';
import { PageFacts } from './page-facts';
import { PagePhrases } from './page-phrases';
import { PageWorld } from './page-world';

/**
 * How the page is known elsewhere: what it asks of search engines, and by which words it is known where it is shared. Part
 * of its draft, over what is said further up.
 */
@Component({
  selector: 'dm-page-search',
  imports: [HeadElements, LinkField, PageFacts, PagePhrases, ResultDrawings, RobotsFields],
  template: `
    @if (draft.document(); as doc) {
      <section class="card" [attr.aria-label]="say.searchAndSharing">
        <h2>{{ say.searchAndSharing }}</h2>
        <dm-result-drawings [known]="known()" />
        <label class="form-label" for="share-title">{{ labels.shareTitle }}</label>
        <input
          id="share-title"
          class="form-control"
          maxlength="200"
          [placeholder]="doc.metadata.title"
          [value]="doc.metadata.shareTitle ?? ''"
          (input)="setText('shareTitle', $any($event.target).value)"
        />
        <label class="form-label" for="share-description">{{ labels.shareDescription }}</label>
        <textarea
          id="share-description"
          class="form-control"
          rows="3"
          maxlength="500"
          [placeholder]="doc.metadata.description"
          [value]="doc.metadata.shareDescription ?? ''"
          (input)="setText('shareDescription', $any($event.target).value)"
        ></textarea>
        <div class="field-note">{{ say.leftEmptyTheTitleAndDescription }}</div>
      </section>
      <dm-page-phrases />
      <section class="card" [attr.aria-label]="say.searchResults">
        <h2>{{ say.searchResults }}</h2>
        @if (saidRobots(); as said) {
          <p>{{ said.words }} <span class="quiet">{{ said.from }}</span></p>
          @if (doc.metadata.robots) {
            <button type="button" class="btn-link-plain" (click)="draft.edit({ kind: 'robots', value: null })">
              {{ say.takeOverAgain }}
            </button>
          } @else {
            <button type="button" class="btn-link-plain" (click)="draft.edit({ kind: 'robots', value: {} })">
              {{ say.ownSettings }}
            </button>
          }
        }
        @if (doc.metadata.robots || !saidRobots()) {
          <dm-robots-fields [robots]="doc.metadata.robots ?? {}" (changed)="setRobots($event)" />
        }
      </section>
      <section class="card" [attr.aria-label]="say.mainAddress">
        <h2>{{ say.mainAddress }}</h2>
        <div class="kinds" role="group" [attr.aria-label]="say.mainAddress">
          <button type="button" class="chip" [attr.aria-pressed]="!isElsewhere()" (click)="toItself()">
            {{ say.thisPage }}
          </button>
          <button type="button" class="chip" [attr.aria-pressed]="isElsewhere()" (click)="isAsking.set(true)">
            {{ say.elsewhere }}
          </button>
        </div>
        @if (isElsewhere()) {
          <dm-link-field
            [label]="say.pageShownInstead"
            [value]="doc.metadata.canonical ?? null"
            [only]="shownInstead"
            (changed)="showInstead($event)"
          />
        }
        <div class="field-note">{{ isElsewhere() ? say.anotherIsShown : say.thisIsShown }}</div>
      </section>
      <dm-page-facts />
      <section class="card" [attr.aria-label]="say.furtherElements">
        <h2>{{ say.furtherElements }}</h2>
        @for (one of saidElements(); track $index) {
          <p class="quiet">{{ one }}</p>
        }
        <dm-head-elements
          [elements]="doc.metadata.elements ?? []"
          (changed)="draft.edit({ kind: 'elements', value: $event.length ? $event : null })"
        />
      </section>
    }
  `,
  styles: `
    .form-label {
      display: block;
      margin-top: 6px;
    }
    p {
      margin: 0 0 6px;
    }
    .kinds {
      display: flex;
      gap: 4px;
      margin-bottom: 6px;
    }
    .chip {
      padding: 2px 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageSearch {
  protected readonly say = say;
  protected readonly draft = inject(DraftService);
  private readonly world = inject(PageWorld);
  private readonly pictures = inject(PicturesService);
  private readonly rules = inject(RuleWords);
  protected readonly labels = METADATA_LABELS;
  protected readonly known = computed<KnownAs>(() => {
    const { shareTitle, shareDescription } = this.draft.document()?.metadata ?? {};
    const { title, whole, description, siteName } = this.world.knownAs();
    return {
      ...{ title: whole, description, siteName },
      shareTitle: this.world.filled(shareTitle ?? '') || title,
      shareDescription: this.world.filled(shareDescription ?? '') || description,
      ...{ host: this.draft.draft()?.host ?? '', path: this.draft.draft()?.path ?? '/' },
      picture: this.picture(),
    };
  });
  /** That of the page, else its first one, else that of its site. */
  private readonly picture = computed(() => {
    const document = this.draft.document();
    const first = document && picturesOf(document)[0]?.value.pictureId;
    const id = document?.metadata.sharePictureId ?? first ?? this.world.profile().shareId;
    return (id ? this.pictures.byId().get(id)?.variants.at(-1)?.src : null) ?? null;
  });
  protected readonly saidRobots = computed(() => {
    const { value, by } = this.world.said().robots;
    return value && by ? { words: robotsWords(value), from: say.fromRule(this.rules.about(by.for)) } : null;
  });
  protected readonly saidElements = computed(() =>
    elementsWords(this.world.said().elements, (rule) => this.rules.about(rule)),
  );

  /** Asked for elsewhere, and nothing chosen yet. */
  protected readonly isAsking = signal(false);
  protected readonly isElsewhere = computed(
    () => this.isAsking() || this.draft.document()?.metadata.canonical !== undefined,
  );
  protected readonly shownInstead = ['page', 'outside'] as const;

  protected showInstead(target: LinkTarget): void {
    if (target.kind === 'page' || target.kind === 'outside') this.draft.edit({ kind: 'canonical', value: target });
  }

  protected toItself(): void {
    this.isAsking.set(false);
    if (this.draft.document()?.metadata.canonical) this.draft.edit({ kind: 'canonical', value: null });
  }

  protected setText(key: 'shareTitle' | 'shareDescription', value: string): void {
    this.draft.edit({ kind: 'metadata', key, value });
  }

  /** What is as usual is only kept where somebody further up asks for something else. */
  protected setRobots(robots: Robots): void {
    const isUsual = !Object.keys(robots).length && !this.saidRobots();
    this.draft.edit({ kind: 'robots', value: isUsual ? null : robots });
  }
}
