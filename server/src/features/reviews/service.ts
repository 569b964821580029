import { randomBytes } from 'node:crypto';
import type { PrivateLinkView, PrivatePage, PrivateView, RemarkKind, ReviewView } from '@domatium/contracts';
import { joinPath, readablePath } from '@domatium/core/address';
import {
  blockWords,
  differenceWords,
  listedPagesOf,
  picturesOf,
  referencesOf,
  type PageDocument,
} from '@domatium/core/document';
import { partsAt } from '@domatium/core/stock';
import { waysOfSite } from '../../heart/publishing/index.js';
import { THEMES } from '@domatium/core/theme';
import { groupBy, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import { DAY, later, type Instant } from '@domatium/core/time';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { tellByMail } from '../../platform/mail/index.js';
import { ConflictError, InvalidError, NotFoundError, Refused, StaleError } from '../../platform/errors.js';
import { filesWith, picturesWith } from '../pictures/index.js';
import { titlesAt } from '../register/index.js';
import { pagePlace, stockHeld } from '../../heart/stock/index.js';
import { draftStates, freezeDrafts } from '../../heart/releases/index.js';
import { hashPassword, hashToken, isPassword, Throttle, triesAt } from '../../platform/sessions/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/reviews';

/** Ended links stay in the list for as long. */
const SHOWN_AFTER_END = 31 * DAY;
const LONGEST = 366 * DAY;
/** So much is said through one link at most: a link that got into wrong hands must not fill the database. */
const MOST_REMARKS = 2000;
/** Open ones on one page through one link: what others say must be found beside them. */
const MOST_ON_A_PAGE = 100;

const newToken = () => randomBytes(24).toString('base64url');

export async function privateLinks({ database, now }: Context, portfolioId: PortfolioId): Promise<PrivateLinkView[]> {
  const rows = await store.linksOf(database, portfolioId, later(now, -SHOWN_AFTER_END));
  const ids = rows.map(({ id }) => id);
  const pages = groupBy(await store.pagesOfLinks(database, ids, now), ({ link_id }) => link_id);
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    madeAt: row.made_at,
    madeBy: row.made_by,
    endsAt: row.revoked_at ?? row.ends_at,
    hasPassword: row.password_hash !== null,
    isEnded: hasEnded(row, now),
    site: row.site,
    pages: (pages.get(row.id) ?? []).map(({ id, name }) => ({ id, name })),
  }));
}

export interface Sharing {
  readonly name: string;
  readonly pages: readonly number[];
  readonly siteId: number | null;
  readonly endsAt: Instant;
  readonly password: string | null;
}

/** Makes a private link. Its token is told once; only a hash is kept. */
export async function newPrivateLink(
  context: Context,
  portfolioId: PortfolioId,
  { password, ...sharing }: Sharing,
): Promise<{ id: number; token: string }> {
  const { now, account } = context;
  if (!sharing.pages.length && sharing.siteId === null)
    throw new InvalidError([{ path: 'pages', message: say.choosePagesOrASite }]);
  if (sharing.endsAt <= now || sharing.endsAt > later(now, LONGEST))
    throw new InvalidError([{ path: 'endsAt', message: say.chooseAnEndWithinTheNext }]);
  const token = newToken();
  const passwordHash = password === null ? null : await hashPassword(password);
  return inTransaction(context.database, async (trx) => {
    const sites = sharing.siteId === null ? [] : [sharing.siteId];
    if ((await store.foreignOf(trx, portfolioId, 'page', sharing.pages)).length)
      throw new InvalidError([{ path: 'pages', message: say.oneOfThesePagesIsntIn }]);
    if ((await store.foreignOf(trx, portfolioId, 'site', sites)).length)
      throw new InvalidError([{ path: 'siteId', message: say.thatSiteIsntInThisPortfolio }]);
    const link = { ...sharing, tokenHash: hashToken(token), passwordHash };
    const id = await store.insertLink(trx, portfolioId, link, now, account);
    await tell(trx, context, portfolioId, id, 'share', { ...sharing, hasPassword: password !== null }, []);
    return { id, token };
  });
}

