import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { checkTypedPath } from '../../src/address/index.js';
import { documentFindingsOf, draftLinkFindingsOf, mendsOf } from '../../src/checks/index.js';
import { documentFromJSON, EMPTY_DOCUMENT, newBlock, type Fault, type PageDocument } from '../../src/document/index.js';
import type { PageId, PictureId } from '../../src/plan/index.js';
import type { Instant } from '../../src/time/index.js';
import {
  FAULTS,
  faultWords,
  FINDINGS,
  findingWords,
  MENDS,
  RELEASE_FAULTS,
  releaseFaultWords,
  summaryWords,
  type FaultCode,
  type ReleaseFaultCode,
  type SummaryPart,
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

const OTHERS = ['../../server/src', '../../contracts/src', '.'].map((path) => join(SOURCE, path));
/**
 * Whole sentences for people in the code of the core, the server and its contracts: not of logs, figures, errors of ours,
 * what is told at a start, a verification, or the description of the API. Blocks and starts have first texts of pages.
 */
function sentencesOfAnswers(): string[] {
  const found: string[] = [];
  const OURS =
    /^(swallowed|absent|log\.\w+|gauge|durations|counter|tally|(new )?(Error|TypeError|BackupError)|console\.\w+)$/;
  const files = OTHERS.flatMap((room) =>
    readdirSync(room, { recursive: true, encoding: 'utf8' }).map((path) => join(room, path)),
  );
  for (const path of files) {
    if (!path.endsWith('.ts') || /backup|verify|telling|(main|openapi)\.ts$|\/(blocks|starts|words)\//.test(path))
      continue;
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
        if (/\p{L}{2,} [^?@=]*[.!]\s*$|^(an?|the|no) \p{L}+$/u.test(text) && !/WHERE|SELECT|UPDATE/.test(text))
          found.push(`${path}: ${text}`);
      ts.forEachChild(node, visit);
    };
    visit(file);
  }
  return found;
}

/** Code and templates of a folder, as one text. */
const textOf = (folder: string): string =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((path) => /\.(ts|html)$/.test(path))
    .map((path) => readFileSync(join(folder, path), 'utf8'))
    .join('\n');

const page = (metadata: Partial<PageDocument['metadata']>, ...blocks: PageDocument['blocks']): PageDocument => ({
  ...EMPTY_DOCUMENT,
  metadata: { ...EMPTY_DOCUMENT.metadata, ...metadata },
  blocks,
});

it('sentences that the server answers with stand in the catalogue', () => {
  expect(sentencesOfAnswers()).toEqual([]);
});

it('nothing stands in the catalogue that nobody says', () => {
  const [web, server, contracts] = ['web/src/app', 'server/src', 'contracts/src'].map((room) =>
    textOf(join(SOURCE, '../..', room)),
  );
  const idle: string[] = [];
  for (const [folder, text] of [
    ['screens', web],
    ['answers', `${server}${contracts}`],
  ] as const)
    for (const file of readdirSync(join(SOURCE, 'words', folder)))
      for (const [, key] of (
        readFileSync(join(SOURCE, 'words', folder, file), 'utf8').split('const say =')[1] ?? ''
      ).matchAll(/^  (\w+):/gm))
        if (!new RegExp(`\\b(say|common)\\s*\\.\\s*${key}\\b`).test(text ?? '')) idle.push(`${file}: ${key}`);
  expect(idle).toEqual([]);
});

describe('words of what a release did', () => {
  const write = { at: (at: number) => `<${at}>`, end: (at: number) => `<to ${at}>` };
  const during = { from: 4, until: 9 } as never as { from: Instant; until: Instant };
  const open = { from: null, until: null };
  it('are made of codes, as they were kept, for whoever reads', () => {
    const parts: SummaryPart[] = [
      { code: 'released', params: { revision: 3, more: 1, ...during } },
      { code: 'released', params: { revision: null, more: 0, ...open }, pages: 1200 },
      { code: 'taken-off', params: during },
      { code: 'moved', params: { path: '/night', at: 4 as Instant } },
      { code: 'moved', params: { path: '/night', at: 4 as Instant, from: 'a.example/day', to: 'b.example/night' } },
      { code: 'shifted', params: { by: -1 } },
      { code: 'shifted', params: { by: 3 } },
      { code: 'restored', params: { isPlanned: false } },
      { code: 'put', params: { name: 'Fares', revision: 2, ...open } },
      { code: 'put-nothing', params: { name: 'Fares', ...during } },
    ];
    const kept = JSON.parse(JSON.stringify(parts)) as SummaryPart[];
    expect(summaryWords(kept, write).split('; ')).toEqual([
      'Put revision 3 live from <4> until <to 9>, and 1 more period',
      'Put the drafts live (1,200 pages)',
      'Took off from <4> until <to 9>',
      'Moved to /night on <4>',
      'Moved from a.example/day to b.example/night on <4>',
      'Shifted by 1 day earlier',
      'Shifted by 3 days later',
      'Restored from the bin, off',
      'Put revision 2 of Fares on its pages',
      'Took Fares off its pages from <4> until <to 9>',
    ]);
    const undid: SummaryPart = { code: 'undid', params: { what: kept.slice(3, 4), at: 8 as Instant } };
    expect(summaryWords([undid], write)).toBe('Undid “Moved to /night on <4>” of <8>');
    expect(summaryWords([{ code: 'undid', params: { what: 'Put it live', at: 8 as Instant } }], write)).toBe(
      'Undid “Put it live” of <8>',
    );
  });
});

describe('words of what is wrong', () => {
  const NEEDS = {
    ...{ label: 'LABEL', example: 'EXAMPLE', scheme: 'ftp:', path: '/PATH', base: '/BASE', why: 'WHY', rule: 'import' },
    ...{
      selectors: 'main',
      selector: 'h1',
      type: 'text',
      text: 'TEXT',
      property: 'PROPERTY',
      value: 'VALUE',
      what: 'WHAT',
      tag: 'script',
      key: 'KEY',
      href: 'HREF',
      name: 'NAME',
      all: ['ONE', 'TWO'],
      names: ['ONE', 'TWO'],
      place: '{PLACE}',
    },
    ...{ least: 1, most: 1200, longest: 80, length: 1300, count: 3, fault: { code: 'path-space', params: {} } },
  };
  it('are whole for each code, and each code is said somewhere', () => {
    const sources = [SOURCE, ...OTHERS].map(textOf).join('\n');
    for (const code of Object.keys(FAULTS) as FaultCode[]) {
      const words = faultWords({ code, params: NEEDS });
      expect(words).toMatch(/\S{2}/);
      expect(words).not.toMatch(/undefined|null|NaN|\[object/);
      expect([code, sources.split(`'${code}'`).length > 2]).toEqual([code, true]);
    }
  });

  it('come with what was read, and again from code and params alone', () => {
    const spaced = checkTypedPath('a b');
    expect(spaced.ok ? null : spaced.why).toEqual({
      code: 'path-space',
      params: {},
      message: 'Use a hyphen instead of a space.',
    });
    const link = { type: 'link', attrs: { target: { kind: 'outside', url: 'ftp://a.example' } } };
    const text = { type: 'text', text: 'here', marks: [link] };
    const read = documentFromJSON({
      metadata: { title: '', description: '' },
      blocks: [
        {
          id: 'abcd',
          type: 'text',
          fields: { body: { type: 'doc', content: [{ type: 'paragraph', content: [text] }] } },
        },
      ],
    });
    const faults = read.ok ? [] : (JSON.parse(JSON.stringify(read.faults)) as Fault[]);
    expect(faults.map(({ path, message }) => [path, message])).toEqual([
      ['blocks[0].fields.body', 'A link in this text: ftp: addresses can’t be used here.'],
    ]);
    for (const fault of faults) expect(faultWords(fault)).toBe(fault.message);
    expect(findingWords('own-css', { line: 2, fault: { code: 'css-address', params: {} } }, String)?.message).toContain(
      'Own CSS, line 2: Pages load nothing',
    );
    // As a version before kept it.
    expect(findingWords('own-css', { line: 2, fault: 'This is wrong.' }, String)?.message).toBe(
      'Own CSS, line 2: This is wrong.',
    );
  });
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
      ...documents.flatMap((document) => documentFindingsOf(document)),
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
    const told = {
      why: { code: 'path-space', params: {} },
      address: 'ADDRESS',
      page: 'PAGE',
      by: 'BY',
      site: 'SITE',
      approvals: 2,
      line: 7,
      ...{ place: 'text', ratio: 1.2, isDark: true },
    };
    const instants = { at: 1, became: 2, next: 3, from: 4, until: 5 };
    const write = { at: (at: number) => `<${at}>`, end: (at: number) => `<to ${at}>` };
    for (const code of Object.keys(RELEASE_FAULTS) as ReleaseFaultCode[]) {
      const words = releaseFaultWords(code, { ...told, ...instants } as never, write);
      expect(words).toMatch(/\S/);
      expect(words).not.toMatch(/undefined|null|NaN|\[object/);
    }
    const blank = { code: 'placeholder', params: { label: 'Words', text: 'Say it' } };
    expect(releaseFaultWords('part-blocks', blank as never, write)).toMatch(/^Words still says “Say it”\. \S/);
    const taken = { address: 'a.example/b', page: null, from: 4, until: null, by: null, at: null };
    expect(releaseFaultWords('address-taken', taken as never, write)).toBe('a.example/b is another page from <4> on.');
    expect(releaseFaultWords('address-taken', { ...taken, until: 5, at: 6 } as never, write)).toBe(
      'a.example/b is another page from <4> to <to 5>, released by the system on <6>.',
    );
  });
});
