import { computed, inject, Injectable, signal } from '@angular/core';
import type { DraftView } from '@domatium/contracts';
import {
  applyEdit,
  documentFromJSON,
  mergeDocuments,
  takeTheirs,
  type Edit,
  type MergeConflict,
  type PageDocument,
  blockWords,
} from '@domatium/core/document';
import { canonical } from '@domatium/core/plan';
import { Subject } from 'rxjs';
import { api, Api, Refusal } from '../hub/api';
import { say } from '@domatium/core/words/editor';

export type Keeping = 'kept' | 'changed' | 'keeping' | 'offline' | 'refused';

/** Edits closer together than this on one field are one step to undo. */
const STEP = 900;
const PAUSE = 700;
const RETRY = 2500;
/** Steps that can be undone after a reload. */
const KEPT_STEPS = 100;

interface Step {
  readonly redo: Edit;
  readonly undo: Edit;
  readonly at: number;
}

/** Why the server doesn't take a field of a block. */
export interface DraftRefusal {
  readonly blockId: string;
  readonly field: string;
  readonly words: string;
  readonly message: string;
}

/** The blocks and fields a refusal names, as they stand in what was sent. */
function refusalsOf({ problem }: Refusal, { blocks }: PageDocument): DraftRefusal[] {
  return (problem.fields ?? []).flatMap(({ path, message }) => {
    const [, index, field = ''] = /^blocks\[(\d+)\](?:\.fields\.(.+))?$/.exec(path) ?? [];
    const block = index === undefined ? undefined : blocks[Number(index)];
    return block ? [{ blockId: block.id, field, words: blockWords(block), message }] : [];
  });
}

/** A draft while it is edited: its history, and that nothing of it is lost. One for each open editor. */
@Injectable()
export class DraftService {
  private readonly client = inject(Api);
  private params = { portfolioId: 0, pageId: 0 };
  private version = 0;
  private readonly undone = signal<readonly Step[]>([]);
  private readonly done = signal<readonly Step[]>([]);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving: Promise<void> | null = null;
  private isWriting = false;

  readonly draft = signal<DraftView | null>(null);
  readonly pageId = signal(0);
  readonly document = signal<PageDocument | null>(null);
  readonly keeping = signal<Keeping>('kept');
  readonly keptAt = signal<number | null>(null);
  readonly trouble = signal<string | null>(null);
  /** What of the page the server doesn't take, by block and field. */
  readonly refusals = signal<readonly DraftRefusal[]>([]);
  /** Visitors would get something else than what is seen here: it can't be released. */
  readonly isUnsaved = computed(() => this.other() !== null || ['refused', 'offline'].includes(this.keeping()));
  /** What somebody else kept meanwhile, where it can't be brought together with this text by itself. */
  readonly other = signal<DraftView | null>(null);
  /** Blocks that both changed; the person chooses for each. */
  readonly conflicts = signal<readonly MergeConflict[]>([]);
  /** What was brought together by itself, in words, for the person to know. */
  readonly merged = new Subject<string>();
  /** What this person wrote and another one's text took the place of. */
  readonly overridden = computed(() => (this.draft()?.overridden ?? []).filter(({ id }) => !this.seenIds().has(id)));
  private readonly seenIds = signal<ReadonlySet<number>>(new Set());
  /** Blocks decided for this text over another one's, which is told with the next save. */
  private readonly over = new Set<string>();
  /** The text that the server had when this one was last the same. */
  private base: PageDocument | null = null;
  readonly canUndo = computed(() => this.done().length > 0);
  readonly canRedo = computed(() => this.undone().length > 0);

  async open(portfolioId: number, pageId: number): Promise<void> {
    this.params = { portfolioId, pageId };
    this.pageId.set(pageId);
    const draft = await this.client.call(api.draft, { params: this.params });
    this.take(draft);
    this.readSteps();
    const kept = this.readLocal();
    if (!kept || canonical(kept.document) === canonical(draft.document)) return this.clearLocal();
    // Typed while the server could not be reached: goes on where it was, or is brought together with what came meanwhile.
    this.document.set(kept.document);
    for (const id of kept.over) this.over.add(id);
    if (kept.version === draft.version) this.changed();
    else {
      this.base = kept.base;
      this.bringTogether(draft);
    }
  }

