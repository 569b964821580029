import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { PictureView } from '@domatium/contracts';
import type { PictureUse } from '@domatium/core/document';
import { describedAs } from '@domatium/core/render';
import type { PictureId } from '@domatium/core/plan';
import { BringIn } from '../pictures/bring-in';
import { CropSheet } from '../pictures/crop-sheet';
import { heaviest, PICTURE_BUDGET, PicturesService, writeBytes } from '../pictures/pictures.service';
import { PictureShelf } from '../pictures/picture-shelf';
import { ReplaceSheet } from '../pictures/replace-sheet';
import { Uploads } from '../pictures/uploads';
import { say } from '@domatium/core/words/editor';

/** A picture of the portfolio, as one block uses it: which, which part of it, and how it is described. */
@Component({
  selector: 'dm-picture-field',
  imports: [BringIn, CropSheet, PictureShelf, ReplaceSheet, Uploads],
  templateUrl: './picture-field.html',
  styleUrl: './picture-field.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PictureField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<PictureUse | null>();
  /** Only which picture: it is not described and not cut here. */
  readonly isBare = input(false);
  readonly changed = output<PictureUse | null>();
  protected readonly pictures = inject(PicturesService);
  protected readonly isOpen = signal(false);
  protected readonly isCropping = signal(false);
  /** The file that is to take the place of the picture, wherever that is used. */
  protected readonly fresh = signal<File | null>(null);
  protected readonly picture = computed(() => this.pictures.byId().get(this.value()?.pictureId ?? 0) ?? null);
  protected readonly source = computed(() => this.picture()?.ofId ?? this.picture()?.id ?? 0);
  protected readonly whole = computed(() => this.pictures.byId().get(this.source()) ?? null);
  /** What a visitor fetches of it at most, with what it should be. */
  protected readonly weight = computed(() => {
    const picture = this.picture();
    const bytes = picture ? heaviest(picture) : 0;
    return bytes
      ? { words: say.atMostOf(writeBytes(bytes), writeBytes(PICTURE_BUDGET)), isHeavy: bytes > PICTURE_BUDGET }
      : null;
  });

  /** What visitors get as its description here. */
  protected readonly described = computed(() => {
    const [use, picture] = [this.value(), this.picture()];
    return use && picture ? describedAs(use, picture) : (use?.description ?? '');
  });

  protected pick({ id, description }: PictureView): void {
    this.isOpen.set(false);
    this.changed.emit({ pictureId: id as PictureId, description, isDecorative: false });
  }

  protected async bring([file]: readonly File[]): Promise<void> {
    const received = file && (await this.pictures.bring(file));
    if (received?.picture) this.pick(received.picture);
  }

  protected crop(use: PictureUse): void {
    this.isCropping.set(false);
    this.changed.emit(use);
  }

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }
}
