import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import parser from 'robots-parser';
import {
  NO_ROOT,
  readRobots,
  robotsDecision,
  rootFromJSON,
  rootTexts,
  rootTypeOf,
  type RootContent,
} from '../../src/root/index.js';

// Its types say what it would be as a module of another kind.
const robotsParser = parser as unknown as typeof parser.default;
const HOST = 'https://one.example';

describe('robots.txt', () => {
  it('is decided as a well-known parser decides it, over groups, patterns and addresses of all kinds', () => {
    const pattern = fc
      .array(fc.constantFrom('/', 'a', 'b', '*', 'é', '%2f', '?x=1', '.html', '$'), { maxLength: 5 })
      .map((parts) => `/${parts.join('').replace(/\$(?=.)/g, '')}`);
    const rule = fc.tuple(fc.constantFrom('Allow', 'disallow', 'DISALLOW'), pattern);
    const other = fc.tuple(fc.constantFrom('Disallow', 'Sitemap'), fc.constant(''));
    const agents = fc.uniqueArray(fc.constantFrom('*', 'Onebot', 'twobot'), { minLength: 1, maxLength: 2 });
    // A group of no lines is one (RFC 9309, 2.2.1); that parser takes it for none.
    const group = fc
      .tuple(agents, rule, fc.array(fc.oneof({ weight: 4, arbitrary: rule }, other), { maxLength: 6 }))
      .map(([named, first, more]) => [...named.map((one) => ['User-agent', one] as const), first, ...more]);
    const text = fc
      .tuple(
        fc.array(group, { maxLength: 4 }),
        fc.constantFrom('\n', '\r\n', '\r'),
        fc.constantFrom('', ' # a remark', '  '),
      )
      .map(([groups, end, behind]) =>
        groups
          .flat()
          .map(([key, value]) => `${key}: ${value}${behind}`)
          .join(end),
      );
    const path = fc
      .array(fc.constantFrom('a', 'b', '/', 'é', '%2F', '.html', '?x=1'), { maxLength: 5 })
      .map((parts) => `/${parts.join('')}`);
    fc.assert(
      fc.property(text, path, fc.constantFrom('*', 'OneBot/2.1', 'twobot', 'other'), (robots, asked, agent) => {
        const theirs = robotsParser(`${HOST}/robots.txt`, robots).isAllowed(HOST + asked, agent) ?? true;
        expect([robots, robotsDecision(readRobots(robots), agent, asked).isAllowed]).toEqual([robots, theirs]);
      }),
      { numRuns: 600 },
    );
  });
  it('says by which line, and what no crawler would heed', () => {
    const lines = readRobots(
      ['Disallow: /early', 'User-agent: *', 'Disallow: /shop', 'Allow: /shop/open', 'disalow: /x', 'Allow: shop'].join(
        '\n',
      ),
    );
    expect(lines.faults.map(({ path, code }) => [path, code])).toEqual([
      ...[
        ['1', 'robots-no-agent'],
        ['5', 'robots-line'],
        ['6', 'robots-path'],
      ],
    ]);
    expect(robotsDecision(lines, 'any', '/shop/open/1').rule).toEqual({
      ...{ isAllowed: true, pattern: '/shop/open', line: 4 },
    });
    expect(robotsDecision(lines, 'any', '/shop').rule?.line).toBe(3);
    expect(robotsDecision(readRobots('User-agent: *\nDisallow: /'), 'any', '/robots.txt').isAllowed).toBe(true);
  });
  it('takes no longer for a pattern that is made to', () => {
    const nasty = readRobots(`User-agent: *\nDisallow: /${'*a'.repeat(2_000)}$`);
    const before = performance.now();
    expect(robotsDecision(nasty, '*', `/${'a'.repeat(5_000)}b`).isAllowed).toBe(true);
    expect(performance.now() - before).toBeLessThan(1_000);
  });
});

describe('files of the root', () => {
  const security = { contacts: ['mailto:safe@one.example'], expires: '2027-05-01', policy: '', languages: 'en, nb' };
  const faultsOf = (more: object) => {
    const read = rootFromJSON({ ...NO_ROOT, ...more });
    return read.ok ? [] : read.faults.map(({ path, code }) => `${path} ${code}`);
  };
  it('have names that lie at the root, are not ours, and are there once', () => {
    const names = ['../../x.txt', 'a/b.txt', '.htaccess', 'x.php', 'robots.txt', 'Sitemap-2.XML', 'security.txt'];
    const file = (name: string) => ({ name, text: '' });
    expect(faultsOf({ files: [...names, 'ads.txt', 'ads.txt', 'a..txt'].map(file) })).toEqual([
      ...[0, 1, 2, 3].map((n) => `files[${n}].name root-name`),
      ...[4, 5, 6].map((n) => `files[${n}].name root-ours`),
      ...['files[8].name element-twice', 'files[9].name root-name'],
    ]);
    expect(faultsOf({ files: ['ads.txt', 'check-7Ab.html', 'app-ads.txt', 'a.b.json'].map(file) })).toEqual([]);
    expect(faultsOf({ robots: 7, files: 'x' })).toEqual(['robots at-most-characters', 'files root-count']);
  });
  it('say whom to tell, as the standard has it, or what is missing', () => {
    expect(
      faultsOf({ security: { ...security, contacts: ['http://x.example', 'nobody'], expires: '2027-13-01' } }),
    ).toEqual([
      ...['security.contacts[0] security-contact', 'security.contacts[1] security-contact'],
      'security.expires security-expires',
    ]);
    expect(faultsOf({ security: { ...security, contacts: [], languages: 'english\nPolicy: x' } })).toEqual([
      ...['security.contacts security-contact', 'security.languages language-invalid'],
    ]);
    const content = { ...NO_ROOT, security } as RootContent;
    const texts = rootTexts(content, (path) => HOST + path);
    expect(texts?.files).toEqual({
      '/.well-known/security.txt':
        'Contact: mailto:safe@one.example\nExpires: 2027-05-01T23:59:59Z\nPreferred-Languages: en, nb\nCanonical: https://one.example/.well-known/security.txt\n',
    });
    expect(rootTexts({ ...NO_ROOT, robots: ' \n' }, String)).toBeNull();
    expect(['/a.TXT', '/a.html', '/a.json'].map(rootTypeOf)).toEqual([
      ...['text/plain; charset=utf-8', 'text/html; charset=utf-8', 'application/json; charset=utf-8'],
    ]);
  });
});
