import type { Answer, PageId, RedirectStatus } from '../plan/index.js';

/** What stands in a cell for what an address gives behind an end; a redirect by the address it leads to. */
export type AnswerCell =
  | { readonly kind: 'not-found' | 'gone' }
  | { readonly kind: 'redirect'; readonly status: RedirectStatus; readonly to: string };

/** "not found", "gone", "302 marrowick.example/winter". `addressOf`: the address of a page, without scheme. */
export function writeAnswerCell(answer: Answer, addressOf: (page: PageId) => string): string {
  if (answer.kind !== 'redirect') return answer.kind === 'gone' ? 'gone' : 'not found';
  const { status, target } = answer;
  return `${status} ${target.kind === 'page' ? addressOf(target.pageId) : target.url}`;
}

/** The same read back; a redirect without a number is one for the time being. `null` where the cell is empty. */
export function readAnswerCell(text: string): AnswerCell | null {
  const typed = text.trim();
  if (!typed) return null;
  if (/^(not[ -]found|404|-)$/i.test(typed)) return { kind: 'not-found' };
  if (/^(gone|410)$/i.test(typed)) return { kind: 'gone' };
  const [, status, to = typed] = /^(301|302)\s+(.+)$/.exec(typed) ?? [];
  return { kind: 'redirect', status: status === '301' ? 301 : 302, to };
}

/** Periods of one page in one cell: "2026-12-24 18:00 to 2026-12-27 00:00; 2027-02-01 09:00". */
export const writePeriodsCell = (
  periods: readonly { readonly from: string; readonly until: string | null }[],
): string => periods.map(({ from, until }) => (until === null ? from : `${from} to ${until}`)).join('; ');

/** The same read back, as it was typed. */
export function readPeriodsCell(text: string): { readonly from: string; readonly until: string }[] {
  return text
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => {
      const [from = '', until = ''] = part.split(/\s+to\s+/);
      return { from, until };
    });
}
