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
import { RegisterService } from '../register/register.service';
import { api, Api, Refusal } from '../shared/api';
import { BringIn } from './bring-in';
import { heaviest, PICTURE_BUDGET, PicturesService, writeBytes } from './pictures.service';
import { Uploads } from './uploads';

/** The shelf of pictures: found by words and labels, brought in, described, replaced wherever they are used. */
@Component({
  selector: 'dm-pictures-desk',
  imports: [BringIn, Uploads],
  templateUrl: './pictures-desk.html',
  styleUrls: ['../stock/desk.scss', './pictures-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PicturesDesk {
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly pictures = inject(PicturesService);
  protected readonly service = inject(RegisterService);
  private readonly client = inject(Api);
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
      { only: 'all' as const, words: 'All', count: all.length },
      {
        only: 'undescribed' as const,
        words: 'Without description',
        count: all.filter(({ description }) => !description).length,
      },
      { only: 'alike' as const, words: 'Alike', count: all.filter(({ similar }) => similar.length).length },
      { only: 'heavy' as const, words: 'Heavy', count: all.filter((one) => heaviest(one) > PICTURE_BUDGET).length },
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
  protected readonly budget = writeBytes(PICTURE_BUDGET);

  constructor() {
    effect(() => {
      const picture = this.picture();
      untracked(() => {
        this.trouble.set(null);
        if (picture) void this.look(picture.id);
      });
    });
  }

  private params(pictureId: number) {
    return { portfolioId: this.service.portfolioId(), pictureId };
  }

  private async look(id: number): Promise<void> {
    try {
      const uses = await this.client.call(api.pictureUses, { params: this.params(id) });
      if (this.picture()?.id === id) this.uses.set(uses);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
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
    for (const file of files) void this.pictures.bring(file);
  }

  protected async replace([file]: readonly File[]): Promise<void> {
    const picture = this.picture();
    if (file && picture) await this.pictures.bring(file, picture.id);
  }

  protected async set(change: Partial<Pick<PictureView, 'name' | 'description' | 'labels'>>): Promise<void> {
    const picture = this.picture();
    if (!picture) return;
    const { version, name, description, labels } = picture;
    try {
      await this.client.call(api.setPicture, {
        params: this.params(picture.id),
        body: { version, name, description, labels, ...change },
      });
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
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

  /** Makes the picture the icon of a site, or what is shown where the site is shared. */
  protected async face(as: 'iconId' | 'shareId', field: HTMLSelectElement): Promise<void> {
    const [picture, siteId] = [this.picture(), Number(field.value)];
    field.value = '0';
    if (!picture || !siteId) return;
    const params = { portfolioId: this.service.portfolioId(), siteId };
    try {
      const face = await this.client.call(api.siteFace, { params });
      await this.client.call(api.setSiteFace, { params, body: { ...face, [as]: picture.id } });
      await this.look(picture.id);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }

  protected async remove(): Promise<void> {
    const picture = this.picture();
    if (!picture) return;
    try {
      await this.client.call(api.deletePicture, { params: this.params(picture.id) });
      this.go.emit(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }
}
