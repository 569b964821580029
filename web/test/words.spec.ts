import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  ASTWithSource,
  Binary,
  Conditional,
  Interpolation,
  LiteralPrimitive,
  ParenthesizedExpression,
  parseTemplate,
  TmplAstBoundText,
  TmplAstText,
  type AST,
} from '@angular/compiler';
import type { Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import ts from 'typescript';
import { element, NOW, open, pass, press, previewOf, settle, surround } from './help';

const ROOT = join(__dirname, '../src/app');
const files = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((one) =>
    one.isDirectory() ? files(join(folder, one.name)) : [join(folder, one.name)],
  );
/** Attributes and inputs that people read. */
const SAID = /^(aria-label|placeholder|title|alt|label|words|heading|lead|act|text|note|ngbTooltip)$/;
const LETTERS = /\p{L}/u;

/** What a template says by itself. */
function saidBy(template: string): string[] {
  const found: string[] = [];
  const look = (text: string) => void (LETTERS.test(text.replace(/&\w+;/g, '')) && found.push(text.trim()));
  const expression = (given: AST | null): void => {
    const ast = given instanceof ASTWithSource ? given.ast : given;
    if (ast instanceof ParenthesizedExpression) expression(ast.expression);
    else if (ast instanceof LiteralPrimitive && typeof ast.value === 'string') look(ast.value);
    else if (ast instanceof Conditional) [ast.trueExp, ast.falseExp].forEach(expression);
    else if (ast instanceof Binary && ['+', '??', '||'].includes(ast.operation))
      [ast.left, ast.right].forEach(expression);
    else if (ast instanceof Interpolation) {
      ast.strings.forEach(look);
      ast.expressions.forEach(expression);
    }
  };
  const visit = (node: unknown): void => {
    if (node instanceof TmplAstText) return look(node.value);
    if (node instanceof TmplAstBoundText) return expression(node.value);
    const { attributes = [], inputs = [], ...rest } = node as Record<string, unknown[]>;
    for (const { name, value } of attributes as { name: string; value: string }[]) if (SAID.test(name)) look(value);
    for (const { name, value } of inputs as { name: string; value: AST }[]) if (SAID.test(name)) expression(value);
    for (const key of ['children', 'branches', 'cases', 'groups']) (rest[key] ?? []).forEach(visit);
    if (rest['empty']) visit(rest['empty']);
  };
  parseTemplate(template, '').nodes.forEach(visit);
  return found;
}

const SENTENCE = /^(?:an?|the|no) \p{L}+$|\p{L}{2,}[,.:;!?…”’)]*\s+[\p{L}“‘(]|^\d+ \p{L}{3,}/u;
/** Not read by anybody: classes, tags of languages. */
const CODE = /^([\w-]+ )*(ag-[\w-]+|ember|number)$|^ar bg ca |[{(]|^px |^Own font$|^after the sign-in$/;

const WORD_BESIDE = /^\p{Lu}\p{Ll}+ $|^ \(?\p{Ll}{2,}\)?$/u;

/** Sentences in code, outside of decorators, and its inline templates. */
function saidIn(source: string): string[] {
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isPropertyAssignment(node) && node.name.getText() === 'template' && ts.isStringLiteralLike(node.initializer))
      return void found.push(...saidBy(node.initializer.getText().slice(1, -1)));
    if (ts.isPropertyAssignment(node) && /^(styles|selector)$/.test(node.name.getText())) return;
    if (ts.isNewExpression(node) && /Error$/.test(node.expression.getText())) return;
    if (
      ts.isCallExpression(node) &&
      /^(matches|querySelector|querySelectorAll|closest)$/.test(node.expression.getText().split('.').at(-1) ?? '')
    )
      return;
    const texts = ts.isTemplateExpression(node)
      ? [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)]
      : ts.isStringLiteralLike(node)
        ? [node.text]
        : [];
    for (const text of texts) if (SENTENCE.test(text) && !CODE.test(text)) found.push(text);
    // A word beside what is filled in, or what a choice or verdict is called.
    if (ts.isTemplateExpression(node)) found.push(...texts.filter((text) => WORD_BESIDE.test(text)));
    if (ts.isPropertyAssignment(node) && /^(label|words|word|lead)$/.test(node.name.getText()))
      if (ts.isStringLiteralLike(node.initializer) && LETTERS.test(node.initializer.text))
        found.push(node.initializer.text);
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile('', source, ts.ScriptTarget.Latest, true));
  return found;
}

