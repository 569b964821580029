import { computed, inject, Injectable, signal } from '@angular/core';
import type { DraftView } from '@domatium/contracts';
import { applyEdit, documentFromJSON, type Edit, type PageDocument } from '@domatium/core/document';
import { canonical } from '@domatium/core/plan';
import { api, Api, Refusal } from '../shared/api';

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

  readonly draft = signal<DraftView | null>(null);
  readonly document = signal<PageDocument | null>(null);
  readonly keeping = signal<Keeping>('kept');
  readonly keptAt = signal<number | null>(null);
  readonly trouble = signal<string | null>(null);
  /** What somebody else kept meanwhile; the person chooses between the two. */
  readonly other = signal<DraftView | null>(null);
  readonly canUndo = computed(() => this.done().length > 0);
  readonly canRedo = computed(() => this.undone().length > 0);

  async open(portfolioId: number, pageId: number): Promise<void> {
    this.params = { portfolioId, pageId };
    const draft = await this.client.call(api.draft, { params: this.params });
    this.take(draft);
    this.readSteps();
    const kept = this.readLocal();
    if (!kept || canonical(kept.document) === canonical(draft.document)) return this.clearLocal();
    // Typed while the server could not be reached: goes on where it was, or is put beside what came meanwhile.
    if (kept.version === draft.version) {
      this.document.set(kept.document);
      this.changed();
    } else {
      this.document.set(kept.document);
      this.other.set(draft);
      this.keeping.set('refused');
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

  /** After a refusal: goes on with one's own text, or with the other's. */
  choose(which: 'mine' | 'theirs'): void {
    const other = this.other();
    if (!other) return;
    this.other.set(null);
    this.version = other.version;
    if (which === 'theirs') {
      this.take(other);
      this.done.set([]);
      this.undone.set([]);
      this.writeSteps();
      this.clearLocal();
    } else this.changed();
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
    this.writeLocal();
    this.writeSteps();
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.keep(), PAUSE);
  }

  private async send(): Promise<void> {
    const document = this.document();
    if (!document) return;
    this.keeping.set('keeping');
    try {
      const { version, changedAt } = await this.client.call(api.saveDraft, {
        params: this.params,
        body: { version: this.version, document },
      });
      this.version = version;
      this.writeSteps();
      this.keptAt.set(changedAt);
      this.trouble.set(null);
      if (this.document() === document) {
        this.keeping.set('kept');
        this.clearLocal();
      } else this.changed();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.refused(error);
    }
  }

  private refused(error: Refusal): void {
    this.trouble.set(error.message);
    if (error.status === 412) {
      this.other.set(error.problem.current as DraftView);
      this.keeping.set('refused');
    } else if (error.isPassing || error.status === 401) {
      this.keeping.set('offline');
      this.timer = setTimeout(() => void this.keep(), RETRY);
    } else this.keeping.set('refused');
  }

  private take(draft: DraftView): void {
    this.draft.set(draft);
    this.document.set(draft.document);
    this.version = draft.version;
    this.keptAt.set(draft.changedAt);
    this.keeping.set('kept');
    this.trouble.set(null);
  }

  private get localKey(): string {
    return `domatium.draft.${this.params.portfolioId}.${this.params.pageId}`;
  }

  private writeLocal(): void {
    try {
      localStorage.setItem(this.localKey, JSON.stringify({ version: this.version, document: this.document() }));
    } catch {
      // A full or closed store: the server is still asked as usual.
    }
  }

  private readLocal(): { version: number; document: PageDocument } | null {
    const text = localStorage.getItem(this.localKey);
    if (!text) return null;
    const kept = JSON.parse(text) as { version: number; document: unknown };
    const read = documentFromJSON(kept.document);
    return read.ok ? { version: kept.version, document: read.value } : null;
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
