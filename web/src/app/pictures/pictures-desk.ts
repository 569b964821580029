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
import type { PictureUses, PictureView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { refusalOf } from '../hub/answer';
import { api, Api } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { BringIn } from './bring-in';
import { DeleteIt } from './delete-it';
import { heaviest, PICTURE_BUDGET, PicturesService, writeBytes } from './pictures.service';
import { PictureShelf } from './picture-shelf';
import { ReplaceSheet } from './replace-sheet';
import { SiteChoice } from './site-choice';
import { SiteProfilesService } from '../hub/site-profiles.service';
import { Uploads } from './uploads';
import { WhereUsed } from './where-used';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

/** The shelf of pictures: found by words and labels, brought in, described, replaced wherever they are used. */
@Component({
  selector: 'dm-pictures-desk',
  imports: [BringIn, DeleteIt, PictureShelf, ReplaceSheet, SiteChoice, Uploads, WhereUsed],
  templateUrl: './pictures-desk.html',
  styleUrls: ['../stock/desk.scss', './pictures-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PicturesDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly pictures = inject(PicturesService);
  protected readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  private readonly profiles = inject(SiteProfilesService);
  /** What is to take the place of the picture. */
  protected readonly fresh = signal<File | PictureView | null>(null);
  protected readonly isChoosing = signal(false);
  protected readonly text = signal('');
  protected readonly label = signal<string | null>(null);
  protected readonly only = signal<'all' | 'undescribed' | 'alike' | 'heavy'>('all');
  protected readonly uses = signal<PictureUses | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly labels = computed(() =>
    [...new Set(this.pictures.whole().flatMap(({ labels }) => labels))].sort(),
  );
  protected readonly filters = computed(() => {
    const all = this.pictures.whole();
    return [
      { only: 'all' as const, words: say.all, count: all.length },
      {
        only: 'undescribed' as const,
        words: say.withoutDescription,
        count: all.filter(({ description }) => !description).length,
      },
      { only: 'alike' as const, words: say.alike, count: all.filter(({ similar }) => similar.length).length },
      {
        only: 'heavy' as const,
        words: say.heavyToo,
        count: all.filter((one) => heaviest(one) > PICTURE_BUDGET).length,
      },
    ];
  });
  protected readonly shelf = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    const [label, only] = [this.label(), this.only()];
    return this.pictures.whole().filter((one) => {
      const all = [one.name, one.description, ...one.labels].join(' ').toLowerCase();
      if (label && !one.labels.includes(label)) return false;
      if (only === 'undescribed' && one.description) return false;
      if (only === 'alike' && !one.similar.length) return false;
      if (only === 'heavy' && heaviest(one) <= PICTURE_BUDGET) return false;
      return words.every((word) => all.includes(word));
    });
  });
  protected readonly picture = computed(() => this.pictures.byId().get(Number(this.item())) ?? null);
  protected readonly crops = computed(() => this.pictures.pictures().filter(({ ofId }) => ofId === this.picture()?.id));
  protected readonly alike = computed(
    () => this.picture()?.similar.flatMap((id) => this.pictures.byId().get(id) ?? []) ?? [],
  );
  protected readonly sizes = computed(() =>
    (this.picture()?.variants ?? []).map(
      ({ width, bytes, avif }) => `${width} px ${avif ? 'AVIF' : 'WebP'}${bytes ? `, ${writeBytes(bytes)}` : ''}`,
    ),
  );
  protected readonly faceNames = computed(() =>
    (this.uses()?.sites ?? []).map(({ name, as }) => ({
      name,
      what: as === 'icon' ? say.itsIcon : say.whereItIsShared,
    })),
  );
  protected readonly budget = writeBytes(PICTURE_BUDGET);

  private readonly opened = computed(() => this.picture()?.id ?? null);

  constructor() {
    effect(() => {
      this.opened();
      untracked(() => {
        this.trouble.set(null);
        this.isChoosing.set(false);
        this.uses.set(null);
      });
    });
    effect(() => {
      const picture = this.picture();
      untracked(() => picture && void this.look(picture.id));
    });
  }

  private params(pictureId: number) {
    return { portfolioId: this.service.portfolioId(), pictureId };
  }

  private async look(id: number): Promise<void> {
    const uses = await this.pictures.usesOf(id);
    if (uses && this.picture()?.id === id) this.uses.set(uses);
  }

  protected size(bytes: number): string {
    return writeBytes(bytes);
  }
  protected isHeavy(picture: PictureView): boolean {
    return heaviest(picture) > PICTURE_BUDGET;
  }
  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }

  protected bring(files: readonly File[]): void {
    for (const file of files)
      void this.pictures.bring(file).then((received) => {
        if (received?.file) this.notices.say({ kind: 'done', text: say.standsWithTheFiles(received.file.name) });
      });
  }

  protected async set(change: Partial<Pick<PictureView, 'name' | 'description' | 'labels'>>): Promise<void> {
    const picture = this.picture();
    if (!picture) return;
    const { version, name, description, labels } = picture;
    const body = { version, name, description, labels, ...change };
    this.trouble.set(
      await refusalOf(() => this.client.call(api.setPicture, { params: this.params(picture.id), body })),
    );
  }

  protected setLabels(text: string): void {
    const labels = [
      ...new Set(
        text
          .split(',')
          .map((one) => one.trim())
          .filter(Boolean),
      ),
    ];
    void this.set({ labels });
  }

  /** Makes the picture the icon of a site, or what is shown where the site is shared: in its draft, which is opened. */
  protected async face(as: 'iconId' | 'shareId', site: { readonly id: number; readonly name: string }): Promise<void> {
    const picture = this.picture();
    if (!picture) return;
    this.trouble.set(await this.profiles.change(site, { [as]: picture.id }));
  }

  /** What can’t be looked up counts as used. */
  protected readonly isUsed = async (): Promise<boolean> => {
    const picture = this.picture();
    const uses = picture && (await this.pictures.usesOf(picture.id));
    return !uses || uses.count + uses.pieces.length + uses.sites.length > 0;
  };

  protected async remove(): Promise<void> {
    const picture = this.picture();
    if (!picture) return;
    const refusal = await refusalOf(() => this.client.call(api.deletePicture, { params: this.params(picture.id) }));
    this.trouble.set(refusal);
    if (!refusal) this.go.emit(null);
  }
}
