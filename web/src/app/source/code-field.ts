import {
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  input,
  output,
  untracked,
  viewChild,
  type AfterViewInit,
  type OnDestroy,
} from '@angular/core';
import { css } from '@codemirror/lang-css';
import { html } from '@codemirror/lang-html';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { basicSetup, EditorView } from 'codemirror';

/** Something wrong in a text: lines and columns count from 1. */
export interface CodeFault {
  readonly line: number;
  readonly column: number;
  readonly message: string;
  readonly severity: 'blocks' | 'worth-fixing';
}

/** HTML or CSS as one types it (CodeMirror), checked meanwhile. */
@Component({
  selector: 'dm-code-field',
  template: `<div #place class="code"></div>`,
  styles: `
    .code {
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      overflow: hidden;
      background: var(--surface);
    }
    .code ::ng-deep .cm-editor {
      font-size: 0.8125rem;
      max-height: var(--code-height, 300px);
    }
    .code ::ng-deep :is(.cm-activeLine, .cm-activeLineGutter) {
      background: none;
    }
    .code ::ng-deep .cm-gutters {
      background: var(--ground);
      border-color: var(--rule-soft);
      color: var(--quiet);
    }
    .code ::ng-deep .cm-scroller {
      font-family: 'IBM Plex Mono', monospace;
    }
    .code ::ng-deep .cm-focused {
      outline: 2px solid var(--moss);
      outline-offset: -2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CodeField implements AfterViewInit, OnDestroy {
  readonly label = input.required<string>();
  readonly language = input.required<'html' | 'css'>();
  readonly value = input.required<string>();
  /** What is wrong with a text. */
  readonly check = input<(text: string) => readonly CodeFault[]>(() => []);
  readonly changed = output<string>();
  private readonly place = viewChild.required<ElementRef<HTMLElement>>('place');
  private view: EditorView | null = null;

  constructor() {
    effect(() => {
      const value = this.value();
      const { view } = this;
      // Only what comes from outside is set; what was typed here is there already.
      if (view && view.state.doc.toString() !== value)
        untracked(() => view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: value } }));
    });
  }

  ngAfterViewInit(): void {
    this.view = new EditorView({
      parent: this.place().nativeElement,
      doc: this.value(),
      extensions: [
        basicSetup,
        this.language() === 'css' ? css() : html(),
        lintGutter(),
        linter(({ state }) => this.diagnosticsOf(state.doc.toString())),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': this.label() }),
        EditorView.updateListener.of(({ docChanged, state }) => {
          const text = state.doc.toString();
          if (docChanged && text !== this.value()) this.changed.emit(text);
        }),
      ],
    });
  }

  ngOnDestroy(): void {
    this.view?.destroy();
  }

  private diagnosticsOf(text: string): Diagnostic[] {
    const lines = this.view?.state.doc;
    if (!lines) return [];
    return this.check()(text).map(({ line, column, message, severity }) => {
      const found = lines.line(Math.min(line, lines.lines));
      const from = Math.min(found.from + column - 1, found.to);
      return { from, to: found.to, message, severity: severity === 'blocks' ? 'error' : 'warning' };
    });
  }
}