export function revokePrivateLink(context: Context, portfolioId: PortfolioId, id: number): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    if (!(await store.revoke(trx, portfolioId, id, context.now))) throw new NotFoundError('private-link');
    await tell(trx, context, portfolioId, id, 'revoke-share', {}, []);
    return { id };
  });
}

/** Who said what of a page, on which revision, and what the draft has changed since. */
export async function review({ database }: Context, portfolioId: PortfolioId, pageId: PageId): Promise<ReviewView> {
  const rows = await store.remarksOf(database, portfolioId, pageId);
  const [draft] = await draftStates(database, portfolioId, [pageId]);
  if (!draft) throw new NotFoundError();
  const documents = new Map(rows.map(({ revision, document }) => [revision, document]));
  const how = { changed: say.changed, 'only-in-first': say.removed, 'only-in-second': say.isNew };
  return {
    remarks: rows.map((row) => ({
      id: row.id,
      kind: row.kind,
      text: row.text,
      name: row.name,
      link: row.link,
      block: blockOf(row.document, row.block_id),
      blockId: row.block_id,
      revision: row.revision,
      at: row.at,
      settledAt: row.settled_at,
      settledBy: row.settled_by,
      answers: row.answers,
    })),
    since: [...documents].map(([revision, document]) => [revision, differenceWords(document, draft.document, how)]),
  };
}

export function settleRemark(context: Context, portfolioId: PortfolioId, id: number): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const pageId = await store.settle(trx, portfolioId, id, context.now, context.account);
    if (pageId === null) throw new NotFoundError('remark');
    await tell(trx, context, portfolioId, id, 'settle-remark', {}, [pageId]);
    return { id };
  });
}

/** Tells whoever made the link and the page's owner, but for the one who acts. */
async function tellOfRemark(
  trx: Db,
  { now, account }: Pick<Context, 'now' | 'account'>,
  portfolioId: PortfolioId,
  id: number,
  what: string,
  more: string,
): Promise<void> {
  const remark = await store.remarkById(trx, portfolioId, id);
  if (!remark) return;
  const people = [remark.made_by, remark.owner_id].filter((one) => one !== account);
  const path = `/portfolios/${portfolioId}/pages?page=${remark.page_id}`;
  await tellByMail(trx, people, { portfolioId, text: say.onPage(what, remark.page), more, path }, now);
}

/** Answers a remark; its readers see it through their link. */
export function answerRemark(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  text: string,
): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const remark = await store.remarkById(trx, portfolioId, id);
    if (!remark) throw new NotFoundError('remark');
    const name = await store.nameOfAccount(trx, context.account);
    const answer = { portfolio_id: portfolioId, remark_id: id, account_id: context.account, name, is_ours: true, text };
    const made = await store.insertAnswer(trx, answer, context.now);
    await tell(trx, context, portfolioId, id, 'answer-remark', {}, [remark.page_id]);
    await tellOfRemark(trx, context, portfolioId, id, say.answeredARemark(name), text);
    return { id: made };
  });
}

/** Answers a remark as a reader of its link. */
export async function answerPrivately(
  context: Context,
  visitor: Visitor,
  id: number,
  { name, text }: { readonly name: string; readonly text: string },
): Promise<{ id: number }> {
  const link = await opened(context, visitor);
  const portfolioId = link.portfolio_id;
  return inTransaction(context.database, async (trx) => {
    const remark = await store.remarkById(trx, portfolioId, id);
    if (!remark) throw new NotFoundError('remark');
    await pageOf(trx, link, remark.page_id, context.now);
    if ((await store.countAnswers(trx, link.id)) >= MOST_REMARKS)
      throw new ConflictError(say.thisLinkHasReachedItsLimit);
    const answer = { portfolio_id: portfolioId, remark_id: id, account_id: null, name, is_ours: false, text };
    const made = await store.insertAnswer(trx, answer, context.now);
    await tell(trx, context, portfolioId, id, 'answer-remark', { link: link.name }, [remark.page_id]);
    await tellOfRemark(trx, context, portfolioId, id, say.answeredARemark(name), text);
    return { id: made };
  });
}

/** The link of a token, open to whoever comes with its key. */
export interface Visitor {
  readonly token: string;
  /** What the password was exchanged for; `null` where none was given. */
  readonly key: string | null;
}

