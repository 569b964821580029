import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  api,
  IMPORT_FIELDS,
  MOST_ROWS,
  type ImportField,
  type ImportResult,
  type ImportRow,
} from '@domatium/contracts';
import { decodeText, delimiterOf, guessFields } from '@domatium/core/exchange';
import { parse } from 'csv-parse/browser/esm/sync';
import { RegisterService } from '../hub/register.service';
import { ReleasingService } from '../releases/releasing.service';
import { Api, Cancelled, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { Work, WorkBar } from '../shared/work';
import { PlaceService } from '../hub/place.service';
import { METADATA_LABELS } from '@domatium/core/words';
import { say } from '@domatium/core/words/imports';
import { say as common } from '@domatium/core/words/common';

const LABELS: Record<ImportField, string> = {
  id: say.id,
  name: say.nameOfPage,
  site: say.site,
  path: say.pathOrAddress,
  ...METADATA_LABELS,
  robots: say.robots,
  labels: say.labels,
  campaign: say.campaign,
  owner: say.owner,
  from: say.liveFrom,
  until: say.liveUntil,
  afterwards: say.afterwards,
  further: say.furtherPeriods,
};
const ACTS: Record<ImportResult['act'], string> = {
  create: say.isNew,
  change: say.isChange,
  same: say.asItIs,
  wrong: say.isWrong,
};
const LISTED = 200;
const WIDEST = 200;

interface Table {
  readonly file: string;
  readonly encoding: string;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** Pages from a CSV file: columns mapped with a guess, every row previewed, only what is confirmed applied. */
@Component({
  selector: 'dm-import-sheet',
  imports: [WideSheet, WorkBar],
  templateUrl: './import-sheet.html',
  styleUrl: './import-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportSheet {
  protected readonly say = say;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly releasing = inject(ReleasingService);
  private readonly notices = inject(NoticeService);
  protected readonly fields = IMPORT_FIELDS;
  protected readonly labels = LABELS;
  protected readonly acts = ACTS;
  protected readonly table = signal<Table | null>(null);
  protected readonly mapping = signal<readonly (ImportField | null)[]>([]);
  protected readonly results = signal<readonly ImportResult[] | null>(null);
  protected readonly leftOut = signal<ReadonlySet<number>>(new Set());
  protected readonly error = signal<string | null>(null);
  protected readonly work = signal<Work | null>(null);
  private key = crypto.randomUUID();

  protected readonly missing = computed(() =>
    this.mapping().includes('path') || this.mapping().includes('site') ? null : say.chooseWhichColumnIsTheSite,
  );
  protected readonly rows = computed<ImportRow[]>(() =>
    (this.table()?.rows ?? []).map((cells, index) => {
      const empty = Object.fromEntries(IMPORT_FIELDS.map((field) => [field, ''])) as Record<ImportField, string>;
      this.mapping().forEach((field, column) => {
        if (field) empty[field] = (cells[column] ?? '').trim();
      });
      return { line: index + 2, ...empty };
    }),
  );
  protected readonly counts = computed(() => {
    const counts = { create: 0, change: 0, same: 0, wrong: 0 };
    for (const { act } of this.results() ?? []) counts[act]++;
    return counts;
  });
  /** Wrong rows first: they want a look; then in the order of the file. */
  protected readonly listed = computed(() =>
    [...(this.results() ?? [])]
      .sort((a, b) => Number(b.act === 'wrong') - Number(a.act === 'wrong') || a.line - b.line)
      .slice(0, LISTED),
  );
  protected readonly confirmed = computed(() =>
    (this.results() ?? []).filter(({ act, line }) => act !== 'wrong' && act !== 'same' && !this.leftOut().has(line)),
  );
  protected readonly label = computed(() => {
    const creates = this.confirmed().filter(({ act }) => act === 'create').length;
    const changes = this.confirmed().length - creates;
    const parts = [
      ...(creates ? [say.make(creates === 1 ? common.onePage : say.pages(creates.toLocaleString('en-GB')))] : []),
      ...(changes ? [say.change(changes.toLocaleString('en-GB'))] : []),
    ].join(' and ');
    return parts ? parts.charAt(0).toUpperCase() + parts.slice(1) : say.nothingToDo;
  });
  protected readonly touches = computed(() => {
    const lines = new Set(this.confirmed().map(({ line }) => line));
    return this.rows().filter(
      ({ line, from, afterwards, further }) => lines.has(line) && (from || afterwards || further),
    ).length;
  });

  protected async choose(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.results.set(null);
    this.leftOut.set(new Set());
    this.error.set(null);
    this.table.set(null);
    try {
      const { text, encoding } = decodeText(new Uint8Array(await file.arrayBuffer()));
      const all = parse(text, {
        delimiter: delimiterOf(text),
        relax_column_count: true,
        skip_empty_lines: true,
        to: MOST_ROWS + 2,
      }) as unknown as string[][];
      const [head = [], ...rows] = all;
      if (rows.length > MOST_ROWS) return this.error.set(say.tooManyRows(MOST_ROWS.toLocaleString('en-GB')));
      if (!rows.length) return this.error.set(say.noRows);
      this.table.set({ file: file.name, encoding, head: head.slice(0, WIDEST), rows });
      this.mapping.set(guessFields(head.slice(0, WIDEST)));
      if (!this.missing()) await this.preview();
    } catch (error) {
      const where = error instanceof Error && 'lines' in error ? say.nearLine(String(error.lines)) : '';
      this.error.set(say.cantBeReadAsCsv(where));
    }
  }

  protected setField(column: number, value: string): void {
    const field = IMPORT_FIELDS.find((one) => one === value) ?? null;
    this.mapping.update((all) =>
      all.map((old, index) => (index === column ? field : field !== null && old === field ? null : old)),
    );
    this.results.set(null);
  }

  protected toggle(line: number): void {
    this.leftOut.update((all) => new Set(all.has(line) ? [...all].filter((one) => one !== line) : [...all, line]));
    this.key = crypto.randomUUID();
  }

  protected async preview(): Promise<void> {
    await this.run(async (work) => {
      const body = { rows: this.rows() };
      const answer = await this.client.call(api.importPreview, { params: this.params(), body }, work);
      this.key = crypto.randomUUID();
      this.results.set(answer.rows);
    });
  }

  protected async apply(): Promise<void> {
    const lines = new Set(this.confirmed().map(({ line }) => line));
    const body = { rows: this.rows().filter(({ line }) => lines.has(line)), idempotencyKey: this.key };
    await this.run(async (work) => {
      const { created, changed, releaseId } = await this.client.call(
        api.importRows,
        { params: this.params(), body },
        work,
      );
      this.notices.say({
        kind: 'done',
        text: say.pagesMadeChanged(created, changed, releaseId === null ? '' : say.whatVisitorsGetIsOneRelease),
        ...(releaseId === null
          ? {}
          : { action: { label: say.undoTheRelease, run: () => void this.releasing.undo(releaseId) } }),
      });
      this.place.go({ panel: null });
    });
  }

  private async run(job: (work: Work) => Promise<void>): Promise<void> {
    if (this.work()) return;
    const work = new Work(this.service.events);
    this.work.set(work);
    this.error.set(null);
    try {
      await job(work);
    } catch (error) {
      if (error instanceof Cancelled) this.error.set(say.cancelledNothingHasChanged);
      else if (error instanceof Refusal) {
        const [first] = error.problem.fields ?? [];
        this.error.set(first ? `${first.path}: ${first.message}` : error.message);
      } else throw error;
    } finally {
      work.end();
      this.work.set(null);
    }
  }

  private params() {
    return { portfolioId: this.service.portfolioId() };
  }
}
