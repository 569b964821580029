import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { FileUses, FileView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { refusalOf } from '../hub/answer';
import { api, Api } from '../hub/api';
import { BringIn } from './bring-in';
import { DeleteIt } from './delete-it';
import { FilesService } from './files.service';
import { PicturesService, writeBytes } from './pictures.service';
import { reachWords } from './reach-words';
import { Uploads } from './uploads';
import { WhereUsed } from './where-used';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

/** What people call the kinds of files, by their endings. */
const KINDS: Readonly<Record<string, string>> = {
  pdf: say.document,
  mp4: say.film,
  webm: say.film,
  ics: say.calendar,
  vtt: say.captions,
  woff2: say.font,
};

/** Files that are no pictures: found by name and kind, with where they are used, replaced wherever they are. */
@Component({
  selector: 'dm-files-desk',
  imports: [BringIn, DeleteIt, Uploads, WhereUsed],
  templateUrl: './files-desk.html',
  styleUrls: ['../stock/desk.scss', './files-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilesDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly pictures = inject(PicturesService);
  protected readonly service = inject(RegisterService);
  private readonly files = inject(FilesService);
  private readonly client = inject(Api);
  protected readonly text = signal('');
  protected readonly kind = signal<string | null>(null);
  protected readonly uses = signal<FileUses | null>(null);
  protected readonly trouble = signal<string | null>(null);
  /** What is to take the place of the one that is open: a file that is brought in, or another of the portfolio. */
  protected readonly fresh = signal<File | FileView | null>(null);
  protected readonly kinds = computed(() => {
    const counts = new Map<string, number>();
    for (const file of this.pictures.files()) counts.set(kindOf(file), (counts.get(kindOf(file)) ?? 0) + 1);
    return [...counts].map(([words, count]) => ({ words, count })).sort((a, b) => a.words.localeCompare(b.words));
  });
  protected readonly shelf = computed(() => {
    const [words, kind] = [this.text().toLowerCase().split(/\s+/).filter(Boolean), this.kind()];
    return this.pictures
      .files()
      .filter(
        (file) => (!kind || kindOf(file) === kind) && words.every((word) => file.name.toLowerCase().includes(word)),
      );
  });
  protected readonly file = computed(() => this.pictures.files().find(({ id }) => id === Number(this.item())) ?? null);
  /** Those that could take its place. */
  protected readonly others = computed(() => {
    const file = this.file();
    return this.pictures.files().filter(({ id, ending }) => id !== file?.id && ending === file?.ending);
  });
  protected readonly themes = computed(() =>
    (this.uses()?.themes ?? []).map(({ name }) => ({ name, what: say.themeAsItsFont })),
  );
  protected readonly reach = computed(() => {
    const uses = this.uses();
    return uses ? reachWords(uses, say.inAMoment) : say.checkingWhereItIsUsed;
  });

  private readonly opened = computed(() => this.file()?.id ?? null);

  constructor() {
    effect(() => {
      this.opened();
      untracked(() => {
        this.trouble.set(null);
        this.fresh.set(null);
        this.uses.set(null);
      });
    });
    effect(() => {
      const file = this.file();
      untracked(() => file && void this.look(file.id));
    });
  }

  private params(fileId: number) {
    return { portfolioId: this.service.portfolioId(), fileId };
  }

  private async look(id: number): Promise<void> {
    const uses = await this.files.usesOf(id);
    if (this.file()?.id === id) this.uses.set(uses);
  }

  protected kindOf(file: FileView): string {
    return kindOf(file);
  }
  protected size(bytes: number): string {
    return writeBytes(bytes);
  }
  protected bytesOf(fresh: File | FileView): number {
    return fresh instanceof File ? fresh.size : fresh.bytes;
  }
  protected choose(id: string): void {
    this.fresh.set(this.others().find((other) => other.id === Number(id)) ?? null);
  }
  protected acceptOf({ ending }: FileView): string {
    return `.${ending}`;
  }

  protected async bring(files: readonly File[]): Promise<void> {
    for (const file of files) {
      const received = await this.pictures.bring(file);
      if (received?.file && files.length === 1) this.go.emit(received.file.id);
    }
  }

  protected async rename(name: string): Promise<void> {
    const file = this.file();
    if (!file) return;
    const body = { version: file.version, name };
    this.trouble.set(await refusalOf(() => this.client.call(api.setFile, { params: this.params(file.id), body })));
  }

  protected async replace(): Promise<void> {
    const [file, fresh] = [this.file(), this.fresh()];
    this.fresh.set(null);
    if (file && fresh) await this.files.replace(file, fresh);
  }

  protected putBack(): void {
    const file = this.file();
    if (file) void this.files.putBack(file.id);
  }

  /** What can’t be looked up counts as used. */
  protected readonly isUsed = async (): Promise<boolean> => {
    const file = this.file();
    const uses = file && (await this.files.usesOf(file.id));
    return !uses || uses.count + uses.pieces.length + uses.themes.length > 0;
  };

  protected async remove(): Promise<void> {
    const file = this.file();
    if (!file) return;
    const refusal = await refusalOf(() => this.client.call(api.deleteFile, { params: this.params(file.id) }));
    this.trouble.set(refusal);
    if (!refusal) this.go.emit(null);
  }
}

const kindOf = ({ ending }: FileView) => KINDS[ending] ?? common.text;
