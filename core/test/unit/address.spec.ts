import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  absoluteAddress,
  checkOutsideAddress,
  checkTypedPath,
  hostOfHeader,
  joinPath,
  normalisePath,
  parseHost,
  pathBelow,
  slugOf,
} from '../../src/address/index.js';

describe('paths', () => {
  it.each([
    ['/', '/'],
    ['/A/b/', '/a/b'],
    ['//a///b', '/a/b'],
    ['/a/./b/../c', '/a/c'],
    ['/../../x', '/x'],
    ['/caf%C3%A9', '/caf%c3%a9'],
    ['/café', '/caf%c3%a9'],
    ['/cafe%CC%81', '/caf%c3%a9'],
    ['/%41', '/a'],
  ])('writes %s as %s', (raw, path) => expect(normalisePath(raw)).toBe(path));
  it.each(['a', '', '/a%2fb', '/a%5Cb', '/%', '/%zz', '/%00', '/a%0d%0ab', `/${'x'.repeat(1025)}`])(
    'refuses %j',
    (raw) => expect(normalisePath(raw)).toBeNull(),
  );
  it('is idempotent for anything that can be an address', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.webPath(),
          fc.string({ unit: 'grapheme' }).map((text) => `/${text}`),
        ),
        (raw) => {
          const once = normalisePath(raw);
          if (once !== null) expect(normalisePath(once)).toBe(once);
        },
      ),
      { numRuns: 3000 },
    );
  });
  it('takes apart what it joined', () => {
    fc.assert(
      fc.property(fc.constantFrom('/', '/a', '/a/b'), fc.constantFrom('/', '/x', '/x/y'), (base, path) =>
        expect(pathBelow(base, joinPath(base, path))).toBe(path),
      ),
    );
  });
  it.each([
    ['--', 'letter or digit'],
    ['~~', 'letter or digit'],
    ['a b', 'hyphen'],
    ['a?b', '? or #'],
    ['-/not-found', 'kept for the installation'],
    ['healthz', 'kept for the installation'],
    ['x%2Fy', 'slash'],
    ['a\u202eb', 'invisible'],
    ['y'.repeat(300), 'at most 200'],
  ])('says of the typed path %j: %s', (typed, why) => {
    const checked = checkTypedPath(typed);
    expect(checked.ok ? '' : checked.why.message).toContain(why);
  });
  it('lets a typed path leave out its slash', () =>
    expect(checkTypedPath('Winter/Fares')).toEqual({ ok: true, path: '/winter/fares' }));
});

describe('slugs', () => {
  it.each([
    ['Fjord & Øy: brød!', 'fjord-oy-brod'],
    ['Зимний паром', 'zimniy-parom'],
    ['東京', 'dong-jing'],
    ['!!!', ''],
    ['Harbour’s lights', 'harbours-lights'],
  ])('%s gives %j', (name, slug) => expect(slugOf(name)).toBe(slug));
  it('is always a path that can be typed, or empty', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 500 }), (name) => {
        const slug = slugOf(name);
        expect(slug.length).toBeLessThanOrEqual(60);
        if (slug && slug !== 'healthz') expect(checkTypedPath(slug)).toEqual({ ok: true, path: `/${slug}` });
      }),
      { numRuns: 1000 },
    );
  });
});

describe('hosts', () => {
  it('knows IDN and the registrable name', () => {
    expect(parseHost('Blåbær.Example.')).toEqual({ host: 'xn--blbr-roah.example', domain: 'xn--blbr-roah.example' });
    expect(parseHost('a.b.co.uk')?.domain).toBe('b.co.uk');
    for (const bad of ['localhost', '127.0.0.1', 'a..b', '-a.example', 'a b.example', 'x/y.example', ''])
      expect(parseHost(bad)).toBeNull();
  });
  it('reads a header back from the addresses it makes, in every style', () => {
    for (const style of [
      { scheme: 'http', suffix: '.localhost', port: 4680 },
      { scheme: 'https', suffix: '', port: null },
    ] as const) {
      const url = new URL(absoluteAddress(style, 'marrowick.example', '/a'));
      expect(hostOfHeader(style, url.host)).toBe('marrowick.example');
    }
    const demo = { scheme: 'http', suffix: '.localhost', port: 4680 } as const;
    expect(hostOfHeader(demo, 'localhost:4680')).toBeNull();
    expect(hostOfHeader(demo, '127.0.0.1')).toBeNull();
  });
  it.each([
    'javascript:alert(1)',
    'data:text/html,x',
    '//x.example',
    'https://u:p@x.example/',
    'https://x.example/ y',
    'x.example',
    'mailto:a@b.example',
  ])('refuses %s as a redirect', (url) => expect(checkOutsideAddress(url, 'redirect').ok).toBe(false));
});
