import fc from 'fast-check';
import type { Answer, PageId } from '../../src/plan/index.js';
import { HOSTS, PATHS, SITE_COUNT, type Act } from './world.js';

/** An act and how many minutes after the one before it is decided. */
export interface Drawn {
  readonly step: number;
  readonly draw: (now: number) => Act;
}

const answerOf = (pages: readonly PageId[]): fc.Arbitrary<Answer> =>
  fc.oneof(
    fc.constant<Answer>({ kind: 'gone' }),
    fc.constant<Answer>({ kind: 'not-found' }),
    fc.constant<Answer>({ kind: 'redirect', target: { kind: 'outside', url: 'https://o.example/' }, status: 302 }),
    fc.constantFrom(...HOSTS, 'two.example/shop', 'three.example/one').map((place): Answer => {
      const url = `https://${place}${place.includes('/') ? '' : '/a'}`;
      return { kind: 'redirect', target: { kind: 'outside', url }, status: 301 };
    }),
    {
      weight: 4,
      arbitrary: fc
        .constantFrom(...pages)
        .map((pageId): Answer => ({ kind: 'redirect', target: { kind: 'page', pageId }, status: 301 })),
    },
  );

/** Every act of the product at rising instants, each planned now or later, of two to six pages. */
export const worlds = (most: number): fc.Arbitrary<{ pages: PageId[]; acts: Drawn[] }> =>
  fc.constantFrom(2, 2, 2, 2, 3, 3, 4, 5, 6).chain((count) => {
    const pages = Array.from({ length: count }, (_, i) => (i + 1) as PageId);
    const page = fc.constantFrom(...pages);
    const ahead = fc.oneof(
      { weight: 2, arbitrary: fc.constant(0) },
      { weight: 3, arbitrary: fc.integer({ min: 1, max: 9 }) },
    );
    const length = fc.oneof(fc.constant(null), fc.integer({ min: 1, max: 12 }));
    const answer = answerOf(pages);
    const later = fc.option(answer, { nil: null });
    const revision = fc.integer({ min: 1, max: 5 });
    const until = (from: number, size: number | null) => (size === null ? null : from + size);
    type Draw = Drawn['draw'];
    const release = fc.tuple(page, revision, ahead, length, later).map(([p, r, a, l, afterwards]): Draw => (now) => ({
      ...{ kind: 'release', page: p, revision: r, from: now + a, until: until(now + a, l), afterwards },
    }));
    const off = fc.tuple(page, ahead, length, answer).map(([p, a, l, afterwards]): Draw => (now) => ({
      ...{ kind: 'off', page: p, from: now + a, until: until(now + a, l), afterwards },
    }));
    const move = fc
      .tuple(page, ahead, fc.integer({ min: 1, max: SITE_COUNT }), fc.constantFrom(...PATHS), later)
      .map(([p, a, site, path, leaves]): Draw => (now) => ({ kind: 'move', page: p, at: now + a, site, path, leaves }));
    const shift = fc
      .tuple(
        page,
        fc.integer({ min: -6, max: 6 }).filter((by) => by !== 0),
      )
      .map(([p, by]): Draw => () => ({ kind: 'shift', page: p, by }));
    const afterwards = fc
      .tuple(page, answer)
      .map(([p, given]): Draw => () => ({ kind: 'afterwards', page: p, answer: given }));
    const bin = fc.tuple(page, answer).map(([p, given]): Draw => () => ({ kind: 'bin', page: p, answer: given }));
    const restore = fc
      .tuple(page, fc.boolean())
      .map(([p, isPlanned]): Draw => () => ({ kind: 'restore', page: p, isPlanned }));
    const undo = fc
      .tuple(fc.nat(50), fc.boolean())
      .map(([pick, leavesRedirect]): Draw => () => ({ kind: 'undo', pick, leavesRedirect }));
    const draw = fc.oneof(
      { weight: 6, arbitrary: release },
      { weight: 3, arbitrary: off },
      { weight: 5, arbitrary: move },
      { weight: 2, arbitrary: shift },
      { weight: 2, arbitrary: afterwards },
      { weight: 1, arbitrary: bin },
      { weight: 2, arbitrary: restore },
      { weight: 4, arbitrary: undo },
    );
    const step = fc.constantFrom(1, 1, 2, 3);
    return fc.record({
      pages: fc.constant(pages),
      acts: fc.array(fc.record({ step, draw }), { minLength: 1, maxLength: most }),
    });
  });
