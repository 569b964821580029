import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { api, copyBody, mayAct, type CopyPreview } from '@domatium/contracts';
import type { RegisterRow } from '@domatium/core/register';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { SessionService } from '../hub/session.service';
import { Api, Cancelled, Refusal, type PartOf, type SentTo } from '../hub/api';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { Work, WorkBar } from '../shared/work';
import { PlaceService } from '../hub/place.service';
import { spreadWords } from '../many/spread';
import { say } from '@domatium/core/words/copies';
import { say as common } from '@domatium/core/words/common';

const PAUSE = 200;
const LISTED = 40;

type Kind = 'page' | 'picture';
interface Choosing {
  readonly choice: 'copy' | 'use' | 'leave';
  /** What is used instead, where something is. */
  readonly useId: number | null;
}
interface Named {
  readonly id: number;
  readonly name: string;
}
const NOTHING: Record<Kind, readonly Named[]> = { page: [], picture: [] };

interface TargetSite {
  readonly id: number;
  readonly name: string;
  readonly host: string;
}

/** Copies pages: says what each copy is called, where it lies, what its links lead to and what is missing there. */
@Component({
  selector: 'dm-copy-sheet',
  imports: [WideSheet, WorkBar],
  templateUrl: './copy-sheet.html',
  styleUrl: './copy-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CopySheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly session = inject(SessionService);
  private readonly selection = inject(SelectionService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  private readonly router = inject(Router);
  protected readonly pages = signal<readonly RegisterRow[]>([]);
  protected readonly targetId = signal(this.service.portfolioId());
  protected readonly siteId = signal<number | null>(null);
  protected readonly sites = signal<readonly TargetSite[]>([]);
  protected readonly names = signal('{name}, copy');
  protected readonly paths = signal('{path}-copy');
  protected readonly withPeriods = signal(false);
  protected readonly choices = signal<ReadonlyMap<string, Choosing>>(new Map());
  /** What the other portfolio has already. */
  protected readonly there = signal(NOTHING);
  protected readonly preview = signal<CopyPreview | null>(null);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly work = signal<Work | null>(null);
  private hasPatterns = false;
  private asked = 0;

  protected readonly targets = computed(() =>
    (this.session.session()?.portfolios ?? []).filter(({ role }) => mayAct(role, 'write')),
  );
  protected readonly isElsewhere = computed(() => this.targetId() !== this.service.portfolioId());
  protected readonly body = computed(() => ({
    pages: this.pages().map(({ id }) => id),
    target: { portfolioId: this.targetId(), siteId: this.siteId() },
    names: this.names(),
    paths: this.paths(),
    withPeriods: this.withPeriods(),
    missing: (this.preview()?.missing ?? []).map(({ kind, id }) => ({
      kind,
      id,
      ...this.choiceOf(kind, id),
    })),
  }));
  /** What is asked for; choices of what is missing do not change the answer. */
  private readonly question = computed(() => ({
    pages: this.pages().map(({ id }) => id),
    target: { portfolioId: this.targetId(), siteId: this.siteId() },
    names: this.names(),
    paths: this.paths(),
    withPeriods: this.withPeriods(),
  }));
  protected readonly listed = computed(() => this.preview()?.pages.slice(0, LISTED) ?? []);
  protected readonly faulty = computed(() => this.preview()?.pages.filter(({ fault }) => fault !== null).length ?? 0);
  protected readonly periods = computed(
    () => this.preview()?.pages.reduce((sum, page) => sum + page.periods.length, 0) ?? 0,
  );
  protected readonly lead = computed(() => say.copiesAreDraftsNothingOfThem(spreadWords(this.pages())));
  protected readonly what = computed(() =>
    this.pages().length === 1 ? (this.pages()[0]?.name ?? '') : say.pages(this.pages().length.toLocaleString('en-GB')),
  );

  constructor() {
    const open = this.place.pageId();
    void this.take(open === null ? [...this.selection.ids()] : [open]);
    effect(() => {
      const [target, head] = [this.targetId(), this.service.head()];
      untracked(() => {
        if (target === this.service.portfolioId())
          this.sites.set((head?.sites ?? []).map(({ id, name, host }) => ({ id, name, host })));
        else void this.sitesOf(target);
      });
    });
    effect((cleanUp) => {
      const question = this.question();
      this.service.version();
      const number = ++this.asked;
      const errors = errorsOf(copyBody, question);
      if (this.isElsewhere() && question.target.siteId === null)
        return this.fail({ 'target.siteId': say.chooseASiteOfThatPortfolio });
      if (Object.keys(errors).length) return this.fail(question.pages.length ? errors : {});
      const timer = setTimeout(() => void this.ask(number, question), PAUSE);
      cleanUp(() => clearTimeout(timer));
    });
  }

  /** The open page, the chosen ones, or all of the site one is at. */
  private async take(ids: readonly number[]): Promise<void> {
    const scope = this.place.scope();
    await this.service.ready();
    const all =
      ids.length || scope?.kind !== 'site' ? ids : await this.service.desk.ofScope(scope, this.service.shown());
    this.pages.set(await this.service.rowsOf(all));
  }

  /** A page that others link to comes along as one more of the copied. */
  protected async takeAlso(id: number): Promise<void> {
    const rows = await this.service.rowsOf([id]);
    this.pages.update((pages) => [...pages, ...rows]);
  }

  private fail(errors: FieldErrors): void {
    this.errors.set(errors);
    this.preview.set(null);
  }

  private async ask(number: number, body: PartOf<typeof api.copyPreview>): Promise<void> {
    const params = { portfolioId: this.service.portfolioId() };
    try {
      const preview = await this.client.call(api.copyPreview, { params, body: body as SentTo<typeof api.copyPreview> });
      if (number !== this.asked) return;
      this.preview.set(preview);
      this.errors.set({});
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (number === this.asked) this.fail(errorsIn(error));
    }
  }

  private async sitesOf(portfolioId: number): Promise<void> {
    try {
      const register = await this.client.call(api.register, { params: { portfolioId }, query: {} });
      this.sites.set(
        register.columns.sites.map(({ id, name, addresses }) => ({ id, name, host: addresses.at(-1)?.host ?? '' })),
      );
      const { ids, names } = register.columns;
      const page = ids.map((id, row) => ({ id, name: names[row] ?? '' }));
      const picture = await this.client.call(api.pictures, { params: { portfolioId } });
      const byName = (a: Named, b: Named) => a.name.localeCompare(b.name);
      this.there.set({ page: page.sort(byName), picture: picture.map(({ id, name }) => ({ id, name })).sort(byName) });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.fail(errorsIn(error));
    }
  }

  protected setTarget(portfolioId: number): void {
    this.targetId.set(portfolioId);
    this.setSite(null);
  }

  /** Elsewhere names and paths can stay as they are. */
  protected setSite(siteId: number | null): void {
    this.siteId.set(siteId);
    if (this.hasPatterns) return;
    const isOther = siteId !== null && !this.pages().some((page) => page.siteId === siteId);
    this.names.set(isOther ? '{name}' : '{name}, copy');
    this.paths.set(isOther ? '{path}' : '{path}-copy');
  }

  protected setPattern(which: 'names' | 'paths', value: string): void {
    this.hasPatterns = true;
    this[which].set(value);
  }

  /** Pictures come along unless one says otherwise. */
  protected choiceOf(kind: Kind, id: number): Choosing {
    return this.choices().get(`${kind} ${id}`) ?? { choice: kind === 'picture' ? 'copy' : 'leave', useId: null };
  }

  protected choose(kind: Kind, { id, name }: Named, choice: string): void {
    if (choice === 'also') return void this.takeAlso(id);
    const there = this.there()[kind];
    const twin = there.find((one) => one.name === name) ?? there[0];
    if (choice === 'use' && twin) this.use(kind, id, twin.id);
    else this.setChoice(kind, id, { choice: choice === 'copy' ? 'copy' : 'leave', useId: null });
  }

  protected use(kind: Kind, id: number, useId: number): void {
    this.setChoice(kind, id, { choice: 'use', useId });
  }

  private setChoice(kind: Kind, id: number, choice: Choosing): void {
    this.choices.update((all) => new Map(all).set(`${kind} ${id}`, choice));
  }

  protected async go(): Promise<void> {
    if (this.work()) return;
    const work = new Work(this.service.events);
    this.work.set(work);
    const [portfolioId, target] = [this.service.portfolioId(), this.targetId()];
    try {
      const { pages, preparedId } = await this.client.call(
        api.copy,
        { params: { portfolioId }, body: this.body() as PartOf<typeof api.copy> as SentTo<typeof api.copy> },
        work,
      );
      const count = pages.length === 1 ? say.onePage : say.pages(pages.length.toLocaleString('en-GB'));
      this.notices.say({
        kind: 'done',
        text: say.copied(count, preparedId === null ? '' : say.itsPeriodsAreAPreparedRelease),
        action: {
          label: preparedId === null ? say.seeThem : say.seeThePreparedRelease,
          run: () =>
            void this.router.navigate(['/portfolios', target, 'pages'], {
              queryParams: preparedId === null ? { state: 'draft', sort: 'changed:desc' } : { panel: 'prepared' },
            }),
        },
      });
      this.selection.clear();
      this.place.go({ panel: null });
    } catch (error) {
      if (error instanceof Cancelled) this.notices.say({ kind: 'done', text: say.cancelledNothingWasCopied });
      else if (error instanceof Refusal) this.errors.set(errorsIn(error));
      else throw error;
    } finally {
      work.end();
      this.work.set(null);
    }
  }
}

function errorsIn(error: Refusal): FieldErrors {
  const fields = error.problem.fields ?? [];
  return fields.length
    ? Object.fromEntries(fields.map(({ path, message }): [string, string] => [path, message]))
    : { whole: error.message };
}
