import { NEW_CODE, type Code } from '@domatium/core/codes';
import { NO_ROOT } from '@domatium/core/root';
import type { DemoPart, DemoPartIds } from './scenario.js';
import { at } from './build.js';

const code = (
  name: string,
  content: (ids: DemoPartIds) => Partial<Code>,
  times: Pick<DemoPart, 'decided' | 'from' | 'until'>,
): DemoPart => ({ ...times, kind: 'code', name, content: (ids) => ({ ...NEW_CODE, ...content(ids) }) });
const sites = (ids: DemoPartIds, ...keys: readonly string[]) =>
  keys.flatMap((key) => {
    const siteId = ids.site(key);
    return siteId === null ? [] : [{ siteId, path: null }];
  });

const KEYS = `addEventListener('keydown', ({ key, target }) => {
  if (key === '?' && !target.closest('input, textarea')) location.hash = '#' + document.querySelector('main section[id]')?.id;
});
`;

/** What runs beside the pages of the pass and the sailing school: one that counts, one that advertises for a while, one that is needed. */
export const coastCodes: readonly DemoPart[] = [
  code(
    'Tidewatch counter',
    (ids) => ({
      source: { kind: 'address', url: 'https://count.tidewatch.example/t.js' },
      data: [{ name: 'site-id', value: 'mwc-pass' }],
      hosts: ['https://take.tidewatch.example'],
      on: sites(ids, 'pass', 'sail'),
      except: ids.site('pass') === null ? [] : [{ siteId: ids.site('pass') ?? 0, path: '/partners' }],
    }),
    { decided: at(-40, '11:20'), from: at(-39), until: null },
  ),
  code(
    'Harbourlight reminders',
    (ids) => ({
      purpose: 'advertising',
      source: { kind: 'address', url: 'https://show.harbourlight.example/remind.js' },
      load: 'first-act',
      on: sites(ids, 'sail'),
    }),
    { decided: at(-12, '15:05'), from: at(-10), until: at(24) },
  ),
  code(
    'Question mark goes to the content',
    (ids) => ({
      purpose: 'necessary',
      source: { kind: 'script', script: KEYS },
      place: 'end',
      on: sites(ids, 'pass', 'sail'),
    }),
    { decided: at(-39, '09:40'), from: at(-38), until: null },
  ),
];

/** What lies at the root of the pass's host: crawlers leave its partners alone, and an account is proven. */
export const coastRoot: readonly DemoPart[] = [
  {
    ...{ kind: 'root', name: 'Island pass', site: 'pass' },
    ...{ decided: at(-58, '09:15'), from: at(-57), until: null },
    content: () => ({
      ...NO_ROOT,
      robots: 'User-agent: *\nDisallow: /partners\n\nUser-agent: Harbourlight\nDisallow: /\n',
      files: [{ name: 'ads.txt', text: 'harbourlight.example, 4410, DIRECT\n' }],
    }),
  },
];