  /** Makes an edit; says whether it could be made. */
  edit(edit: Edit): boolean {
    const document = this.document();
    const edited = document && applyEdit(document, edit);
    if (!edited) return false;
    this.document.set(edited.document);
    const now = Date.now();
    this.done.update((steps) => {
      const last = steps.at(-1);
      const isSame = last && isTyping(last.redo, edit) && now - last.at < STEP;
      return isSame
        ? [...steps.slice(0, -1), { redo: edit, undo: last.undo, at: now }]
        : [...steps, { redo: edit, undo: edited.inverse, at: now }];
    });
    this.undone.set([]);
    this.changed();
    return true;
  }

  undo(): void {
    this.step(this.done, this.undone, 'undo');
  }

  redo(): void {
    this.step(this.undone, this.done, 'redo');
  }

  /** Keeps the draft now; settles when it is kept, refused, or the server can't be reached. */
  async keep(): Promise<void> {
    clearTimeout(this.timer);
    if (this.saving) await this.saving;
    if (this.keeping() === 'kept' || this.other()) return;
    this.saving = this.send().finally(() => (this.saving = null));
    await this.saving;
  }

  /** Somebody else kept a text of this page: it is fetched, and brought together with what is typed here. */
  async follow(version = Infinity): Promise<void> {
    if (this.saving) await this.saving;
    // What was kept from here is known here.
    if (version <= this.version || this.other() || this.keeping() === 'offline') return;
    try {
      const draft = await this.client.call(api.draft, { params: this.params });
      // What was kept here while it was fetched is newer than what came.
      if (this.saving) await this.saving;
      if (draft.version > this.version && !this.other()) this.bringTogether(draft);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  /** Two texts made from the same one: changes of different blocks are all kept; those of one block are shown for a choice. */
  private bringTogether(theirs: DraftView): void {
    const [mine, base] = [this.document(), this.base];
    if (!mine || !base) {
      this.other.set(theirs);
      this.keeping.set('refused');
      return;
    }
    const { document, conflicts } = mergeDocuments(base, mine, theirs.document);
    this.draft.set(theirs);
    this.version = theirs.version;
    this.base = theirs.document;
    this.document.set(document);
    if (conflicts.length) {
      this.conflicts.set(conflicts);
      this.other.set(theirs);
      this.keeping.set('refused');
      return;
    }
    this.settle(theirs);
  }

  private settle(theirs: DraftView): void {
    const document = this.document();
    if (document && canonical(document) !== canonical(theirs.document)) {
      this.merged.next(say.changedThisPageMeanwhileBothTexts(theirs.changedBy ?? say.someoneElseToo));
      this.changed();
    } else {
      this.keeping.set('kept');
      this.clearLocal();
    }
    this.writeSteps();
  }

  /** Decides one block that both changed. */
  decide(conflict: MergeConflict, which: 'mine' | 'theirs'): void {
    const [document, other] = [this.document(), this.other()];
    if (!document || !other) return;
    if (which === 'mine') this.over.add(conflict.blockId);
    else {
      const next = takeTheirs(document, other.document, conflict);
      this.document.set(next);
      this.noteWhole(document, next);
    }
    this.conflicts.update((all) => all.filter((one) => one !== conflict));
    if (this.conflicts().length) return;
    this.other.set(null);
    this.settle(other);
  }

  /** After a refusal: goes on with one's own text, or with the other's. */
  choose(which: 'mine' | 'theirs'): void {
    const other = this.other();
    if (!other) return;
    this.other.set(null);
    this.conflicts.set([]);
    this.version = other.version;
    this.base = other.document;
    if (which === 'theirs') {
      const mine = this.document();
      this.take(other);
      if (mine) this.noteWhole(mine, other.document);
      this.writeSteps();
      this.clearLocal();
    } else {
      for (const id of this.apartFrom(other.document)) this.over.add(id);
      this.changed();
    }
  }

  /** Notes that the person has seen what was replaced. */
  seen(id: number): void {
    this.seenIds.update((ids) => new Set([...ids, id]));
  }

  /** What differs from another text: its blocks, and `page` for the page's own fields. */
  private apartFrom(other: PageDocument): string[] {
    const mine = new Map(this.document()?.blocks.map((block) => [block.id, canonical(block)]));
    const own = canonical(this.document()?.metadata) === canonical(other.metadata) ? [] : ['page'];
    return [...own, ...other.blocks.filter((block) => mine.get(block.id) !== canonical(block)).map(({ id }) => id)];
  }

  /** The other's text in the place of one's own is a step like any other: undo brings one's own back. */
  private noteWhole(before: PageDocument, after: PageDocument): void {
    const [redo, undo] = [after, before].map((document): Edit => ({ kind: 'whole', document })) as [Edit, Edit];
    this.done.update((steps) => [...steps, { redo, undo, at: Date.now() }]);
    this.undone.set([]);
  }

  private step(from: typeof this.done, to: typeof this.done, direction: 'undo' | 'redo'): void {
    const step = from().at(-1);
    const document = this.document();
    const edited = step && document && applyEdit(document, step[direction]);
    if (!edited || !step) return;
    this.document.set(edited.document);
    from.update((steps) => steps.slice(0, -1));
    to.update((steps) => [...steps, step]);
    this.changed();
  }

  private changed(): void {
    this.keeping.set('changed');
    this.writeSoon();
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.keep(), PAUSE);
  }

  private async send(): Promise<void> {
    const document = this.document();
    if (!document) return;
    this.keeping.set('keeping');
    const over = [...this.over];
    try {
      const { version, changedAt } = await this.client.call(api.saveDraft, {
        params: this.params,
        body: { version: this.version, document, over },
      });
      for (const id of over) this.over.delete(id);
      this.version = version;
      this.base = document;
      this.writeSteps();
      this.keptAt.set(changedAt);
      this.trouble.set(null);
      this.refusals.set([]);
      if (this.document() === document) {
        this.keeping.set('kept');
        this.clearLocal();
      } else this.changed();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.refused(error, document);
    }
  }

  private refused(error: Refusal, document: PageDocument): void {
    this.trouble.set(error.message);
    this.refusals.set(refusalsOf(error, document));
    if (error.code === 'stale') {
      this.bringTogether(error.problem.current as DraftView);
    } else if (error.isPassing || error.code === 'signed-out') {
      this.keeping.set('offline');
      this.timer = setTimeout(() => void this.keep(), RETRY);
    } else this.keeping.set('refused');
  }

  private take(draft: DraftView): void {
    this.draft.set(draft);
    this.document.set(draft.document);
    this.base = draft.document;
    this.version = draft.version;
    this.keptAt.set(draft.changedAt);
    this.keeping.set('kept');
    this.trouble.set(null);
    this.refusals.set([]);
  }

  /** The version of the draft that the server has. */
  keptVersion(): number {
    return this.version;
  }

  private get localKey(): string {
    return `domatium.draft.${this.params.portfolioId}.${this.params.pageId}`;
  }

  /** Behind the next frame: what was typed is on the screen first. */
  private writeSoon(): void {
    if (this.isWriting) return;
    this.isWriting = true;
    requestAnimationFrame(() =>
      setTimeout(() => {
        this.isWriting = false;
        if (this.keeping() === 'kept') return;
        this.writeLocal();
        this.writeSteps();
      }),
    );
  }

  private writeLocal(): void {
    try {
      localStorage.setItem(
        this.localKey,
        JSON.stringify({ version: this.version, document: this.document(), base: this.base, over: [...this.over] }),
      );
    } catch {
      // A full or closed store: the server is still asked as usual.
    }
  }

  private readLocal() {
    const text = localStorage.getItem(this.localKey);
    if (!text) return null;
    const kept = JSON.parse(text) as { version: number; document: unknown; base?: unknown; over?: string[] };
    const read = documentFromJSON(kept.document);
    const base = documentFromJSON(kept.base);
    const { version, over = [] } = kept;
    return read.ok ? { version, document: read.value, base: base.ok ? base.value : null, over } : null;
  }

  /** Undo goes on after a reload, as long as nobody else has kept another text meanwhile. */
  private writeSteps(): void {
    const steps = {
      version: this.version,
      done: this.done().slice(-KEPT_STEPS),
      undone: this.undone().slice(-KEPT_STEPS),
    };
    try {
      sessionStorage.setItem(`${this.localKey}.steps`, JSON.stringify(steps));
    } catch {
      // A full or closed store: there is less to undo after a reload.
    }
  }

  private readSteps(): void {
    const text = sessionStorage.getItem(`${this.localKey}.steps`);
    const kept = text ? (JSON.parse(text) as { version: number; done: Step[]; undone: Step[] }) : null;
    const isSame = kept?.version === this.version;
    this.done.set(isSame ? kept.done : []);
    this.undone.set(isSame ? kept.undone : []);
  }

  private clearLocal(): void {
    localStorage.removeItem(this.localKey);
  }
}

const isTyping = (a: Edit, b: Edit): boolean =>
  (a.kind === 'set' &&
    b.kind === 'set' &&
    a.blockId === b.blockId &&
    a.field === b.field &&
    typeof b.value === typeof a.value) ||
  (a.kind === 'metadata' && b.kind === 'metadata' && a.key === b.key);
