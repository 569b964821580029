import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';
import {
  canonical,
  claimsOf,
  groupBy,
  inputsOf,
  type Answer,
  type PageId,
  type SiteAddress,
} from '@domatium/core/plan';
import { answerOfRow, planOfFormer, type FormerAnswer, type FormerPlan } from '../../src/index.js';

/** The demo as it was kept before, a row a line: plans with the addresses of answers written down, and its claims. */
const kept = JSON.parse(readFileSync(join(import.meta.dirname, '../former/demo.json'), 'utf8')) as {
  readonly now: number;
} & Record<'siteAddresses' | 'placements' | 'periods' | 'answers' | 'claims', readonly (readonly never[])[]>;

const siteAddresses = kept.siteAddresses.map(
  ([id, siteId, hostId, basePath, isPrimary, from, until]) =>
    ({ id, siteId, hostId, basePath, isPrimary, during: { from, until } }) as unknown as SiteAddress,
);
const answerOf = (answer: never, pageId: never, url: never, status: never): Answer =>
  answerOfRow({ answer, target_page_id: pageId, target_url: url, status });
const placements = kept.placements.map(
  ([id, pageId, siteId, path, from, until]) =>
    ({ id, pageId, siteId, path, during: { from, until } }) as unknown as FormerPlan['placements'][number],
);
const periods = kept.periods.map(
  ([id, pageId, revisionId, from, until]) =>
    ({ id, pageId, revisionId, during: { from, until } }) as unknown as FormerPlan['periods'][number],
);
const answers = kept.answers.map(
  ([id, kind, pageId, hostId, path, rank, order, from, until, ...answer]) =>
    ({
      id,
      kind,
      pageId,
      hostId,
      path,
      rank,
      order,
      during: { from, until },
      answer: answerOf(...(answer as [never, never, never, never])),
    }) as unknown as FormerAnswer,
);

it('all claims of the demo are the same before and after its plans are turned over', () => {
  const of = <Row extends { pageId: PageId | null }>(rows: readonly Row[]) => groupBy(rows, ({ pageId }) => pageId);
  const [byPlacement, byPeriod, byAnswer] = [of(placements), of(periods), of(answers)];
  const plans = [...byPlacement.keys()].map((pageId) =>
    planOfFormer(
      {
        pageId: pageId as PageId,
        placements: byPlacement.get(pageId) ?? [],
        periods: byPeriod.get(pageId) ?? [],
        answers: byAnswer.get(pageId) ?? [],
      },
      siteAddresses,
      kept.now as never,
    ),
  );
  const orders = new Map(answers.map(({ id, order }) => [id as number, order]));
  const was = kept.claims.map(
    ([layer, hostId, path, pageId, revisionId, sourceId, answer, target, url, status, from, until]) => {
      const place = { layer, hostId, path, pageId, during: { from, until } };
      return layer === 'page'
        ? { ...place, revisionId, sourceId }
        : {
            ...place,
            sourceId: orders.get(sourceId as never),
            answer: answerOf(answer as never, target as never, url as never, status as never),
          };
    },
  );
  const is = claimsOf(inputsOf(plans, siteAddresses));
  expect(was.length).toBeGreaterThan(400);
  expect(is.map(canonical).sort()).toEqual(was.map(canonical).sort());
  // Nearly all of it is derived: what ends leave, not what is said with an address of its own.
  expect(plans.flatMap(({ statements }) => statements).length).toBeLessThan(10);
});
