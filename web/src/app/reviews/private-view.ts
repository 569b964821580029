import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { api, remarkBody, type PrivatePage, type PrivateView, type RemarkKind } from '@domatium/contracts';
import { blockWords } from '@domatium/core/document';
import { worldOf } from '@domatium/core/render';
import { valueMap, yearValues } from '@domatium/core/stock';
import { THEMES } from '@domatium/core/theme';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { Canvas, type CanvasWidth } from '../editor/canvas';
import { tried } from '../hub/answer';
import { Api, Refusal } from '../hub/api';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { RemarkAnswers } from '../remarks/remark-answers';
import { say } from '@domatium/core/words/reviews';
import { say as common } from '@domatium/core/words/common';

const NARROW = '(max-width: 760px)';
const SAID: Record<RemarkKind, string> = { fine: say.fine, change: say.pleaseChangeSmall, remark: say.remarkSmall };

/** What a private link opens: its pages as their drafts have them, and a place to say what one thinks. */
@Component({
  selector: 'dm-private-view',
  imports: [Canvas, RemarkAnswers],
  templateUrl: './private-view.html',
  styleUrl: './private-view.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PrivateLink {
  protected readonly say = say;
  protected readonly common = common;
  readonly token = input.required<string>();
  private readonly client = inject(Api);
  private readonly title = inject(Title);
  protected readonly view = signal<PrivateView | null>(null);
  protected readonly page = signal<PrivatePage | null>(null);
  protected readonly wantsPassword = signal(false);
  protected readonly trouble = signal<string | null>(null);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly isBusy = signal(false);
  protected readonly said = signal<string | null>(null);
  protected readonly width = signal<CanvasWidth>(matchMedia(NARROW).matches ? 'narrow' : 'wide');
  protected readonly chosen = signal<string | null>(null);
  protected readonly text = signal('');
  protected readonly name = signal(localStorage.getItem('reviewer') ?? '');

  protected readonly until = computed(() => {
    const view = this.view();
    return view ? writeEnd(view.endsAt as Instant, view.zone, Date.now() as Instant) : '';
  });
  protected readonly theme = computed(() => this.page()?.theme ?? THEMES.ferry);
  protected readonly chosenWords = computed(() => {
    const block = this.page()?.document.blocks.find(({ id }) => id === this.chosen());
    return block ? blockWords(block) : null;
  });
  /** Links lead nowhere here; they only look as they will. */
  protected readonly links = computed(() => {
    const page = this.page();
    const pictures = new Map(page?.pictures.map((picture) => [picture.id, picture]));
    const files = new Map(page?.files.map((file) => [file.id, file]));
    const pieces = new Map(page?.pieces.map(({ id, blocks }) => [id, blocks]));
    const titles = new Map(page?.titles);
    const year = new Date().getFullYear();
    return worldOf({
      pageHref: () => '#',
      titleOf: (id) => titles.get(id) ?? null,
      ...(page ? { parts: page.parts, waysAround: { nav: page.nav, pageId: page.id } } : {}),
      pictureOf: (id) => pictures.get(id) ?? null,
      fileOf: (id) => files.get(id) ?? null,
      pieceOf: (id) => pieces.get(id) ?? null,
      end: page?.endsAt ? { at: page.endsAt, zone: this.view()?.zone ?? 'UTC' } : null,
      isPast: (at) => at <= Date.now(),
      language: page?.language ?? 'en',
      values: valueMap(yearValues(year, page?.brand ?? ''), page?.values ?? []),
    });
  });

  constructor() {
    effect(() => {
      this.token();
      untracked(() => void this.look());
    });
    effect(() => this.title.setTitle(say.privateWithName(this.view()?.name ?? say.private)));
  }

  private async look(): Promise<void> {
    try {
      const view = await this.client.call(api.privateView, { params: { token: this.token() } });
      this.view.set(view);
      this.wantsPassword.set(false);
      this.trouble.set(view.pages.length ? null : say.thisLinkNoLongerLeadsTo);
      const [first] = view.pages;
      if (first) await this.open(first.id);
    } catch (error) {
      this.failed(error);
    }
  }

  protected async unlock(password: string): Promise<void> {
    const answer = await tried(() =>
      this.client.call(api.openPrivate, { params: { token: this.token() }, body: { password } }),
    );
    this.errors.set('errors' in answer ? answer.errors : {});
    if ('value' in answer) await this.look();
  }

  protected async open(pageId: number): Promise<void> {
    try {
      const page = await this.client.call(api.privatePage, { params: { token: this.token(), pageId } });
      if (pageId !== this.page()?.id) this.chosen.set(null);
      this.page.set(page);
    } catch (error) {
      this.failed(error);
    }
  }

  private failed(error: unknown): void {
    if (!(error instanceof Refusal)) throw error;
    this.wantsPassword.set(error.code === 'password-needed');
    this.trouble.set(error.code === 'password-needed' ? null : error.message);
  }

  protected keepName(name: string): void {
    this.name.set(name);
    localStorage.setItem('reviewer', name);
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.view()?.zone ?? 'UTC', Date.now() as Instant);
  }

  protected readonly write = (at: number) => this.written(at);

  protected async answer(remarkId: number, text: string): Promise<void> {
    const params = { token: this.token(), remarkId };
    const answer = await tried(() =>
      this.client.call(api.answerPrivately, { params, body: { text, name: this.name() } }),
    );
    this.errors.set('errors' in answer ? answer.errors : {});
    const page = this.page();
    if (page) await this.open(page.id);
  }

  protected saidWords(kind: RemarkKind): string {
    return SAID[kind];
  }

  protected async send(kind: RemarkKind): Promise<void> {
    const page = this.page();
    if (!page || this.isBusy()) return;
    const blockId = kind === 'fine' ? null : this.chosen();
    const body = { kind, text: this.text(), name: this.name(), blockId, draftVersion: page.draftVersion };
    const wrong = errorsOf(remarkBody, body);
    this.errors.set(wrong);
    this.said.set(null);
    if (Object.keys(wrong).length) return;
    this.isBusy.set(true);
    const params = { token: this.token(), pageId: page.id };
    const answer = await tried(() => this.client.call(api.sayRemark, { params, body })).finally(() =>
      this.isBusy.set(false),
    );
    this.errors.set('errors' in answer ? answer.errors : {});
    if ('value' in answer) {
      this.said.set(kind === 'fine' ? say.saidFine : say.commentSentToThePersonWho);
      this.text.set('');
      this.chosen.set(null);
    }
    await this.open(page.id);
  }
}
