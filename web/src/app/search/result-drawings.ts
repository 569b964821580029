import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { cutTo, RESULT_ROOM, SHARED_ROOM } from '@domatium/core/metadata';
import { say } from '@domatium/core/words/metadata';
import { TextWidth } from '../shared/text-width';

/** A page as it is known elsewhere. */
export interface KnownAs {
  readonly title: string;
  readonly description: string;
  readonly shareTitle: string;
  readonly shareDescription: string;
  readonly siteName: string;
  readonly host: string;
  readonly path: string;
  /** Where the picture lies that is shown where it is shared. */
  readonly picture: string | null;
}

type Width = keyof typeof RESULT_ROOM;
type Sharing = keyof typeof SHARED_ROOM;

/** How a page looks among the results of a search and where it is shared, with the words that are cut there cut here. */
@Component({
  selector: 'dm-result-drawings',
  template: `
    <div class="head">
      <span class="section-label">{{ say.inASearch }}</span>
      <div class="choices" role="group" [attr.aria-label]="say.widthOfTheResult">
        @for (one of widths; track one.key) {
          <button type="button" [attr.aria-pressed]="width() === one.key" (click)="width.set(one.key)">{{ one.label }}</button>
        }
      </div>
      <div class="choices" role="group" [attr.aria-label]="say.ground">
        <button type="button" [attr.aria-pressed]="!isDark()" (click)="isDark.set(false)">{{ say.light }}</button>
        <button type="button" [attr.aria-pressed]="isDark()" (click)="isDark.set(true)">{{ say.dark }}</button>
      </div>
    </div>
    <div class="drawing" [class.dark]="isDark()">
      <div class="title" [class.lacking]="!known().title">{{ result().title.text || say.noTitleYet }}</div>
      <div class="words" [class.lacking]="!known().description">{{ result().description.text || say.noDescriptionYet }}</div>
      <div class="where">{{ address() }}</div>
    </div>
    @if (cutWords(result()); as text) {
      <div class="field-note">{{ text }}</div>
    }
    <div class="head">
      <span class="section-label">{{ say.whereShared }}</span>
      <div class="choices" role="group" [attr.aria-label]="say.kindOfSharing">
        @for (one of sharings; track one.key) {
          <button type="button" [attr.aria-pressed]="sharing() === one.key" (click)="sharing.set(one.key)">{{ one.label }}</button>
        }
      </div>
    </div>
    <div class="drawing shared" [class.dark]="isDark()" [attr.data-kind]="sharing()">
      @if (known().picture; as src) {
        <img [src]="src" alt="" />
      } @else {
        <div class="no-picture">{{ say.noPictureYet }}</div>
      }
      <div class="said">
        <div class="title" [class.lacking]="!known().shareTitle">{{ shared().title.text || say.noTitleYet }}</div>
        <div class="words">{{ shared().description.text }}</div>
        <div class="where">{{ known().siteName || known().host }}</div>
      </div>
    </div>
    @if (cutWords(shared()); as text) {
      <div class="field-note">{{ text }}</div>
    }
  `,
  styles: `
    :host {
      display: block;
      container-type: inline-size;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
      margin: 10px 0 6px;
    }
    .head .section-label {
      flex: 1 0 auto;
      margin: 0;
    }
    @container (max-width: 280px) {
      .head .section-label {
        flex-basis: 100%;
      }
    }
    .choices button {
      padding: 1px 7px;
      font-size: 0.8125rem;
    }
    .drawing {
      --ground: #fff;
      --line: #d9dad6;
      --strong: #1b2a3a;
      --soft: #4b5258;
      background: var(--ground);
      border: 1px solid var(--line);
      border-radius: var(--corner);
      padding: 10px 12px;
      font-family: Arimo, Arial, sans-serif;
      color: var(--soft);
      overflow-wrap: anywhere;
    }
    .drawing.dark {
      --ground: #1d1f21;
      --line: #3b3f42;
      --strong: #e8eaec;
      --soft: #b4babf;
    }
    .title {
      color: var(--strong);
      font-size: 1rem;
      line-height: 1.3;
    }
    .words {
      font-size: 0.8125rem;
      line-height: 1.45;
      margin-top: 2px;
    }
    .where {
      font-size: 0.75rem;
      margin-top: 4px;
    }
    .lacking {
      font-style: italic;
    }
    .shared {
      padding: 0;
      overflow: hidden;
    }
    .shared img,
    .no-picture {
      display: block;
      width: 100%;
      aspect-ratio: 1200 / 630;
      object-fit: cover;
    }
    .no-picture {
      display: grid;
      place-items: center;
      font-size: 0.8125rem;
      border-bottom: 1px solid var(--line);
    }
    .said {
      padding: 8px 12px 10px;
      min-width: 0;
    }
    .shared[data-kind='small'] {
      display: grid;
      grid-template-columns: 92px minmax(0, 1fr);
    }
    .shared[data-kind='small'] img,
    .shared[data-kind='small'] .no-picture {
      aspect-ratio: auto;
      height: 100%;
      min-height: 92px;
    }
    .shared[data-kind='small'] .no-picture {
      border-bottom: 0;
      border-right: 1px solid var(--line);
    }
    .shared[data-kind='chat'] {
      max-width: 264px;
      border-radius: 14px 14px 14px 3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ResultDrawings {
  protected readonly say = say;
  readonly known = input.required<KnownAs>();
  private readonly texts = inject(TextWidth);
  protected readonly width = signal<Width>('wide');
  protected readonly sharing = signal<Sharing>('large');
  protected readonly isDark = signal(false);
  protected readonly widths = [
    { key: 'wide' as const, label: say.wide },
    { key: 'narrow' as const, label: say.narrow },
  ];
  protected readonly sharings = [
    { key: 'large' as const, label: say.large },
    { key: 'small' as const, label: say.small },
    { key: 'chat' as const, label: say.chat },
  ];
  protected readonly address = computed(() => {
    const { host, path } = this.known();
    return host + (path === '/' ? '' : path);
  });
  protected readonly result = computed(() => {
    const { title, description } = this.known();
    return this.cut(RESULT_ROOM[this.width()], title, description);
  });
  protected readonly shared = computed(() => {
    const { shareTitle, shareDescription } = this.known();
    return this.cut(SHARED_ROOM[this.sharing()], shareTitle, shareDescription);
  });

  private cut(room: (typeof RESULT_ROOM)[Width] | (typeof SHARED_ROOM)[Sharing], title: string, description: string) {
    const measure = this.texts.measure();
    const whole = (text: string) => ({ text, isCut: false });
    return measure
      ? { title: cutTo(title, room.title, measure), description: cutTo(description, room.description, measure) }
      : { title: whole(title), description: whole(description) };
  }

  protected cutWords({ title, description }: ReturnType<ResultDrawings['cut']>): string {
    return [...(title.isCut ? [say.titleIsCut] : []), ...(description.isCut ? [say.descriptionIsCut] : [])].join(' ');
  }
}
