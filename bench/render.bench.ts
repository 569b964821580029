import type { PageDocument } from '@domatium/core/document';
import { escapeText } from '@domatium/core/html';
import { contextOf, pageHtml, BARE_FRAME, worldOf } from '@domatium/core/render';
import { blockOf, opening } from './blocks.js';
import { figure, finish, median } from './print.js';

/** (g) The renderer against nothing but joining the same bytes; bundled, as in operation. */
const twentyFive: PageDocument = {
  metadata: { title: 'T', description: 'D' },
  blocks: [opening(), ...Array.from({ length: 24 }, (_, n) => blockOf(n))],
};
const rendering = worldOf({ pageHref: () => '/there' });
const render = () => pageHtml(twentyFive, BARE_FRAME, contextOf(rendering));
const parts = render().split(/(?<=>)/);
/** The same bytes from their parts, every text escaped as it must be. */
const join = () => {
  let markup = '';
  for (const part of parts) markup += part.startsWith('<') ? part : escapeText(part);
  return markup;
};
const perSecond = (work: () => string): number => {
  const until = performance.now() + 1500;
  let count = 0;
  for (; performance.now() < until; count++) work();
  return count / 1.5;
};
perSecond(render);
const rounds = Array.from({ length: 3 }, () => [perSecond(render), perSecond(join)] as const);
figure('pages of 25 blocks rendered', median(rounds.map(([rendered]) => rendered)), 'pages/s');
figure(
  'plain string building of the same bytes, times as fast',
  median(rounds.map(([rendered, joined]) => joined / rendered)),
  'times',
  { atMost: 2 },
);
finish();
