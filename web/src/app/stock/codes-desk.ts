import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import {
  CODE_LOADS,
  CODE_PLACES,
  CODE_PURPOSES,
  codeFromJSON,
  codeOnSite,
  LONGEST_SCRIPT,
  NEW_CODE,
  sourcesOf,
  type Code,
  type CodeReach,
} from '@domatium/core/codes';
import type { ChoicesMade } from '@domatium/core/traffic';
import { faultWords } from '@domatium/core/words';
import { say } from '@domatium/core/words/codes';
import { say as common } from '@domatium/core/words/common';
import { say as stockWords } from '@domatium/core/words/stock';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { onKeys } from '../shared/keys';
import { pastedCode } from './pasted-code';
import { DeskTrouble } from './desk-trouble';
import { LinesField, type ReadLines } from './lines-field';
import { ReachWords } from './reach-words';
import { ReachList } from './reach-list';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';

const bytesOf = (script: string) => new TextEncoder().encode(script).length;

/** Measurement and other code that runs on many pages: what, how, where, and what it costs. */
@Component({
  selector: 'dm-codes-desk',
  imports: [DeskTrouble, LinesField, ReachList, StockRelease],
  templateUrl: './codes-desk.html',
  styleUrls: ['./desk.scss', './metadata-desk.scss', './codes-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CodesDesk {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly stockWords = stockWords;
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly desk = inject(StockDesk);
  private readonly stock = inject(StockService);
  private readonly client = inject(Api);
  private readonly reaches = inject(ReachWords);
  protected readonly service = inject(RegisterService);
  protected readonly purposes = CODE_PURPOSES;
  protected readonly places = CODE_PLACES;
  protected readonly loads = CODE_LOADS;
  protected readonly longest = LONGEST_SCRIPT;
  /** Sources that were turned from, by what is open. */
  private readonly waiting = new Map<string, Code['source']>();
  private readonly chosenPages = new Map<number, readonly CodeReach[]>();
  /** What was pasted holds more than one script. */
  protected readonly isSeveral = signal(false);
  private readonly items = computed(() => (this.stock.items() ?? []).filter(({ kind }) => kind === 'code'));
  private readonly running = computed(
    () => new Map((this.stock.held()?.codes ?? []).map(({ id, code }) => [id, code])),
  );
  /** Each with what it is for and whether it runs. */
  protected readonly codes = computed(() =>
    this.items().map((one) => {
      const code = one.id === null ? undefined : this.running().get(one.id);
      const what = code ? say.purposes[code.purpose] : one.periods.length ? say.off : say.notReleased;
      const note = code && one.draftDiffers ? `${what} · ${stockWords.draftDiffers}` : what;
      return { ...one, note };
    }),
  );
  /** What runs at the shown moment, with where and what it weighs. */
  protected readonly table = computed(() =>
    this.items().flatMap(({ id, name, uses }) => {
      const code = id === null ? undefined : this.running().get(id);
      if (!code) return [];
      const { source } = code;
      return [
        {
          ...{ id, name, uses, purpose: say.purposes[code.purpose], where: this.whereWords(code) },
          weight: source.kind === 'script' ? this.bytes(bytesOf(source.script)) : say.elsewhere,
        },
      ];
    }),
  );
  protected readonly code = computed<Code | null>(() =>
    this.desk.draft() && this.desk.item()?.kind === 'code' ? (this.desk.draft() as Code) : null,
  );
  protected readonly dataLines = computed(() => this.code()?.data.map(({ name, value }) => `${name}=${value}`) ?? []);
  protected readonly cost = computed(() => {
    const code = this.code();
    if (!code) return '';
    const { source } = code;
    if (source.kind === 'script')
      return source.script.trim() ? say.weighs(this.bytes(bytesOf(source.script))) : say.notGivenYet;
    return URL.canParse(source.url) ? say.loadsElsewhere(new URL(source.url).host) : say.notGivenYet;
  });
  /** What browsers are told to allow on its pages. */
  protected readonly allowed = computed(() => {
    const code = this.code();
    if (!code) return [];
    const { source } = code;
    if (source.kind === 'address' && !URL.canParse(source.url)) return [];
    const src = source.kind === 'address' ? source.url : '/';
    const here = codeOnSite({ ...code, on: 'all', except: [] }, src, 0);
    const { script, connect } = sourcesOf(here ? [here] : []);
    return [
      ...(script.length ? [{ what: say.scriptsFrom, sources: script }] : []),
      ...(connect.length ? [{ what: say.talksTo, sources: connect }] : []),
    ];
  });

  protected readonly choices = signal<readonly ChoicesMade[]>([]);
  protected readonly choicesWords = computed(() =>
    this.choices().map(({ purpose, allowed, refused }) => {
      const [all, number] = [allowed + refused, (count: number) => count.toLocaleString('en-GB')];
      const percent = Math.round((100 * allowed) / all);
      return say.allowedOf(say.purposes[purpose], number(allowed), number(all), percent);
    }),
  );

  constructor() {
    effect(() => {
      const [portfolioId, isList] = [this.service.portfolioId(), this.item() === null];
      if (portfolioId && isList) untracked(() => void this.loadChoices(portfolioId));
    });
  }

  private async loadChoices(portfolioId: number): Promise<void> {
    try {
      this.choices.set(await this.client.call(api.choices, { params: { portfolioId } }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.desk.trouble.set(error.message);
    }
  }

  private whereWords({ on, except }: Code): string {
    const words = (reaches: readonly CodeReach[]) => reaches.map((reach) => this.reaches.words(reach)).join(', ');
    const where = on === 'all' ? say.onAll : words(on);
    return except.length ? say.whereExcept(where, words(except)) : where;
  }

  protected bytes(count: number): string {
    return count < 1024 ? `${count} B` : `${(count / 1024).toFixed(1)} KB`;
  }

  protected change(more: Partial<Code>): void {
    const code = this.code();
    if (code) this.desk.change({ ...code, ...more });
  }

  /** The other source waits, so that turning to it and back loses nothing. */
  protected turn(kind: Code['source']['kind']): void {
    const [source, id] = [this.code()?.source, this.desk.item()?.id];
    if (!source || source.kind === kind) return;
    this.waiting.set(`${id} ${source.kind}`, source);
    const empty: Code['source'] = kind === 'address' ? { kind, url: '' } : { kind, script: '' };
    this.change({ source: this.waiting.get(`${id} ${kind}`) ?? empty });
  }

  /** A script, or a whole element as others hand it out: what it says is taken from it. */
  protected typeScript(text: string): void {
    const read = pastedCode(text);
    this.isSeveral.set(read === 'several');
    if (read === null || read === 'several') this.change({ source: { kind: 'script', script: text } });
    else this.change(read);
  }

  private readonly keys = onKeys({ undo: () => this.desk.undo(), redo: () => this.desk.redo() });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    this.keys(event);
  }

  /** The pages that were chosen wait while it runs on all. */
  protected limit(isAll: boolean): void {
    const [on, id] = [this.code()?.on, this.desk.item()?.id ?? 0];
    if (!on || (on === 'all') === isAll) return;
    if (on !== 'all') this.chosenPages.set(id, on);
    this.change({ on: isAll ? 'all' : (this.chosenPages.get(id) ?? []) });
  }

  protected setOn(on: readonly CodeReach[]): void {
    this.change({ on });
  }

  private reading<Key extends 'data' | 'hosts'>(key: Key, json: unknown): ReturnType<ReadLines<Code[Key]>> {
    const read = codeFromJSON({ ...(this.code() ?? NEW_CODE), [key]: json });
    const fault = read.ok ? undefined : read.faults.find(({ path }) => path.startsWith(key));
    if (fault) {
      const [, line] = /\[(\d+)\]/.exec(fault.path) ?? [];
      const why = faultWords(fault);
      return { wrong: line === undefined ? why : say.lineIs(Number(line) + 1, why) };
    }
    return { value: read.ok ? read.value[key] : (json as Code[Key]) };
  }

  protected readonly readHosts: ReadLines<Code['hosts']> = (lines) => this.reading('hosts', lines);
  protected readonly readData: ReadLines<Code['data']> = (lines) => {
    const pairs = lines.map((line) => /^([^=]*)=(.*)$/.exec(line));
    const odd = pairs.indexOf(null);
    if (odd >= 0) return { wrong: say.lineIs(odd + 1, `${say.oneParameter}.`) };
    return this.reading(
      'data',
      pairs.map((pair) => ({ name: pair?.[1]?.trim() ?? '', value: pair?.[2]?.trim() ?? '' })),
    );
  };

  protected async makeNew(): Promise<void> {
    const id = await this.desk.make({ kind: 'code', name: say.newCode, content: NEW_CODE });
    if (id) this.go.emit(id);
  }

  protected async removeCode(): Promise<void> {
    if (await this.desk.remove()) this.go.emit(null);
  }
}
