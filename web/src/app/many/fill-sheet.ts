import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { Filled, FilledPage, FillingView, NotFilled } from '@domatium/contracts';
import { METADATA_TEXTS, type Robots } from '@domatium/core/document';
import { DESCRIPTION_SHOWN, PATTERN_NAMES, TITLE_SHOWN, wholeTitle } from '@domatium/core/metadata';
import { groupBy } from '@domatium/core/plan';
import { lengthOf } from '@domatium/core/text';
import { OWN_VALUES } from '@domatium/core/stock';
import { METADATA_LABELS } from '@domatium/core/words';
import { say } from '@domatium/core/words/many';
import { say as search } from '@domatium/core/words/metadata';
import { api, Api } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { RobotsFields } from '../search/robots-fields';
import { robotsWords } from '../search/said-words';
import { WideSheet } from '../shared/wide-sheet';
import { ManyDrafts, type AskOfDrafts } from './many-drafts';
import { MoreInDrafts } from './more-in-drafts';

/** As long as somebody types on. */
const PAUSE = 250;
const REASONS: readonly NotFilled[] = ['missing', 'has-own', 'same', 'too-long'];

/** Titles, descriptions, or what is asked of search engines, for all chosen pages: by a pattern, seen before on each. */
@Component({
  selector: 'dm-fill-sheet',
  imports: [MoreInDrafts, RobotsFields, WideSheet],
  providers: [ManyDrafts],
  templateUrl: './fill-sheet.html',
  styleUrls: ['./place-sheet.scss', './fill-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FillSheet {
  protected readonly say = say;
  protected readonly place = inject(PlaceService);
  protected readonly drafts = inject<ManyDrafts<FillingView>>(ManyDrafts);
  private readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');

  protected readonly choices: readonly { readonly what: Filled; readonly label: string }[] = [
    ...METADATA_TEXTS.map((what) => ({ what, label: METADATA_LABELS[what] })),
    { what: 'robots', label: search.searchResults },
  ];
  protected readonly what = signal<Filled>('title');
  protected readonly pattern = signal('');
  protected readonly most = signal<number | null>(null);
  protected readonly robots = signal<Robots>({ noindex: true });
  protected readonly over = signal(false);
  /** What can be put in: all but what the text is itself. */
  protected readonly names = computed(() => {
    const own = `page ${this.what()}`;
    return [...PATTERN_NAMES.filter((name) => name !== own), ...OWN_VALUES];
  });

  protected readonly ask = computed<AskOfDrafts<FillingView> | null>(() => {
    const what = this.what();
    if (what !== 'robots' && !this.pattern().trim()) return null;
    const filling = {
      ...{ what, pattern: this.pattern(), most: this.most(), over: this.over() },
      robots: what === 'robots' ? this.robots() : null,
    };
    const params = { portfolioId: this.service.portfolioId() };
    return (pageIds, seen) =>
      this.client.call(api.fillDrafts, {
        params,
        body: { ...filling, pageIds: [...pageIds], seen: seen && [...seen] },
      });
  });
  /** Who takes no part, and why. */
  protected readonly left = computed(() => {
    const out = this.drafts.view()?.out ?? [];
    const groups = REASONS.flatMap((why) =>
      [
        ...groupBy(
          out.filter((one) => one.why === why),
          ({ missing = '' }) => missing,
        ),
      ].map(([missing, those]) => ({ why, missing, those })),
    );
    return groups.map(({ why, missing, those }) =>
      say.notFilled[why](
        those.length,
        those.map(({ name }) => name),
        missing,
      ),
    );
  });

  constructor() {
    let pause: ReturnType<typeof setTimeout> | undefined;
    effect((ended) => {
      const ask = this.ask();
      pause = setTimeout(() => untracked(() => void this.drafts.look(ask)), PAUSE);
      ended(() => clearTimeout(pause));
    });
  }

  protected words(said: FilledPage['before']): string {
    return typeof said === 'string' ? said : said ? robotsWords(said) : '';
  }

  /** How long a text is where only so much is shown. */
  protected lengthWords({ after: said, around }: FilledPage): string | null {
    if (typeof said !== 'string') return null;
    const { before = '', after = '' } = around ?? {};
    const whole = wholeTitle(said, { titleBefore: before, titleAfter: after });
    const isTitle = this.what() === 'title' || this.what() === 'shareTitle';
    return say.lengthOf(lengthOf(whole), isTitle ? TITLE_SHOWN : DESCRIPTION_SHOWN);
  }

  /** A name where one types. */
  protected insert(name: string): void {
    const element = this.field()?.nativeElement;
    if (!element) return;
    element.focus();
    element.setRangeText(`{${name}}`, element.selectionStart, element.selectionEnd, 'end');
    this.pattern.set(element.value);
  }
}
