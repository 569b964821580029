import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { documentFindingsOf, draftLinkFindingsOf, mendsOf } from '../../src/checks/index.js';
import { EMPTY_DOCUMENT, newBlock, type PageDocument } from '../../src/document/index.js';
import type { PageId, PictureId } from '../../src/plan/index.js';
import {
  FINDINGS,
  findingWords,
  MENDS,
  RELEASE_FAULTS,
  releaseFaultWords,
  type ReleaseFaultCode,
} from '../../src/words/index.js';

const SOURCE = join(import.meta.dirname, '../../src');
const CHECKS = join(SOURCE, 'checks');
const RELEASES = join(SOURCE, '../../server/src/heart/releases');
/** Files that say by code alone what they find or refuse. */
const SILENT = [
  ...readdirSync(CHECKS).flatMap((name) => (name.endsWith('.ts') ? [join(CHECKS, name)] : [])),
  ...['apply.ts', 'approvals.ts', 'conflicts.ts', 'judge.ts'].map((name) => join(RELEASES, name)),
];

/** Texts in a file that somebody would read as a sentence. */
function sentencesIn(path: string): string[] {
  const file = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.ES2022, true);
  const found: string[] = [];
  const visit = (node: ts.Node) => {
    const isText = ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node) || ts.isTemplateHead(node);
    if (isText && !ts.isImportDeclaration(node.parent) && /^\p{Lu}\p{Ll}+ /u.test(node.text)) found.push(node.text);
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

const OTHERS = ['../../server/src', '../../contracts/src'].map((path) => join(SOURCE, path));
/**
 * Whole sentences for people in the code of the server and its contracts: not of logs, figures, errors of ours, what is
 * told at a start, a verification, or the description of the API.
 */
function sentencesOfAnswers(): string[] {
  const found: string[] = [];
  const OURS = /^(log\.\w+|gauge|durations|counter|tally|(new )?(Error|TypeError|BackupError)|console\.\w+)$/;
  const files = OTHERS.flatMap((room) =>
    readdirSync(room, { recursive: true, encoding: 'utf8' }).map((path) => join(room, path)),
  );
  for (const path of files) {
    if (!path.endsWith('.ts') || /backup|verify|telling|(main|openapi)\.ts$/.test(path)) continue;
    const file = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.ES2022, true);
    const visit = (node: ts.Node): void => {
      const isCall = ts.isCallExpression(node) || ts.isNewExpression(node);
      if (isCall && OURS.test(node.expression.getText())) return;
      if (ts.isPropertyAssignment(node) && node.name.getText() === 'summary') return;
      const texts = ts.isTemplateExpression(node)
        ? [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)]
        : ts.isStringLiteralLike(node)
          ? [node.text]
          : [];
      for (const text of texts)
        if (/\p{L}{2,} [^?@=]*[.!]\s*$/u.test(text) && !/WHERE|SELECT|UPDATE/.test(text))
          found.push(`${path}: ${text}`);
      ts.forEachChild(node, visit);
    };
    visit(file);
  }
  return found;
}

const page = (metadata: Partial<PageDocument['metadata']>, ...blocks: PageDocument['blocks']): PageDocument => ({
  ...EMPTY_DOCUMENT,
  metadata: { ...EMPTY_DOCUMENT.metadata, ...metadata },
  blocks,
});

it('sentences that the server answers with stand in the catalogue', () => {
  expect(sentencesOfAnswers()).toEqual([]);
});

describe('words of what is found', () => {
  it('stand in the catalogue, and nowhere else', () => {
    expect(SILENT.length).toBeGreaterThan(14);
    expect(SILENT.flatMap(sentencesIn)).toEqual([]);
    // The look itself can see one.
    expect(sentencesIn(join(SOURCE, 'words/findings.ts')).length).toBeGreaterThan(20);
  });

  it('are made of code and params alone, in another language as well as in this one', () => {
    const documents = [
      page({}),
      page({ title: 'x'.repeat(90), description: 'y'.repeat(300), css: 'main { display: none } p {' }),
      page(
        { title: 'Two' },
        newBlock('opening', 'a', { heading: '' }),
        newBlock('opening', 'b', {
          heading: '‹Heading›',
          picture: { pictureId: 3 as PictureId, description: '', isDecorative: false },
        }),
        newBlock('frame', 'c', { address: 'nothing', title: '' }),
        newBlock('countdown', 'd', { to: 'moment', moment: null }),
        newBlock('ownHtml', 'e', { code: '<p>x', title: '' }),
        newBlock('text', 'f', { text: [] }),
      ),
    ];
    const found = [
      ...documents.flatMap(documentFindingsOf),
      ...draftLinkFindingsOf(
        page({}, newBlock('opening', 'g', { button: { label: 'Go', target: { kind: 'page', pageId: 9 as PageId } } })),
        1 as PageId,
        () => ({ name: 'Old fares', off: 'ended' }),
      ),
    ];
    const codes = new Set(found.map(({ code }) => code));
    expect(codes.size).toBeGreaterThan(10);
    // Each sentence in brackets: what comes without them was not made here.
    const pseudo = (code: string, params: object) => {
      const words = findingWords(code, params, () => 'then');
      return words && { message: `[${words.message}]`, mend: `[${words.mend}]` };
    };
    for (const { code, params, message, mend } of found)
      expect(pseudo(code, JSON.parse(JSON.stringify(params)) as object)).toEqual({
        message: `[${message}]`,
        mend: `[${mend}]`,
      });
    const labels = documents.flatMap((document) =>
      documentFindingsOf(document).flatMap((finding) => mendsOf(document, finding).map(({ label }) => label)),
    );
    expect(labels).toContain(MENDS.shorten());
  });

  it('of a code that another version knows are its own, as it wrote them', () => {
    expect(findingWords('found-by-a-later-version', {}, String)).toBeNull();
    expect(Object.keys(FINDINGS).length).toBeGreaterThan(25);
  });

  it('of every fault of a release hold what they are told, and no more', () => {
    const told = { why: 'WHY', address: 'ADDRESS', page: 'PAGE', by: 'BY', site: 'SITE', approvals: 2, line: 7 };
    const instants = { at: 1, became: 2, next: 3, from: 4, until: 5 };
    const write = { at: (at: number) => `<${at}>`, end: (at: number) => `<to ${at}>` };
    for (const code of Object.keys(RELEASE_FAULTS) as ReleaseFaultCode[]) {
      const words = releaseFaultWords(code, { ...told, ...instants } as never, write);
      expect(words).toMatch(/\S/);
      expect(words).not.toMatch(/undefined|null|NaN|\[object/);
    }
    const taken = { address: 'a.example/b', page: null, from: 4, until: null, by: null, at: null };
    expect(releaseFaultWords('address-taken', taken as never, write)).toBe('a.example/b is another page from <4> on.');
    expect(releaseFaultWords('address-taken', { ...taken, until: 5, at: 6 } as never, write)).toBe(
      'a.example/b is another page from <4> to <to 5>, released by the system on <6>.',
    );
  });
});
