import {
  asTaken,
  blockOf,
  canonicalFindingsOf,
  documentFindingsOf,
  linkFindingsOf,
  sharedFindingsOf,
  withoutAccepted,
  type Finding,
} from '@domatium/core/checks';
import { pageReferencesOf, piecesOf } from '@domatium/core/document';
import { Judgement } from '@domatium/core/judgement';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { contains, writeInstant, type Instant, type Interval } from '@domatium/core/time';
import { UNNAMED } from '@domatium/core/words';
import { acceptedOf, severitiesOf, tinyPictures } from '../../heart/checks/index.js';
import { neighbourhoodOf, tableOf } from '../../heart/plans/index.js';
import { namesOfPages, Shelves } from '../../heart/releases/index.js';
import type { Context, Db } from '../../platform/database/context.js';
import { groundAt, judgedPages, pictureSizes, type PlacedPage } from './judged-pages.js';
import type { OpenFinding } from './store.js';

/** So many pages are looked at until others have their turn. */
const AT_ONCE = 10;

/** What would be found in what visitors get at a moment: every check, over every page that is live then. */
export async function findingsAt(
  db: Db,
  { style, now, step }: Context,
  portfolioId: PortfolioId,
  { at, zone }: { readonly at: Instant; readonly zone: string },
): Promise<OpenFinding[]> {
  const all = await judgedPages(db, portfolioId, await groundAt(db, portfolioId, { at, zone }), new Map());
  const live = all.filter((page) => contains(page.live, at));
  await step?.(0.3);
  const judgement = new Judgement(live);
  for (let n = 0; n < live.length; n += AT_ONCE) {
    judgement.change(live.slice(n, n + AT_ONCE), [], false);
    await new Promise(setImmediate);
  }
  await step?.(0.4);
  const ids = live.map(({ id }) => id);
  const source = { db, portfolioId, style };
  const around = await neighbourhoodOf(source, [
    ...new Set([...ids, ...live.flatMap(({ sight }) => pageReferencesOf(sight.document))]),
  ]);
  const planned = tableOf(around);
  const names = await namesOfPages(db, portfolioId, [...around.plans.keys()]);
  const pieces = live.flatMap(({ sight }) => piecesOf(sight.document).map(({ value }) => value));
  const shelves = await Shelves.read(db, portfolioId, pieces, { items: new Map() }, new Map());
  const [tiny, taken] = [await tinyPictures(db, portfolioId), await severitiesOf(db, portfolioId)];
  const accepted = groupBy(await acceptedOf(db, ids, at), ({ pageId }) => pageId);
  const write = (when: Instant) => writeInstant(when, zone, now);
  const sizes = await pictureSizes(db, portfolioId);
  const world = { at, write, sizeOf: (id: number) => sizes.get(id) };
  const during: Interval = { from: at, until: (at + 1) as Instant };
  const naming = new Set(live.flatMap(({ id, sight }) => (sight.document.metadata.canonical ? [id] : [])));
  const rest = {
    ...{ during, planned, current: planned, now: at, write, isLive: true },
    nameOf: (id: PageId) => names.get(id) ?? UNNAMED.page,
    namesAnother: (id: PageId) => (naming.has(id) ? [during] : []),
  };
  const judge = ({ id, siteId, sight: { document } }: PlacedPage): Finding[] => [
    ...documentFindingsOf(document, tiny),
    ...linkFindingsOf({ ...rest, document, pageId: id }),
    ...canonicalFindingsOf({ ...rest, document, pageId: id }),
    ...sharedFindingsOf({ ...rest, document, shared: shelves.of(siteId) }),
    ...judgement.findingsOf(id, world),
  ];
  const found: OpenFinding[] = [];
  for (const [index, page] of live.entries()) {
    if (index % AT_ONCE === 0) {
      await step?.(0.5 + (0.5 * index) / live.length);
      await new Promise(setImmediate);
    }
    const { id: pageId, name, host, path } = page;
    const counting = withoutAccepted(asTaken(judge(page), taken.get(page.siteId)), accepted.get(pageId) ?? []);
    for (const finding of counting) {
      const { code, severity, params, message, mend } = finding;
      found.push({ ...{ pageId, name, host, path, code, severity, params, message, mend }, blockId: blockOf(finding) });
    }
  }
  return found;
}
