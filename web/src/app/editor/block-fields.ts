import { ChangeDetectionStrategy, Component, forwardRef, input, output } from '@angular/core';
import type { PictureView } from '@domatium/contracts';
import {
  blankValues,
  type Button,
  type FieldDefinition,
  type FieldValue,
  type FieldValues,
  type LinkTarget,
  type PictureUse,
  type RichText,
} from '@domatium/core/document';
import { lengthOf } from '@domatium/core/text';
import { LinkField } from './link-field';
import { PictureField } from './picture-field';
import { RichTextField } from './rich-text-field';

/** The fields of a block, as its definition lists them. Emits the path of the field and its new value. */
@Component({
  selector: 'dm-block-fields',
  imports: [LinkField, PictureField, RichTextField, forwardRef(() => BlockFields)],
  templateUrl: './block-fields.html',
  styleUrl: './block-fields.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockFields {
  readonly fields = input.required<readonly FieldDefinition[]>();
  readonly values = input.required<FieldValues>();
  readonly pictures = input.required<readonly PictureView[]>();
  /** Path before the keys, for fields inside a list. */
  readonly prefix = input('');
  readonly changed = output<{ field: string; value: FieldValue }>();

  protected set(key: string, value: FieldValue): void {
    this.changed.emit({ field: this.prefix() + key, value });
  }

  protected textOf(key: string): string {
    return (this.values()[key] as string | undefined) ?? '';
  }
  protected richOf(key: string): RichText {
    return this.values()[key] as RichText;
  }
  protected pictureOf(key: string): PictureUse | null {
    return (this.values()[key] as PictureUse | null | undefined) ?? null;
  }
  protected buttonOf(key: string): Button {
    return (this.values()[key] as Button | null | undefined) ?? { label: '', target: null };
  }
  protected itemsOf(key: string): readonly FieldValues[] {
    return (this.values()[key] as readonly FieldValues[] | undefined) ?? [];
  }

  protected setButton(key: string, change: { label?: string; target?: LinkTarget }): void {
    const button = { ...this.buttonOf(key), ...change };
    this.set(key, button.label === '' && button.target === null ? null : button);
  }

  protected addItem(field: Extract<FieldDefinition, { kind: 'list' }>): void {
    this.set(field.key, [...this.itemsOf(field.key), blankValues(field.fields)]);
  }

  protected removeItem(key: string, index: number): void {
    this.set(key, this.itemsOf(key).toSpliced(index, 1));
  }

  protected moveItem(key: string, index: number, by: number): void {
    const items = this.itemsOf(key);
    const item = items[index];
    if (item && items[index + by]) this.set(key, items.toSpliced(index, 1).toSpliced(index + by, 0, item));
  }

  protected length(text: string): number {
    return lengthOf(text);
  }
}
