import { wrong } from '../words/faults.js';
import { momentFromJSON } from './moment.js';
import { isRecord, type Fault, type Result } from './result.js';
import type { Robots } from './types.js';

/** The most characters of text that can be asked for below a result. */
export const MOST_SNIPPET = 10_000;
const FLAGS = ['noindex', 'nofollow', 'noarchive'] as const;
const PREVIEWS: readonly unknown[] = ['none', 'standard', 'large'];

/** What is asked of search engines, from JSON; `null` where nothing is said. */
export function robotsFromJSON(json: unknown): Result<Robots | null> {
  if (json === undefined || json === null) return { ok: true, value: null };
  if (!isRecord(json)) return { ok: false, faults: [{ path: '', ...wrong('fields-unreadable') }] };
  const faults: Fault[] = [];
  const { maxSnippet, maxImagePreview, unavailableAfter } = json;
  for (const flag of FLAGS)
    if (json[flag] !== undefined && typeof json[flag] !== 'boolean')
      faults.push({ path: flag, ...wrong('option-unknown') });
  const isSnippet = Number.isSafeInteger(maxSnippet) && Number(maxSnippet) >= 0 && Number(maxSnippet) <= MOST_SNIPPET;
  if (isSaid(maxSnippet) && !isSnippet)
    faults.push({ path: 'maxSnippet', ...wrong('not-a-number', { least: 0, most: MOST_SNIPPET }) });
  if (isSaid(maxImagePreview) && !PREVIEWS.includes(maxImagePreview))
    faults.push({ path: 'maxImagePreview', ...wrong('option-unknown') });
  const after = momentFromJSON(unavailableAfter);
  if (isSaid(unavailableAfter) && !after) faults.push({ path: 'unavailableAfter', ...wrong('moment-missing') });
  if (faults.length) return { ok: false, faults };
  const robots: Robots = {
    ...Object.fromEntries(FLAGS.filter((flag) => json[flag]).map((flag) => [flag, true as const])),
    ...(isSnippet ? { maxSnippet: maxSnippet as number } : {}),
    ...(isSaid(maxImagePreview) ? { maxImagePreview: maxImagePreview as 'none' } : {}),
    ...(after ? { unavailableAfter: after } : {}),
  };
  return { ok: true, value: robots };
}

const isSaid = (value: unknown) => value !== undefined && value !== null;
