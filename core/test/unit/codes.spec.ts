import { gzipSync } from 'node:zlib';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  codeFaults,
  codeFromJSON,
  codeOnSite,
  codesFromText,
  codesHtml,
  codesOn,
  codesScript,
  codesToText,
  consentHtml,
  consentLanguage,
  NEW_CODE,
  originOf,
  runsOn,
  sourcesOf,
  type Code,
  type CodeReach,
  type SiteCode,
} from '../../src/codes/index.js';
import { compose, cutPage, EMPTY_FRAME, SLOTS, slotMark } from '../../src/frame/index.js';

const code = (more: Partial<Code>): Code => ({ ...NEW_CODE, ...more });
const around = (more: Partial<SiteCode>): SiteCode => ({
  ...{ purpose: 'measuring', src: 'https://count.example/c.js', place: 'head', load: 'after', data: [], hosts: [] },
  ...{ on: 'all', except: [] },
  ...more,
});
const faultsOf = (more: object) => {
  const read = codeFromJSON({ ...NEW_CODE, ...more });
  return read.ok ? [] : read.faults.map(({ path, code: what }) => `${path} ${what}`);
};

describe('where a code runs', () => {
  it('is the same at the edge as it is said: on what it names, but not on its exceptions', () => {
    const path = fc.constantFrom('/', '/events', '/events/summer', '/eventsx', '/about');
    const reach = fc.oneof(
      fc.record({ siteId: fc.constantFrom(1, 2), path: fc.option(path) }),
      fc.record({ pageId: fc.constantFrom(11, 12) }),
    );
    const reaches: fc.Arbitrary<readonly CodeReach[]> = fc.array(reach, { maxLength: 4 });
    const spot = fc.record({ siteId: fc.constantFrom(1, 2, 3), path, pageId: fc.constantFrom(11, 12, 13) });
    fc.assert(
      fc.property(fc.oneof(fc.constant('all' as const), reaches), reaches, spot, (on, except, at) => {
        const one = code({ on, except });
        const here = codeOnSite(one, '/-/x.js', at.siteId);
        const kept = here && codesFromText(codesToText({ loader: '/-/l.js', codes: [here] }));
        expect(kept ? codesOn(kept, at.path, at.pageId).length === 1 : false).toBe(runsOn(one, at));
      }),
    );
  });
});

describe('what a code says', () => {
  it('is read, or refused with what is wrong with it', () => {
    expect(faultsOf({})).toEqual([]);
    expect(
      faultsOf({
        ...{ purpose: 'tracking', place: 'body', load: 'soon', on: [{ siteId: 'x' }], except: 'all' },
        source: { kind: 'address', url: 'javascript:alert(1)' },
        data: [
          { name: 'on click', value: '' },
          { name: 'id', value: '1' },
          { name: 'id', value: '2' },
        ],
        hosts: ['https://a.example; script-src *', "'unsafe-inline'", 'b.example/path', '*'],
      }),
    ).toEqual([
      ...['purpose part-choice', 'place part-choice', 'load part-choice', 'source.url outside-scheme'],
      ...['data[0].name code-data-name', 'data[2].name element-twice'],
      ...['hosts[0] code-host', 'hosts[1] code-host', 'hosts[2] code-host', 'hosts[3] code-host'],
      ...['on[0] code-reach', 'except code-reach-count'],
    ]);
    expect(faultsOf({ source: { kind: 'address', url: 'https://*/c.js' } })).toEqual(['source.url code-host']);
    expect(faultsOf({ source: { kind: 'script', script: 'x'.repeat(60_000) } })).toEqual([
      'source.script text-too-long',
    ]);
    expect([originOf('count.example'), originOf('http://127.0.0.1:4690/'), originOf('')]).toEqual([
      ...['https://count.example', 'http://127.0.0.1:4690', null],
    ]);
  });
  it('is not all that it needs to run, while it has no script or no page', () => {
    const faults = (more: Partial<Code>) => codeFaults(code(more)).map(({ code: what }) => what);
    expect(faults({ on: [] })).toEqual(['code-empty', 'code-nowhere']);
    expect(faults({ source: { kind: 'script', script: '<script>a()</script>' } })).toEqual(['code-tags']);
    expect(faults({ source: { kind: 'script', script: 'a()' } })).toEqual([]);
  });
});