export async function privateView(context: Context, visitor: Visitor): Promise<PrivateView> {
  const { database, now } = context;
  const link = await opened(context, visitor);
  const { name: portfolio, zone } = await store.portfolioOf(database, link.portfolio_id);
  const pages = await store.pagesOfLinks(database, [link.id], now);
  return {
    name: link.name,
    portfolio,
    zone,
    endsAt: link.ends_at,
    pages: pages.map((page) => ({ id: page.id, name: page.name, address: addressOf(page) })),
  };
}

/** Exchanges a link's password for a key; slower with every wrong one. */
export async function openPrivate(
  context: Context,
  token: string,
  password: string,
  from: string,
): Promise<{ key: string }> {
  const { database, now } = context;
  const link = await linkOf(context, token);
  const throttle = new Throttle(database, triesAt(`private ${link.id}`, from), now);
  await throttle.count();
  if (link.password_hash !== null && !(await isPassword(link.password_hash, password)))
    throw new InvalidError([{ path: 'password', message: say.thatIsntThePasswordForThis }]);
  await throttle.forget();
  const key = newToken();
  await store.insertKey(database, link.id, hashToken(key), now);
  return { key };
}

export async function privatePage(context: Context, visitor: Visitor, pageId: PageId): Promise<PrivatePage> {
  const { database, now } = context;
  const link = await opened(context, visitor);
  const page = await pageOf(database, link, pageId, now);
  const [draft] = await draftStates(database, link.portfolio_id, [pageId]);
  const lies = await pagePlace(database, pageId, now);
  const held = await stockHeld(context, link.portfolio_id, now);
  const site = held.profiles.find(({ siteId }) => siteId === lies?.siteId);
  if (!draft || !site || !lies) throw new NotFoundError();
  const { brand, language, theme } = site.profile;
  const parts = partsAt(held, lies, draft.document.metadata.frame);
  const around = [parts.header, parts.footer, ...parts.bands].flatMap((part) =>
    part && part !== 'none' ? part.blocks : [],
  );
  const shown = { ...draft.document, blocks: [...draft.document.blocks, ...around] };
  const references = new Set(referencesOf(shown, 'piece'));
  // As the draft would be released: a piece that is not live yet, with it.
  const pieces = held.pieces
    .filter(({ id }) => references.has(id))
    .map(({ id, blocks, draft: coming }) => ({ id, blocks: blocks ?? coming }));
  const whole = {
    ...shown,
    blocks: [...shown.blocks, ...pieces.flatMap(({ blocks }) => blocks ?? [])],
  };
  const used = [...new Set(picturesOf(whole).map(({ value }) => value.pictureId))];
  const files = new Set(referencesOf(whole, 'file'));
  const place = `/api/private/${visitor.token}/files`;
  const layer = (siteId: number | null) => held.values.find((one) => one.siteId === siteId)?.values ?? [];
  const remarks = await store.remarksOf(database, link.portfolio_id, pageId);
  return {
    id: page.id,
    name: page.name,
    address: addressOf(page),
    draftVersion: draft.version,
    document: draft.document,
    ...{ brand, language, parts },
    nav: await waysOfSite(database, link.portfolio_id, site.siteId, now),
    theme: held.themes[theme] ?? THEMES.ferry,
    pieces,
    values: [...layer(null), ...layer(site.siteId)],
    titles: await titlesAt(database, link.portfolio_id, listedPagesOf(whole), now),
    pictures: await picturesWith(database, link.portfolio_id, place, used),
    files: (await filesWith(database, link.portfolio_id, place)).filter(({ id }) => files.has(id)),
    endsAt: await store.endOfPage(database, pageId, now),
    siteCss: held.css.find(({ siteId }) => siteId === site.siteId)?.css ?? '',
    remarks: [...remarks]
      .sort((a, b) => Number(a.settled_at !== null) - Number(b.settled_at !== null))
      .map(({ id, kind, text, name, block_id, document, at, settled_at, settled_by, answers }) => ({
        ...{ id, kind, text, name, at, answers },
        blockId: block_id,
        block: blockOf(document, block_id),
        settledAt: settled_at,
        settledBy: settled_by,
      })),
  };
}

