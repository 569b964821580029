import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { LANGUAGES } from '@domatium/core/blocks';
import type { PictureUse } from '@domatium/core/document';
import { DESCRIPTION_SHOWN, RESULT_ROOM, TITLE_SHOWN, type AlikePage } from '@domatium/core/metadata';
import type { PictureId } from '@domatium/core/plan';
import { lengthOf } from '@domatium/core/text';
import { RuleWords } from '../hub/rule-words';
import { TextWidth } from '../shared/text-width';
import { AlikePages } from './alike-pages';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';
import { PictureField } from './picture-field';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

/** By what a page is known elsewhere: its title, its description, its pictures. */
@Component({
  selector: 'dm-page-fields',
  imports: [PictureField],
  providers: [AlikePages],
  template: `
    @if (draft.document(); as doc) {
      <section class="card" [attr.aria-label]="common.page">
        <h2>{{ common.page }}</h2>
        <label class="form-label" for="title">{{ say.title }}</label>
        <input
          id="title"
          class="form-control"
          maxlength="200"
          [value]="doc.metadata.title"
          (input)="set('title', $any($event.target).value)"
        />
        <div class="field-note number">
          {{ say.charactersAboutAreShown(length(world.knownAs().whole), shown.title) }}{{ pixels() }}
        </div>
        @if (around(); as whole) {
          <label class="flag">
            <input
              type="checkbox"
              class="form-check-input"
              [checked]="doc.metadata.titleAlone === true"
              (change)="draft.edit({ kind: 'titleAlone', value: $any($event.target).checked || null })"
            />
            {{ say.titleStandsAlone }}
          </label>
          <div class="field-note">
            {{ doc.metadata.titleAlone ? say.withoutWhatIsSaid(whole) : say.asSaid(whole) }}
          </div>
        }
        @for (one of alike('title'); track one.pageId) {
          <div class="field-note alike">
            <i class="bi bi-files" aria-hidden="true"></i>
            {{ (one.likeness === 'same' ? say.sameTitle : say.nearTitle)(one.name, one.address) }}
          </div>
        }
        <label class="form-label" for="description">{{ say.description }}</label>
        <textarea
          id="description"
          class="form-control"
          rows="4"
          maxlength="500"
          [value]="doc.metadata.description"
          (input)="set('description', $any($event.target).value)"
        ></textarea>
        <div class="field-note number">
          {{ say.charactersAboutAreShown(length(doc.metadata.description), shown.description) }}
        </div>
        @for (one of alike('description'); track one.pageId) {
          <div class="field-note alike">
            <i class="bi bi-files" aria-hidden="true"></i>
            {{ (one.likeness === 'same' ? say.sameDescription : say.nearDescription)(one.name, one.address) }}
          </div>
        }
        @if (descriptionFrom(); as words) {
          <div class="field-note">{{ words }}</div>
        }
        <label class="form-label" for="language">{{ say.language }}</label>
        <select
          id="language"
          class="form-select"
          (change)="draft.edit({ kind: 'language', value: $any($event.target).value || null })"
        >
          <option value="" [selected]="!doc.metadata.language">{{ say.thatOfItsSite }}</option>
          @for (one of languages; track one.tag) {
            <option [value]="one.tag" [selected]="doc.metadata.language === one.tag">{{ one.name }}</option>
          }
        </select>
        @for (face of faces(); track face.key) {
          <span class="form-label">{{ face.label }}</span>
          <dm-picture-field
            [label]="face.label"
            [value]="face.use"
            [isBare]="true"
            (changed)="draft.edit({ kind: 'face', key: face.key, value: $event?.pictureId ?? null })"
          />
          <div class="field-note">{{ face.note }}</div>
        }
      </section>
    }
  `,
  styles: `
    .form-label {
      display: block;
      margin-top: 6px;
    }
    .alike {
      color: var(--ochre);
    }
    .flag {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 26px;
      margin-top: 3px;
    }
    .flag .form-check-input {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageFields {
  protected readonly common = common;
  protected readonly say = say;
  protected readonly draft = inject(DraftService);
  protected readonly world = inject(PageWorld);
  private readonly rules = inject(RuleWords);
  private readonly others = inject(AlikePages);
  private readonly texts = inject(TextWidth);
  protected readonly shown = { title: TITLE_SHOWN, description: DESCRIPTION_SHOWN };
  protected readonly length = lengthOf;
  protected readonly languages = Object.entries(LANGUAGES).map(([tag, name]) => ({ tag, name }));
  /** How wide the title is among results, against the room it has there. */
  protected readonly pixels = computed(() => {
    const measure = this.texts.measure();
    const { size, width } = RESULT_ROOM.wide.title;
    return measure ? ` · ${say.ofAboutPixels(Math.round(measure(this.world.knownAs().whole, size)), width)}` : '';
  });
  /** The title with what is said to stand around titles; `null` where nothing is. */
  protected readonly around = computed(() => {
    const { title, around } = this.world.knownAs();
    return this.draft.document()?.metadata.title.trim() && around !== title.trim() ? around : null;
  });
  protected readonly descriptionFrom = computed(() => {
    const { value, by } = this.world.said().description;
    return value && by ? say.descriptionFrom(this.rules.about(by.for)) : null;
  });
  /** The pictures by which the page is known elsewhere. */
  protected readonly faces = computed(() => {
    const metadata = this.draft.document()?.metadata;
    const use = (id: PictureId | undefined): PictureUse | null =>
      id === undefined ? null : { pictureId: id, description: '', isDecorative: true };
    return [
      {
        key: 'sharePictureId' as const,
        label: say.pictureWhereThePageIsShared,
        use: use(metadata?.sharePictureId),
        note: say.croppedTo1200630WithoutOneThePages,
      },
      {
        key: 'iconPictureId' as const,
        label: say.smallIconOfThePage,
        use: use(metadata?.iconPictureId),
        note: say.croppedSquareWithoutOneTheSites,
      },
    ];
  });

  protected alike(what: AlikePage['what']): AlikePage[] {
    return this.others.all().filter((one) => one.what === what);
  }

  protected set(key: 'title' | 'description', value: string): void {
    this.draft.edit({ kind: 'metadata', key, value });
  }
}
