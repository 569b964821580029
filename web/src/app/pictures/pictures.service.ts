import { computed, inject, Injectable, signal } from '@angular/core';
import type { Crop, FileView, PictureUses, PictureView, Received } from '@domatium/contracts';
import { filter, throttleTime } from 'rxjs';
import { RegisterService } from '../hub/register.service';
import { refusalOf, tried } from '../hub/answer';
import { api, Api, Cancelled, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

/** A file on its way in. */
export interface Upload {
  readonly key: number;
  readonly name: string;
  /** How much of it has gone, 0 to 1. */
  readonly share: number;
  /** Why it was refused, in words. */
  readonly refusal: string | null;
}

/** As many go at a time: the others wait their turn. */
const AT_ONCE = 2;
/** A picture should weigh no more than this on the widest screen, in bytes. */
export const PICTURE_BUDGET = 200 * 1024;

/** The portfolio's pictures and files: kept true by the server's events; new ones go in one after the other. */
@Injectable({ providedIn: 'root' })
export class PicturesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);
  private portfolioId = 0;
  private count = 0;
  private going = 0;
  private readonly waiting: (() => Promise<void>)[] = [];
  private readonly aborts = new Map<number, AbortController>();

  readonly pictures = signal<readonly PictureView[]>([]);
  readonly files = signal<readonly FileView[]>([]);
  readonly uploads = signal<readonly Upload[]>([]);
  /** Pictures that are not parts of others: what stands on the shelf. */
  readonly whole = computed(() => this.pictures().filter(({ ofId }) => ofId === null));
  readonly byId = computed(() => new Map(this.pictures().map((picture) => [picture.id, picture])));

  constructor() {
    this.register.events
      .pipe(
        filter(({ kind }) => kind === 'picture' || kind === 'again'),
        // Sizes of many pictures may be made meanwhile: the list follows now and then.
        throttleTime(700, undefined, { leading: true, trailing: true }),
      )
      .subscribe(() => void this.load());
  }

  async open(portfolioId: number): Promise<void> {
    if (this.portfolioId !== portfolioId) {
      this.pictures.set([]);
      this.files.set([]);
      this.uploads.set([]);
    }
    this.portfolioId = portfolioId;
    await this.load();
  }

  async load(): Promise<void> {
    const { portfolioId } = this;
    if (!portfolioId) return;
    try {
      const params = { portfolioId };
      const [pictures, files] = await Promise.all([
        this.client.call(api.pictures, { params }),
        this.client.call(api.files, { params }),
      ]);
      if (portfolioId !== this.portfolioId) return;
      this.pictures.set(pictures);
      this.files.set(files);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  /** Brings in a file; `null` where it was refused or cancelled, which is said where uploads are shown. */
  bring(
    file: File,
    place: { readonly replaces?: number; readonly replacesFile?: number; readonly description?: string } = {},
  ): Promise<Received | null> {
    const key = ++this.count;
    const { portfolioId } = this;
    this.uploads.update((all) => [...all, { key, name: file.name, share: 0, refusal: null }]);
    return new Promise((done) => {
      this.waiting.push(async () => {
        const abort = new AbortController();
        this.aborts.set(key, abort);
        try {
          const query = { name: file.name, ...place };
          const onShare = (share: number) => this.change(key, { share });
          const received = await this.client.send(
            api.receive,
            { params: { portfolioId }, query },
            file,
            onShare,
            abort.signal,
          );
          this.forget(key);
          if (received.isKnown) this.notices.say({ kind: 'done', text: say.isHereAlreadyTheOneThat(file.name) });
          await this.load();
          done(received);
        } catch (error) {
          if (error instanceof Cancelled) this.forget(key);
          else if (error instanceof Refusal) this.change(key, { refusal: error.message });
          else throw error;
          done(null);
        } finally {
          this.aborts.delete(key);
        }
      });
      this.next();
    });
  }

  cancel(key: number): void {
    this.aborts.get(key)?.abort();
    this.forget(key);
  }

  async crop(pictureId: number, area: Crop): Promise<PictureView> {
    const made = await this.client.call(api.crop, { params: { portfolioId: this.portfolioId, pictureId }, body: area });
    await this.load();
    return made;
  }

  /** Where a picture is used; `null` where that can’t be known. */
  async usesOf(pictureId: number): Promise<PictureUses | null> {
    const params = { portfolioId: this.portfolioId, pictureId };
    const answer = await tried(() => this.client.call(api.pictureUses, { params }));
    return 'value' in answer ? answer.value : null;
  }

  /** Puts a file, or a picture from the shelf, in the place of a picture, wherever that is used; the way back is offered at once. */
  async replace({ id, name }: PictureView, fresh: File | PictureView, description: string | null): Promise<void> {
    const described = description === null ? {} : { description };
    if (fresh instanceof File) {
      const received = await this.bring(fresh, { replaces: id, ...described });
      if (received?.picture) this.sayChanged(id, say.replaced(name));
      return;
    }
    const params = { portfolioId: this.portfolioId, pictureId: id };
    const body = { from: fresh.id, ...described };
    const refusal = await refusalOf(() => this.client.call(api.takePicture, { params, body }));
    if (refusal) return this.notices.say({ kind: 'trouble', text: refusal });
    this.sayChanged(id, say.replaced(name));
    await this.load();
  }

  /** Makes a picture again what it was before it was replaced. */
  async putBack(pictureId: number): Promise<void> {
    const [picture, { portfolioId }] = [this.byId().get(pictureId), this];
    if (!picture) return;
    const request = { params: { portfolioId, pictureId }, body: { version: picture.version } };
    const refusal = await refusalOf(() => this.client.call(api.putBackPicture, request));
    if (refusal) return this.notices.say({ kind: 'trouble', text: refusal });
    this.sayChanged(pictureId, say.isRestored(picture.name));
    await this.load();
  }

  private sayChanged(pictureId: number, what: string): void {
    this.notices.say({
      kind: 'done',
      text: say.pagesThatShowItFollowAs(what),
      action: { label: common.undo, run: () => void this.putBack(pictureId) },
    });
  }

  private next(): void {
    if (this.going >= AT_ONCE) return;
    const work = this.waiting.shift();
    if (!work) return;
    this.going++;
    void work().finally(() => {
      this.going--;
      this.next();
    });
  }

  private change(key: number, change: Partial<Upload>): void {
    this.uploads.update((all) => all.map((one) => (one.key === key ? { ...one, ...change } : one)));
  }

  private forget(key: number): void {
    this.uploads.update((all) => all.filter((one) => one.key !== key));
  }
}

/** Bytes as people read them. */
export function writeBytes(bytes: number): string {
  if (bytes < 1024) return `${bytes} B`;
  return bytes < 1024 * 1024 ? say.kb(Math.round(bytes / 1024)) : say.mb((bytes / 1024 / 1024).toFixed(1));
}

/** What a visitor fetches of a picture at most. */
export const heaviest = ({ variants }: PictureView) => Math.max(0, ...variants.map(({ bytes }) => bytes ?? 0));