describe('codes around a page', () => {
  const language = 'de-AT';
  it('stand in its head and at its end, each as it is to start; what is asked about waits', () => {
    const codes = [
      around({ purpose: 'necessary', load: 'at-once', src: '/-/a.js', data: [{ name: 'site', value: '"><script>' }] }),
      around({ purpose: 'necessary', load: 'at-once', src: '/-/b.js', place: 'end' }),
      around({ src: 'https://count.example/c.js?a=1&b=2', data: [{ name: 'x', value: `'</script>"` }] }),
      around({ purpose: 'necessary', load: 'first-act', src: '/-/d.js', place: 'end' }),
    ];
    const { head, end } = codesHtml(codes, '/-/loader.js', language);
    expect(head.match(/<script\b/g)).toHaveLength(2);
    expect(head).toContain('<script src="/-/a.js" data-site="&quot;&gt;&lt;script&gt;"></script>');
    const config = /data-codes="([^"]*)"/.exec(head)?.[1] ?? '';
    const unescaped = config.replace(
      /&(amp|lt|gt|quot|#39);/g,
      (all) => ({ '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"', '&#39;': "'" })[all] ?? all,
    );
    expect(JSON.parse(unescaped)).toEqual([
      ['https://count.example/c.js?a=1&b=2', 0, 'after', 'measuring', [['x', `'</script>"`]]],
      ['/-/d.js', 1, 'first-act', '', []],
    ]);
    expect(end).toMatch(/^<script src="\/-\/b\.js"><\/script><p class="choices-again" hidden>.*Nur Notwendiges/);
    const none = codesHtml([around({ purpose: 'necessary', load: 'at-once' })], '/-/loader.js', language);
    expect([none.head.includes('loader'), none.end]).toEqual([false, '']);
  });
  it('are put into pages for visitors, in the language of the page, and into none without them', () => {
    const page = `<!doctype html><html lang="nb"><head>${SLOTS.map(slotMark).join('')}</head></html>`;
    const running = { codes: [around({})], loader: '/-/loader.js' };
    const whole = compose(cutPage(page), { ...EMPTY_FRAME, running });
    expect(whole).toContain('Bare det nødvendige');
    expect(compose(cutPage(page), EMPTY_FRAME)).not.toMatch(/script|choices/);
  });
  it('ask about each purpose that is not necessary, with two answers that are alike', () => {
    const one = consentHtml(['measuring'], 'en').markup;
    const both = consentHtml(['measuring', 'advertising'], 'xx').markup;
    expect(one.match(/<button type="button" data-allow="[a-z]+">/g)).toHaveLength(2);
    expect([one.includes('checkbox'), both.match(/checkbox/g)?.length]).toEqual([false, 2]);
    // None is ticked before somebody ticks it.
    expect(both).not.toContain('checked');
    expect(['nn-NO', 'pt-BR', 'ja'].map(consentLanguage)).toEqual(['nb', 'pt', 'en']);
  });
  it('weigh no more than 2 KB with what asks', () => {
    const sent = gzipSync(codesScript + consentHtml(['measuring', 'advertising'], 'de').markup);
    expect(sent.length).toBeLessThanOrEqual(2_048);
  });
  it('are what browsers are told to allow, and nothing else is', () => {
    const { script, connect, image } = sourcesOf([
      around({ src: 'https://count.example/a;b,c.js?x=1' }),
      around({ src: '/-/here.js', hosts: ['https://take.example'] }),
      around({ src: 'https://count.example/two.js' }),
    ]);
    expect(script).toEqual([
      ...['https://count.example/a%3Bb%2Cc.js', 'https://count.example/two.js', 'https://take.example'],
    ]);
    expect([connect, image]).toEqual([script, script].map(() => ['https://count.example', 'https://take.example']));
  });
});