describe('words of the interface', () => {
  it('stand in the catalogue: no template and no code says anything by itself', () => {
    const said = files(ROOT).flatMap((file) => {
      const text = readFileSync(file, 'utf8');
      const found = file.endsWith('.html') ? saidBy(text) : file.endsWith('.ts') ? saidIn(text) : [];
      return found.map((words) => `${file.slice(ROOT.length + 1)}: ${words}`);
    });
    expect(said).toEqual([]);
    expect(
      saidBy('<p title="Go">A {{ n() === 1 ? "page" : "b" }}</p>@if (x) {<b [label]="y ?? \'None\'"></b>}'),
    ).toEqual(['Go', 'A', 'page', 'b', 'None']);
    expect(saidIn("const a = 'two words'; throw new Error('of us only'); say(`${a} pages of it`);")).toEqual([
      'two words',
      ' pages of it',
    ]);
    expect(saidIn("const a = { label: 'any' }; say(`Choose ${b}`); c ?? 'a page'")).toEqual([
      'any',
      'Choose ',
      'a page',
    ]);
  });

  it('come in another language wherever they are shown', async () => {
    const screens = join(__dirname, '../../core/src/words/screens');
    for (const file of readdirSync(screens)) {
      const { say } = (await import(join(screens, file))) as { say: Record<string, unknown> };
      for (const [key, value] of Object.entries(say))
        say[key] =
          typeof value === 'function'
            ? (...given: unknown[]) => `⟦${(value as (...all: unknown[]) => string)(...given)}⟧`
            : `⟦${String(value)}⟧`;
    }
    // Asked for only now: what they hold from the start is in that language too.
    const { PreparedSheet } = await import('../src/app/prepared/prepared-sheet');
    const { TodoSheet } = await import('../src/app/tasks/todo-sheet');
    const { KeysHelp } = await import('../src/app/shell/keys-help');
    const { ShareSheet } = await import('../src/app/reviews/share-sheet');
    const data = { madeAt: NOW, changedAt: NOW, madeBy: '1', changedBy: '2', startsAt: null, isLapsed: true };
    const prepared = {
      ...{ id: 5, name: '5', version: 2, ...data, pages: [{ id: 7, name: '7' }], items: [{ id: 4, name: '4' }] },
      changes: [{ act: 'bin', pageId: 7, afterwards: { kind: 'gone' } }],
      stock: [{ act: 'put', itemId: 4, from: 'now', until: null }],
      approvals: { needed: 2, given: [{ id: 3, name: '3' }], waitsFor: [{ id: 1, name: '1' }] },
    };
    for (const screen of [PreparedSheet, TodoSheet, KeysHelp, ShareSheet] as Type<unknown>[]) {
      TestBed.resetTestingModule();
      const { api } = surround();
      api.on('GET prepared', () => [prepared]);
      api.on('POST releases/preview', () => previewOf());
      api.on('GET pages/:pageId/review', () => ({ remarks: [], since: [] }));
      api.on('GET tasks', () => []);
      api.on('GET private-links', () => []);
      const fixture = await open(screen);
      if (screen === PreparedSheet) await press(fixture, /^5/);
      await pass(300);
      await settle(fixture);
      // What stands on a key is its name.
      for (const key of element(fixture).querySelectorAll('kbd')) key.remove();
      const shown = [element(fixture).textContent ?? ''];
      for (const one of element(fixture).querySelectorAll('*'))
        for (const { name, value } of one.attributes) if (SAID.test(name)) shown.push(value);
      let plain = shown.join(' ');
      while (plain.includes('⟧')) plain = plain.replace(/⟦[^⟦⟧]*⟧/g, '');
      expect([screen.name, plain.match(/[^\s⟦⟧]*\p{L}[^⟦⟧]*/gu)?.map((one) => one.trim()) ?? []]).toEqual([
        screen.name,
        [],
      ]);
    }
  });
});
