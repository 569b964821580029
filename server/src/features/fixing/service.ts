import { MOST_FOUND, type FoundGroup, type FoundPage, type MendingView } from '@domatium/contracts';
import { documentFindingsOf, mendAll, mendsOf, type Finding } from '@domatium/core/checks';
import { completeDocument, type PageDocument } from '@domatium/core/document';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { writeInstant, type Instant } from '@domatium/core/time';
import { FINDING_KINDS, findingWords, MENDS_OF_MANY, type FindingCode, type MendCode } from '@domatium/core/words';
import { tinyPictures } from '../../heart/checks/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { draftsToChange, writeDrafts, type Seen } from '../drafts/index.js';
import { visitSums } from '../visits/index.js';
import { findingsAt } from './moment.js';
import * as store from './store.js';

/** Figures of this many days say how many visitors are affected. */
const DAYS = 30;
/** So many drafts of a group are asked what a machine can do. */
const ASKED = 10;

/**
 * What was found on pages that are live, coming or drafts, by what it is; with a moment, what would be found in what
 * visitors get then.
 */
export function toFix(context: Context, portfolioId: PortfolioId, at: Instant | null = null): Promise<FoundGroup[]> {
  const { database, now } = context;
  return inTransaction(
    database,
    async (db) => {
      const zone = await zoneOf(db, portfolioId);
      const rows =
        at === null
          ? await store.openFindings(db, portfolioId, now)
          : await findingsAt(db, context, portfolioId, { at, zone });
      const ids = [...new Set(rows.map(({ pageId }) => pageId))];
      const sums = ids.length ? await visitSums(db, portfolioId, ids, zone, now, DAYS) : new Map();
      const visitsOf = (id: PageId): number => (sums.get(id) as { visits: number } | undefined)?.visits ?? 0;
      const write = (at: Parameters<typeof writeInstant>[0]) => writeInstant(at, zone, now);
      const groups = [...groupBy(rows, ({ code, severity }) => `${severity} ${code}`).values()].map((those) => {
        const byPage = [...groupBy(those, ({ pageId }) => pageId)].sort(
          ([a], [b]) => visitsOf(b) - visitsOf(a) || a - b,
        );
        const shown = byPage.slice(0, MOST_FOUND).flatMap(([, found]) => found);
        const { code, severity } = those[0] as store.OpenFinding;
        return { code, severity, byPage, shown };
      });
      const asked = new Set(groups.flatMap(({ byPage }) => byPage.slice(0, ASKED).map(([id]) => id)));
      const judge = await judgeOf(db, portfolioId, at === null ? [...asked] : []);
      return groups
        .map(({ code, severity, byPage, shown }): FoundGroup => ({
          ...{ code, severity, ...(FINDING_KINDS[code as FindingCode] ?? { title: code, why: '' }) },
          visits: byPage.reduce((sum, [id]) => sum + visitsOf(id), 0),
          pageIds: byPage.map(([id]) => id),
          found: shown.map(({ pageId, name, host, path, blockId, params, ...words }): FoundPage => ({
            ...{ pageId, name, host, path, blockId, visits: visitsOf(pageId) },
            ...(findingWords(code, params, write) ?? { message: words.message, mend: words.mend }),
          })),
          mends:
            at !== null
              ? []
              : mendsOffered(
                  code,
                  byPage.slice(0, ASKED).flatMap(([id]) => judge(id)),
                ),
        }))
        .sort(
          (a, b) =>
            Number(b.severity === 'blocks') - Number(a.severity === 'blocks') ||
            b.visits - a.visits ||
            b.pageIds.length - a.pageIds.length,
        );
    },
    'repeatable read',
  );
}

/** What a machine can do about something in some drafts, of what is offered for many pages at once. */
function mendsOffered(code: string, drafts: readonly Judged[]): FoundGroup['mends'] {
  const codes = drafts.flatMap(({ document, findings }) =>
    findings.flatMap((finding) => (finding.code === code ? mendsOf(document, finding).map((mend) => mend.code) : [])),
  );
  return [...new Set(codes)].flatMap((mend) => {
    const label = MENDS_OF_MANY[mend];
    return label ? [{ code: mend, label }] : [];
  });
}

interface Judged {
  readonly document: PageDocument;
  readonly findings: readonly Finding[];
}

async function judgeOf(db: Db, portfolioId: PortfolioId, ids: readonly PageId[]): Promise<(id: PageId) => Judged[]> {
  const drafts = ids.length ? await draftsToChange(db, portfolioId, ids, null) : [];
  const tiny = drafts.length ? await tinyPictures(db, portfolioId) : new Set<number>();
  const judged = new Map(
    drafts.map(({ id, document }) => {
      const whole = completeDocument(document);
      return [id, { document: whole, findings: documentFindingsOf(whole, tiny) }];
    }),
  );
  return (id) => {
    const one = judged.get(id);
    return one ? [one] : [];
  };
}

/** Mends something in the drafts of many pages: what would become of them, or, with the drafts that were seen, what became of them. */
export function mendDrafts(
  context: Context,
  portfolioId: PortfolioId,
  { code, mend }: { readonly code: string; readonly mend: MendCode },
  pageIds: readonly number[],
  seen: readonly Seen[] | null,
): Promise<MendingView> {
  return inTransaction(context.database, async (trx) => {
    const drafts = await draftsToChange(trx, portfolioId, pageIds, seen);
    const tiny = await tinyPictures(trx, portfolioId);
    const found = (document: PageDocument) =>
      documentFindingsOf(document, tiny).filter((finding) => finding.code === code);
    const pages: (MendingView['pages'][number] & { readonly document: PageDocument })[] = [];
    const out: MendingView['out'][number][] = [];
    for (const { id: pageId, name, version, document, has_more: hasMore } of drafts) {
      const mended = mendAll(completeDocument(document), found, mend);
      if (mended) pages.push({ ...{ pageId, name, hasMore }, ...mended, version: version + (seen ? 1 : 0) });
      else out.push({ pageId, name });
    }
    if (seen && pages.length) await writeDrafts(trx, context, portfolioId, pages, 'mend-drafts');
    return { pages: pages.map(({ document: _, ...page }) => page), out };
  });
}
