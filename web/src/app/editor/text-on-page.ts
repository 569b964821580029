import { signal } from '@angular/core';
import { blockTypes } from '@domatium/core/blocks';
import {
  fieldAt,
  textFieldAt,
  type FieldValue,
  type LinkTarget,
  type PictureUse,
  type PageDocument,
  type RichText,
  type TextField,
} from '@domatium/core/document';
import type { Editor } from '@tiptap/core';
import { BLOCK, type CanvasPlaces } from './canvas-places';
import { InPlace } from './in-place';
import { formatsOf, pictureIn, putPicture, toggleFormat, type Format } from './rich-text';

/** Room the formats need above the text, and their width. */
const BAR_ROOM = 44;
const BAR_WIDTH = 410;

/** The formats of the text one types in, where they float. */
export interface Bar {
  readonly x: number;
  readonly y: number;
  readonly label: string;
  readonly active: ReturnType<typeof formatsOf>;
  readonly mayLink: boolean;
}

/** The canvas around a text that is typed on it. */
export interface TypingGround {
  readonly places: CanvasPlaces;
  page(): Document | null;
  document(): PageDocument;
  mayEdit(): boolean;
  /** Pixels the formats can float in. */
  width(): number;
  focus(): void;
  choose(blockId: string): void;
  edit(edit: { readonly blockId: string; readonly field: string; readonly value: FieldValue }): void;
  /** Something is pasted into a text; says whether that is done with. */
  pasted(editor: Editor, field: TextField, clipboard: DataTransfer | null): boolean;
  /** The address of a picture as it is shown here. */
  shown(id: number): string;
  /** A block was typed in and is drawn by the renderer again. */
  ended(blockId: string): void;
}

/** Typing on the page: the element that shows a field is taken over by an editor that is mounted from here. */
export class TextOnPage {
  private inPlace: InPlace | null = null;
  readonly bar = signal<Bar | null>(null);
  readonly linking = signal<{ target: LinkTarget | null } | null>(null);
  readonly picturing = signal<{ use: PictureUse | null } | null>(null);

  constructor(private readonly ground: TypingGround) {}

  /** The block one types in. */
  get blockId(): string | null {
    return this.inPlace?.field.blockId ?? null;
  }

  get element(): HTMLElement | null {
    return this.inPlace?.element ?? null;
  }

  /** Begins to type in the first text of a block, from the keyboard. */
  start(blockId: string): void {
    const element = this.ground.page()?.querySelector<HTMLElement>(`#b-${blockId} [data-field]`);
    if (!element || !this.ground.mayEdit()) return;
    this.end();
    this.type(blockId, element);
    this.ground.focus();
    this.inPlace?.focusAt(null);
  }

  type(blockId: string, element: HTMLElement): void {
    const path = element.dataset['field'] ?? '';
    const block = this.ground.document().blocks.find(({ id }) => id === blockId);
    const field = block && textFieldAt(blockTypes[block.type].fields, path);
    const value = block && fieldAt(block, path);
    if (!field || value === undefined) return;
    this.inPlace = new InPlace(element, { ...field, blockId, path }, value as string | RichText, {
      changed: (typed) => this.ground.edit({ blockId, field: path, value: typed }),
      moved: () => this.placeBar(),
      left: (by) => this.goOn(by),
      linked: () => {
        if (this.bar()?.mayLink) this.startLink();
      },
      shown: (id) => this.ground.shown(id),
      pasted: (editor, clipboard) => this.ground.pasted(editor, field, clipboard),
    });
  }

  /** A press that began the typing is over: the cursor goes where it was, unless something was selected with it. */
  pressedAt(point: { left: number; top: number }): void {
    const selection = this.ground.page()?.getSelection();
    if (this.inPlace && (!selection || selection.isCollapsed)) this.inPlace.focusAt(point);
  }

  end(): void {
    const { inPlace } = this;
    if (!inPlace) return;
    this.inPlace = null;
    this.bar.set(null);
    this.linking.set(null);
    this.picturing.set(null);
    inPlace.end();
    this.ground.ended(inPlace.field.blockId);
  }

  /** What others, undo or the margin made of the text one types in. */
  take(blocks: PageDocument['blocks']): void {
    const { inPlace } = this;
    if (!inPlace) return;
    const block = blocks.find(({ id }) => id === inPlace.field.blockId);
    const value = block && fieldAt(block, inPlace.field.path);
    if (value === undefined || value === null) this.end();
    else inPlace.take(value as string | RichText);
  }

  toggle(format: Format): void {
    if (this.inPlace) toggleFormat(this.inPlace.editor, format);
  }

  startLink(): void {
    const target = this.inPlace?.editor.getAttributes('link')['target'] as LinkTarget | null | undefined;
    this.linking.set({ target: target ?? null });
  }

  /** No link after all: one types on where one was. */
  cancelLink(): void {
    this.linking.set(null);
    this.inPlace?.editor.commands.focus();
  }

  link(target: LinkTarget | null): void {
    const chain = this.inPlace?.editor.chain().focus().extendMarkRange('link');
    (target ? chain?.setMark('link', { target }) : chain?.unsetMark('link'))?.run();
    this.linking.set(null);
  }

  startPicture(): void {
    if (this.inPlace) this.picturing.set({ use: pictureIn(this.inPlace.editor) });
  }

  /** A small picture at the cursor, or the selected one changed. */
  picture(use: PictureUse | null): void {
    if (!this.inPlace) return;
    putPicture(this.inPlace.editor, use);
    this.picturing.set(use && { use: pictureIn(this.inPlace.editor) });
  }

  /** The formats float above the cursor, or below it where there is no room. */
  placeBar(): void {
    const { inPlace } = this;
    if (inPlace?.field.kind !== 'rich') return this.bar.set(null);
    const { editor } = inPlace;
    const { places } = this.ground;
    const { from, empty } = editor.state.selection;
    const { left, top, bottom } = editor.view.coordsAtPos(from);
    const above = places.placeOf(left, top);
    const active = formatsOf(editor);
    this.bar.set({
      x: Math.max(8, Math.min(above.x, this.ground.width() - BAR_WIDTH)),
      y: above.y > BAR_ROOM ? above.y - BAR_ROOM : places.placeOf(left, bottom).y + 8,
      label: inPlace.field.label,
      active,
      mayLink: !empty || active.link,
    });
  }

  /** From one text to the next or the one before. */
  private goOn(by: 1 | -1): void {
    const from = this.inPlace;
    const main = this.ground.page()?.querySelector('main');
    if (!from || !main) return;
    const texts = [...main.querySelectorAll<HTMLElement>('[data-field]')].filter((element) => this.isText(element));
    const next = texts[texts.indexOf(from.element) + by];
    if (!next) return;
    const [blockId, path] = [next.closest(BLOCK)?.id.slice(2) ?? '', next.dataset['field']];
    this.end();
    const element = this.ground.page()?.querySelector<HTMLElement>(`#b-${blockId} [data-field="${path}"]`);
    if (!element) return;
    if (blockId !== from.field.blockId) this.ground.choose(blockId);
    this.type(blockId, element);
    if (by === 1) this.inPlace?.focusOn(0);
    else this.inPlace?.focusAt(null);
  }

  private isText(element: HTMLElement): boolean {
    const id = element.closest(BLOCK)?.id.slice(2);
    const block = this.ground.document().blocks.find((one) => one.id === id);
    return !!block && textFieldAt(blockTypes[block.type].fields, element.dataset['field'] ?? '') !== null;
  }
}