/** The portfolio whose pictures a visitor may see. */
export async function portfolioOfVisitor(context: Context, visitor: Visitor): Promise<PortfolioId> {
  return (await opened(context, visitor)).portfolio_id;
}

export interface Saying {
  readonly kind: RemarkKind;
  readonly text: string;
  readonly name: string;
  readonly blockId: string | null;
  readonly draftVersion: number;
}

/** Keeps what a visitor says. The draft is frozen as the revision it is said of; what they did not see they don't judge. */
export async function sayRemark(
  context: Context,
  visitor: Visitor,
  pageId: PageId,
  saying: Saying,
): Promise<{ id: number }> {
  const { now } = context;
  const link = await opened(context, visitor);
  const portfolioId = link.portfolio_id;
  return inTransaction(context.database, async (trx) => {
    await pageOf(trx, link, pageId, now);
    await trx('draft').where({ page_id: pageId }).forUpdate().select('page_id');
    const [draft] = await draftStates(trx, portfolioId, [pageId]);
    if (!draft) throw new NotFoundError();
    if (draft.version !== saying.draftVersion)
      throw new StaleError(say.thePageHasChangedSinceYou, {
        draftVersion: draft.version,
      });
    if (saying.blockId !== null && !draft.document.blocks.some(({ id }) => id === saying.blockId))
      throw new InvalidError([{ path: 'blockId', message: say.thatPartOfThePageIs }]);
    if ((await store.countRemarks(trx, link.id, pageId)) >= MOST_ON_A_PAGE)
      throw new ConflictError(say.thisPageHasTooManyOpen);
    if ((await store.countRemarks(trx, link.id)) >= MOST_REMARKS)
      throw new ConflictError(say.thisLinkHasReachedItsLimit);
    const revisions = await freezeDrafts(trx, portfolioId, [draft], now, null);
    const revisionId = revisions.get(pageId) as RevisionId;
    const { kind, text, name, blockId } = saying;
    const remark = { kind, text, name, blockId, pageId, revisionId, linkId: link.id };
    const id = await store.insertRemark(trx, portfolioId, remark, now);
    await tell(trx, context, portfolioId, id, 'remark', { kind, link: link.name }, [pageId]);
    await tellOfRemark(trx, context, portfolioId, id, say.saidSomethingOf(name), text);
    return { id };
  });
}

async function linkOf({ database, now }: Context, token: string): Promise<store.LinkRow> {
  const link = await store.linkByToken(database, hashToken(token));
  if (!link) throw new NotFoundError('private-link');
  if (hasEnded(link, now)) throw new Refused('link-ended', say.itNoLongerOpensAnythingAsk);
  return link;
}

async function opened(context: Context, { token, key }: Visitor): Promise<store.LinkRow> {
  const link = await linkOf(context, token);
  if (link.password_hash === null) return link;
  if (key === null || !(await store.hasKey(context.database, link.id, hashToken(key))))
    throw new Refused('password-needed', say.thisLinkNeedsAPassword);
  return link;
}

const hasEnded = ({ revoked_at, ends_at }: store.LinkRow, now: Instant) => revoked_at !== null || ends_at <= now;

async function pageOf(db: Db, { id }: store.LinkRow, pageId: PageId, now: Instant) {
  const page = (await store.pagesOfLinks(db, [id], now)).find((one) => one.id === pageId);
  if (!page) throw new NotFoundError();
  return page;
}

const addressOf = ({ host, base_path, path }: { host: string; base_path: string; path: string }) =>
  host + readablePath(joinPath(base_path, path));

function blockOf({ blocks }: PageDocument, blockId: string | null): string | null {
  const block = blocks.find(({ id }) => id === blockId);
  return block ? blockWords(block) : null;
}

async function tell(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  objectId: number,
  act: string,
  after: unknown,
  pageIds: readonly PageId[],
): Promise<void> {
  await writeAudit(trx, { portfolioId, at: now, accountId: account, act, object: 'review', objectId, after });
  await notifyEvent(trx, { portfolioId, kind: 'review', pageIds, by: account });
}
