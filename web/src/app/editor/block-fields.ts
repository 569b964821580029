import { ChangeDetectionStrategy, Component, computed, forwardRef, inject, input, output } from '@angular/core';
import {
  blankValues,
  type Button,
  type FieldDefinition,
  type FieldValue,
  type FieldValues,
  type LinkTarget,
  type Moment,
  type PictureUse,
  type Reference,
  type RichText,
} from '@domatium/core/document';
import { isFirstContent, lengthOf } from '@domatium/core/text';
import { instantOfWall, wallOf, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { MomentField } from '../shared/moment-field';
import { LinkField } from './link-field';
import type { IconName } from '@domatium/core/icons';
import { IconField } from './icon-field';
import { CodeField } from '../source/code-field';
import { PictureField } from './picture-field';
import { ReferenceField } from './reference-field';
import { RichTextField } from './rich-text-field';
import { say } from '@domatium/core/words/editor';

/** The fields of a block, as its definition lists them. Emits the path of the field and its new value. */
@Component({
  selector: 'dm-block-fields',
  imports: [
    CodeField,
    IconField,
    LinkField,
    MomentField,
    PictureField,
    ReferenceField,
    RichTextField,
    forwardRef(() => BlockFields),
  ],
  templateUrl: './block-fields.html',
  styleUrl: './block-fields.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BlockFields {
  /** More values than these stand in a list. */
  protected readonly most = 6;
  protected readonly say = say;
  readonly fields = input.required<readonly FieldDefinition[]>();
  readonly values = input.required<FieldValues>();
  /** Path before the keys, for fields inside a list. */
  readonly prefix = input('');
  readonly changed = output<{ field: string; value: FieldValue }>();
  private readonly register = inject(RegisterService);

  /** Fields that are filled in, or wait for nothing. */
  protected readonly asked = computed(() =>
    this.fields().filter(
      (field) => !('after' in field) || !field.after || !!this.textOf(field.key) || !!this.textOf(field.after),
    ),
  );

  protected set(key: string, value: FieldValue): void {
    this.changed.emit({ field: this.prefix() + key, value });
  }

  protected textOf(key: string): string {
    return (this.values()[key] as string | undefined) ?? '';
  }
  /** The chosen one of some values; where nothing is chosen, the first. */
  protected choiceOf(field: Extract<FieldDefinition, { kind: 'choice' }>): string {
    return this.textOf(field.key) || (field.options[0]?.value ?? '');
  }
  protected richOf(key: string): RichText {
    return this.values()[key] as RichText;
  }
  protected pictureOf(key: string): PictureUse | null {
    return (this.values()[key] as PictureUse | null | undefined) ?? null;
  }
  protected referenceOf(key: string): Reference | null {
    return (this.values()[key] as Reference | null | undefined) ?? null;
  }
  protected momentOf(key: string): string | null {
    const moment = this.values()[key] as Moment | null | undefined;
    return moment ? wallOf(moment.at as Instant, moment.zone) : null;
  }
  protected setMoment(key: string, local: string | null): void {
    const zone = this.register.zone();
    const at = local === null ? null : instantOfWall({ local, zone });
    if (local === null || at !== null) this.set(key, at === null ? null : { at, zone });
  }
  protected buttonOf(key: string): Button {
    return (this.values()[key] as Button | null | undefined) ?? { label: '', target: null };
  }
  protected itemsOf(key: string): readonly FieldValues[] {
    return (this.values()[key] as readonly FieldValues[] | undefined) ?? [];
  }

  /** The words that tell one thing of a list from another: its first text. */
  protected wordsOf(item: FieldValues, fields: readonly FieldDefinition[]): string {
    const texts = fields.map(({ kind, key }) => {
      const value = item[key];
      if (kind === 'line' || kind === 'paragraph') return value as string;
      if (kind === 'button') return (value as Button | null)?.label ?? '';
      return kind === 'picture' ? ((value as PictureUse | null)?.description ?? '') : '';
    });
    return texts.find((text) => text) ?? '';
  }

  protected setButton(key: string, change: { label?: string; target?: LinkTarget; icon?: IconName | '' }): void {
    const { icon, ...rest } = { ...this.buttonOf(key), ...change };
    const button: Button = icon ? { ...rest, icon } : rest;
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

  /** First content is replaced by the first key. */
  protected chooseFirst(field: HTMLInputElement | HTMLTextAreaElement): void {
    if (isFirstContent(field.value)) field.select();
  }

  protected length(text: string): number {
    return lengthOf(text);
  }
}
