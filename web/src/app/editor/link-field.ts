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
import { blockWords, isWrong, typedOf, typedTarget, type LinkTarget, type PageDocument } from '@domatium/core/document';
import { namesIn } from '@domatium/core/text';
import type { PageId } from '@domatium/core/plan';
import { BringIn } from '../pictures/bring-in';
import { PicturesService } from '../pictures/pictures.service';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { PagePicker } from '../shared/page-picker';
import { DraftService } from './draft.service';
import { say } from '@domatium/core/words/editor';

/** What somebody looks for: a form is the block that holds it. */
type Kind = LinkTarget['kind'] | 'form';
const KINDS: readonly { readonly kind: Kind; readonly label: string }[] = [
  { kind: 'page', label: say.aPage },
  { kind: 'block', label: say.aBlockHere },
  { kind: 'form', label: say.aForm },
  { kind: 'file', label: say.aFile },
  { kind: 'mail', label: say.mail },
  { kind: 'phone', label: say.phone },
  { kind: 'outside', label: say.outside },
];

const FEW = 12;

/** Where a link leads: a page by its name, a block of this page, a file, a mailbox, a telephone, or an outside address. */
@Component({
  selector: 'dm-link-field',
  imports: [PagePicker, BringIn],
  templateUrl: './link-field.html',
  styles: `
    .kinds {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      margin-bottom: 6px;
    }
    .chip {
      padding: 2px 8px;
    }
    select {
      margin-bottom: 6px;
    }
    .there {
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LinkField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<LinkTarget | null>();
  /** What it may lead to; a page as a whole then. */
  readonly only = input<readonly Kind[] | null>(null);
  readonly changed = output<LinkTarget>();
  protected readonly pictures = inject(PicturesService);
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly draft = inject(DraftService, { optional: true });
  protected readonly asked = signal<Kind | null>(null);
  protected readonly error = signal<string | null>(null);
  /** The own page whose address was pasted. */
  protected readonly own = signal<string | null>(null);
  protected readonly kinds = computed(() =>
    KINDS.filter(({ kind }) => this.only()?.includes(kind) ?? (kind !== 'block' || this.draft !== null)),
  );
  protected readonly kind = computed<Kind>(() => {
    const value = this.value();
    const isForm = value?.kind === 'block' && this.blocks().some(({ id, isForm }) => isForm && id === value.blockId);
    return this.asked() ?? (isForm ? 'form' : (value?.kind ?? 'page'));
  });
  protected readonly pageId = computed<PageId | null>(() => {
    const value = this.value();
    return value?.kind === 'page' ? value.pageId : null;
  });
  /** Blocks of this page, those with a form marked. */
  protected readonly blocks = computed(() => choicesOf(this.draft?.document() ?? null));
  protected readonly forms = computed(() => this.blocks().filter(({ isForm }) => isForm));
  private readonly other = signal<{ readonly pageId: number; readonly document: PageDocument } | null>(null);
  /** Blocks of the page that is chosen: a link may lead to one of them. */
  protected readonly blocksThere = computed(() => {
    const other = this.other();
    return choicesOf(!this.only() && other && other.pageId === this.pageId() ? other.document : null);
  });
  protected readonly chosenBlock = computed(() => {
    const value = this.value();
    return value?.kind === 'block' || value?.kind === 'page' ? (value.blockId ?? '') : '';
  });
  protected readonly chosenFile = computed(() => {
    const value = this.value();
    return value?.kind === 'file' ? value.fileId : 0;
  });
  /** What stands in the field where one types: an address, a mailbox or a number. */
  protected readonly typed = computed(() => {
    const value = this.value();
    return value?.kind === this.kind() ? (typedOf(value) ?? '') : '';
  });

  constructor() {
    effect(() => {
      const pageId = this.pageId();
      if (pageId && !this.only()) untracked(() => void this.lookInto(pageId));
    });
  }

  /** The blocks of another page; where they can’t be had now, the link leads to its top. */
  private async lookInto(pageId: PageId): Promise<void> {
    try {
      const params = { portfolioId: this.register.portfolioId(), pageId };
      const { document } = await this.client.call(api.draft, { params });
      this.other.set({ pageId, document });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  protected toBlockThere(blockId: string): void {
    const pageId = this.pageId();
    if (pageId) this.changed.emit({ kind: 'page', pageId, ...(blockId ? { blockId } : {}) });
  }

  protected ask(kind: Kind): void {
    this.error.set(null);
    this.own.set(null);
    this.asked.set(kind);
  }

  protected toPage(pageId: number): void {
    this.changed.emit({ kind: 'page', pageId: pageId as PageId });
  }

  protected type(text: string): void {
    const kind = this.kind();
    const target = typedTarget(kind === 'mail' || kind === 'phone' ? kind : 'outside', text);
    this.error.set(isWrong(target) ? target.message : null);
    if (isWrong(target)) return;
    this.changed.emit(target);
    if (target.kind === 'outside' && !namesIn(target.url).length) void this.holdOwn(target.url);
  }

  /** The address of an own page that somebody pasted becomes a link to that page: it follows the page from then on. */
  private async holdOwn(url: string): Promise<void> {
    const { hostname, pathname, hash } = new URL(url);
    const host = hostname.replace(/\.localhost$/, '');
    const found = await this.register.desk.pick(host + pathname, this.register.now(), null, FEW);
    const page = found.find((one) => one.host === host && one.path === pathname);
    if (!page) return;
    const blockId = /^#b-([\w-]+)$/.exec(hash)?.[1];
    this.asked.set('page');
    this.changed.emit({ kind: 'page', pageId: page.id as PageId, ...(blockId ? { blockId } : {}) });
    this.own.set(page.name);
  }

  protected async bring([file]: readonly File[]): Promise<void> {
    const received = file && (await this.pictures.bring(file));
    if (received?.file) this.changed.emit({ kind: 'file', fileId: received.file.id });
    else if (received?.picture) this.error.set(say.thatIsAPicture);
  }
}

/** Blocks a link may lead to, those with a form marked. */
function choicesOf(document: PageDocument | null) {
  return (document?.blocks ?? []).map((block) => {
    const isForm = block.fields['asks'] === 'email';
    return { id: block.id, isForm, words: isForm ? say.withAForm(blockWords(block)) : blockWords(block) };
  });
}
