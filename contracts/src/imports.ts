import { array, number, object, string, type InferType } from 'yup';
import { endpoint } from './endpoint.js';
import { trim } from './fields.js';
import { inPortfolio } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

/** Columns a person can map; everything is text as it stands in the file. */
export const IMPORT_FIELDS = [
  'id',
  'name',
  'site',
  'path',
  'title',
  'description',
  'shareTitle',
  'shareDescription',
  'robots',
  'labels',
  'campaign',
  'owner',
  'from',
  'until',
  'afterwards',
  'further',
] as const;
export type ImportField = (typeof IMPORT_FIELDS)[number];
/** As many rows as are taken at once. */
export const MOST_ROWS = 2000;

const cell = () => string().transform(trim).max(2000, say.atMost2000Characters).default('');
const importRow = object({
  /** Where it stands in the file, the head being line 1. */
  line: number().integer().positive().required(),
  id: cell(),
  name: cell(),
  site: cell(),
  path: cell(),
  title: cell(),
  description: cell(),
  shareTitle: cell(),
  shareDescription: cell(),
  robots: cell(),
  labels: cell(),
  campaign: cell(),
  owner: cell(),
  from: cell(),
  until: cell(),
  afterwards: cell(),
  further: cell(),
}).noUnknown(say.unknownColumn);
const rows = array()
  .of(importRow.required())
  .min(1, say.thereAreNoRows)
  .max(MOST_ROWS, say.atMostRowsAtOnce(MOST_ROWS.toLocaleString('en')))
  .required();
export type ImportRow = InferType<typeof importRow>;

export interface ImportResult {
  readonly line: number;
  readonly act: 'create' | 'change' | 'same' | 'wrong';
  readonly name: string;
  readonly address: string;
  /** What it changes, in words. */
  readonly words: readonly string[];
  readonly errors: readonly { readonly field: ImportField | null; readonly message: string }[];
}

export const imports = {
  importPreview: endpoint<{ readonly rows: readonly ImportResult[] }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/imports/preview',
    who: 'write',
    summary: 'What rows of a file would create and change, and what is wrong with each',
    params: inPortfolio,
    body: object({ rows }).noUnknown(say.unknownField),
  }),
  importRows: endpoint<{ readonly created: number; readonly changed: number; readonly releaseId: number | null }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/imports',
    who: 'write',
    summary:
      'Create and change pages from rows, all or none; what touches visitors is one release and asks for that right',
    params: inPortfolio,
    body: object({ rows, idempotencyKey: string().required().min(8).max(100) }).noUnknown(say.unknownField),
  }),
};
