import knex, { type Knex } from 'knex';
import * as first from './migrations/0001-first.js';
import * as labels from './migrations/0002-labels.js';
import * as bin from './migrations/0003-bin.js';
import * as prepared from './migrations/0004-prepared.js';
import * as tasks from './migrations/0005-tasks.js';
import * as feeds from './migrations/0006-feeds.js';
import * as people from './migrations/0007-people.js';
import * as text from './migrations/0008-text.js';
import * as findings from './migrations/0009-findings.js';
import * as reviews from './migrations/0010-reviews.js';
import * as thumbnails from './migrations/0011-thumbnails.js';
import * as pictures from './migrations/0012-pictures.js';
import * as stock from './migrations/0013-stock.js';
import * as names from './migrations/0014-names.js';
import * as siteCss from './migrations/0015-site-css.js';
import * as stockApprovals from './migrations/0016-stock-approvals.js';
import * as replacing from './migrations/0017-replacing.js';
import * as derivedAnswers from './migrations/0018-derived-answers.js';
import * as verification from './migrations/0019-verification.js';
import * as trouble from './migrations/0020-trouble.js';
import * as doors from './migrations/0021-doors.js';
import * as routeClaim from './migrations/0022-route-claim.js';
import * as draftStates from './migrations/0023-draft-states.js';
import * as viewIds from './migrations/0024-view-ids.js';
import * as publication from './migrations/0025-publication.js';
import * as keptFiles from './migrations/0026-kept-files.js';
import * as findingCodes from './migrations/0027-finding-codes.js';
import * as oneEngine from './migrations/0028-one-engine.js';
import * as siteProfiles from './migrations/0029-site-profiles.js';
import * as releaseParts from './migrations/0030-release-parts.js';
import * as firstContent from './migrations/0031-first-content.js';
import * as overridden from './migrations/0032-overridden.js';
import * as pictureWords from './migrations/0033-picture-words.js';
import * as toldByMail from './migrations/0034-told-by-mail.js';
import * as remarkAnswers from './migrations/0035-remark-answers.js';
import * as wallZones from './migrations/0036-wall-zones.js';
import * as record from './migrations/0037-record.js';
import * as captions from './migrations/0038-captions.js';
import * as frames from './migrations/0039-frames.js';
import * as parts from './migrations/0040-parts.js';
import * as frameRules from './migrations/0041-frame-rules.js';
import * as menus from './migrations/0042-menus.js';
import * as frameLines from './migrations/0043-frame-lines.js';
import * as framesBefore from './migrations/0044-frames-before.js';
import * as twins from './migrations/0045-twins.js';
import * as robots from './migrations/0046-robots.js';
import * as metadata from './migrations/0047-metadata.js';
import * as sitemaps from './migrations/0048-sitemaps.js';
import * as canonical from './migrations/0049-canonical.js';
import * as findingPlaces from './migrations/0050-finding-places.js';
import * as codes from './migrations/0051-codes.js';
import * as rootFiles from './migrations/0052-root-files.js';
import * as judgement from './migrations/0053-judgement.js';
import { TYPES, type Query } from './query.js';
import { warn } from './log.js';

const MIGRATIONS: Record<string, Knex.Migration> = {
  '0001-first': first,
  '0002-labels': labels,
  '0003-bin': bin,
  '0004-prepared': prepared,
  '0005-tasks': tasks,
  '0006-feeds': feeds,
  '0007-people': people,
  '0008-text': text,
  '0009-findings': findings,
  '0010-reviews': reviews,
  '0011-thumbnails': thumbnails,
  '0012-pictures': pictures,
  '0013-stock': stock,
  '0014-names': names,
  '0015-site-css': siteCss,
  '0016-stock-approvals': stockApprovals,
  '0017-replacing': replacing,
  '0018-derived-answers': derivedAnswers,
  '0019-verification': verification,
  '0020-trouble': trouble,
  '0021-doors': doors,
  '0022-route-claim': routeClaim,
  '0023-draft-states': draftStates,
  '0024-view-ids': viewIds,
  '0025-publication': publication,
  '0026-kept-files': keptFiles,
  '0027-finding-codes': findingCodes,
  '0028-one-engine': oneEngine,
  '0029-site-profiles': siteProfiles,
  '0030-release-parts': releaseParts,
  '0031-first-content': firstContent,
  '0032-overridden': overridden,
  '0033-picture-words': pictureWords,
  '0034-told-by-mail': toldByMail,
  '0035-remark-answers': remarkAnswers,
  '0036-wall-zones': wallZones,
  '0037-record': record,
  '0038-captions': captions,
  '0039-frames': frames,
  '0040-parts': parts,
  '0041-frame-rules': frameRules,
  '0042-menus': menus,
  '0043-frame-lines': frameLines,
  '0044-frames-before': framesBefore,
  '0045-twins': twins,
  '0046-robots': robots,
  '0047-metadata': metadata,
  '0048-sitemaps': sitemaps,
  '0049-canonical': canonical,
  '0050-finding-places': findingPlaces,
  '0051-codes': codes,
  '0052-root-files': rootFiles,
  '0053-judgement': judgement,
};

/** Knex over one pool; instants come as milliseconds, identities as numbers. */
export function openDatabase(url: string, options: { max?: number } = {}): Knex {
  return knex({
    client: 'pg',
    connection: { connectionString: url, types: TYPES, application_name: 'domatium' } as Knex.PgConnectionConfig,
    pool: { min: 0, max: options.max ?? 10 },
    acquireConnectionTimeout: 5000,
    // What people wrote stands in no message.
    compileSqlOnError: false,
    log: {
      warn: (message: unknown) => warn('database', message),
      error: (message: unknown) => warn('database', message),
      deprecate: (message: unknown) => warn('database', message),
      debug: () => undefined,
    },
  });
}

/** Brings the tables to the newest form, or to that of the migration `last`; gives the names of what was done. */
export async function migrate(database: Knex, last?: string): Promise<string[]> {
  const names = Object.keys(MIGRATIONS);
  const wanted = last === undefined ? names : names.slice(0, names.indexOf(last) + 1);
  const [, done] = (await database.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve(wanted),
      getMigrationName: (name: string) => name,
      getMigration: (name: string) => Promise.resolve(MIGRATIONS[name] as Knex.Migration),
    },
  })) as [number, string[]];
  return done;
}

/** A `Query` over knex or a transaction of it. */
export function queryOfKnex(database: Knex): Query {
  return async <Row>(sql: string, values: readonly unknown[] = []) => {
    // Knex binds `?` by position; our SQL says `$1` and may say it twice.
    const bound: unknown[] = [];
    const positional = sql.replace(/\$(\d+)/g, (_, place: string) => {
      bound.push(values[Number(place) - 1] ?? null);
      return '?';
    });
    const result: unknown = await database.raw(positional, bound as Knex.RawBinding[]);
    return (result as { rows: Row[] }).rows;
  };
}
