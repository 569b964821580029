import { describe, expect, it } from '@jest/globals';
import { checkTypedPath, NOT_FOUND_PATH, parseHost } from '@domatium/core/address';
import { documentFindingsOf } from '@domatium/core/checks';
import { documentFromJSON, picturesOf } from '@domatium/core/document';
import { isThemeKey } from '@domatium/core/theme';
import { demoPictures, demoScenario, randomFrom, seedOf, writePaper, type DemoIds } from '../../src/index.js';

const scenario = demoScenario('https://lists.example/join');
const papers = scenario.portfolios.flatMap((portfolio) => portfolio.papers ?? []);
const pictures = new Set(demoPictures().map(({ key }) => key));
let blocks = 0;
const ids: DemoIds = {
  page: () => 1,
  picture: (key) => (pictures.has(key) ? 1 : 0),
  paper: (key) => 1 + papers.findIndex((paper) => paper.key === key),
  piece: () => 1,
  block: () => `block${blocks++}`,
  listService: () => 'https://lists.example/join',
};
const minutes = ({ day, time }: { day: number; time: string }) =>
  day * 1440 + Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

describe('the demo scenario', () => {
  it('has about 300 pages of two clients, with a past, a present and a future', () => {
    const [first, second] = scenario.portfolios.map(({ pages }) => pages.length);
    expect((first ?? 0) + (second ?? 0)).toBeGreaterThan(270);
    const lives = scenario.portfolios.flatMap(({ pages }) => pages.flatMap((page) => page.lives));
    expect(lives.some(({ until }) => until && until.day < -600)).toBe(true);
    expect(lives.some(({ from }) => from.day === 0)).toBe(true);
    expect(lives.some(({ from }) => from.day > 0 && from.day <= 7)).toBe(true);
    expect(
      scenario.portfolios.flatMap(({ pages }) => pages.filter((page) => page.lives.length === 0)).length,
    ).toBeGreaterThan(5);
  });
  it('is the same every time it is made', () => {
    const plain = () =>
      JSON.stringify(demoScenario('https://lists.example/join'), (_, value: unknown) =>
        typeof value === 'function' ? 'document' : value,
      );
    expect(plain()).toBe(plain());
    expect(demoPictures()).toEqual(demoPictures());
    const random = randomFrom(seedOf('x'));
    expect([random(), random()]).not.toEqual([randomFrom(seedOf('y'))(), 0]);
  });
  it('has documents that are PDF, the same bytes every time', async () => {
    for (const paper of papers) {
      const bytes = await writePaper(paper);
      expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
      expect(await writePaper(paper)).toEqual(bytes);
    }
  });
  it('uses invented names under .example only, themes that ship, and addresses that can be typed', () => {
    for (const { sites, domains, pages } of scenario.portfolios) {
      for (const domain of domains) expect(parseHost(domain)?.domain).toBe(domain);
      for (const { host, theme } of sites) expect([host.endsWith('.example'), isThemeKey(theme)]).toEqual([true, true]);
      for (const { path, role } of pages)
        expect(role === 'not-found' ? path === NOT_FOUND_PATH : checkTypedPath(path).ok).toBe(true);
    }
    for (const { email } of scenario.accounts) expect(email).toMatch(/\.example$/);
  });
  it('has documents that are valid, described and ready to be released, and one draft that is not yet', () => {
    const unready: string[] = [];
    for (const page of scenario.portfolios.flatMap(({ pages }) => pages))
      for (const make of page.documents) {
        const document = make(ids);
        expect(documentFromJSON(JSON.parse(JSON.stringify(document)))).toMatchObject({ ok: true });
        const blocking = documentFindingsOf(document).filter(({ severity }) => severity === 'blocks');
        if (page.lives.length) expect(blocking).toEqual([]);
        else unready.push(...blocking.map(({ message }) => `${page.name}: ${message}`));
        for (const { value } of picturesOf(document))
          expect([value.pictureId, value.description.length > 10]).toEqual([1, true]);
      }
    expect(unready).toEqual(['Crew and family days: The page has no title.']);
  });
  it('decides every stretch before it begins, in order, and names pages and sites that exist', () => {
    for (const { pages, sites } of scenario.portfolios) {
      const keys = new Set(pages.map(({ key }) => key));
      expect(keys.size).toBe(pages.length);
      for (const page of pages) {
        expect(sites.some(({ key }) => key === page.site)).toBe(true);
        for (const { from, until, decided, afterwards, revision } of page.lives) {
          expect(minutes(decided)).toBeLessThan(minutes(from));
          expect(minutes(page.made)).toBeLessThan(minutes(decided));
          if (until) expect(minutes(from)).toBeLessThan(minutes(until));
          if (afterwards?.kind === 'redirect') expect(keys.has(afterwards.to)).toBe(true);
          expect(page.documents[revision]).toBeDefined();
        }
      }
    }
  });
  it('draws pictures as whole drawings, each with its own', () => {
    const drawn = demoPictures();
    expect(new Set(drawn.map(({ svg }) => svg)).size).toBe(drawn.length);
    for (const { svg } of drawn) expect(svg).toMatch(/^<svg [^>]*viewBox="0 0 1800 1200">[\s\S]*<\/svg>$/);
    for (const { svg } of drawn) expect(svg).not.toMatch(/NaN|undefined|Infinity/);
  });
});
