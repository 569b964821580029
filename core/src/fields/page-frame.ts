import { wrong } from '../words/faults.js';
import { isRecord, type Fault, type Result } from './result.js';
import type { PageFrame } from './types.js';

const MOST_BANDS = 5;
const isId = (value: unknown): value is number => Number.isSafeInteger(value) && (value as number) > 0;

/** What a page, or a rule, chooses, from JSON; whether the parts are there is asked by whoever knows the portfolio. */
export function pageFrameFromJSON(json: unknown): Result<PageFrame> {
  const { header = null, footer = null, bands = null } = isRecord(json) ? json : {};
  const faults: Fault[] = [];
  for (const [path, value] of Object.entries({ header, footer }))
    if (value !== null && value !== 'none' && value !== 'name' && !isId(value))
      faults.push({ path, ...wrong('part-missing') });
  if (bands !== null && !(Array.isArray(bands) && bands.length <= MOST_BANDS && bands.every(isId)))
    faults.push({ path: 'bands', ...wrong('part-bands', { most: MOST_BANDS }) });
  return faults.length ? { ok: false, faults } : { ok: true, value: { header, footer, bands } as PageFrame };
}
