/** A date or a year in a text, with what it becomes when everything moves by some days. */
export interface DateHit {
  /** Place in the text, in UTF-16 code units. */
  readonly start: number;
  readonly end: number;
  readonly found: string;
  readonly proposal: string;
}

const MONTHS = [
  ['January', 'Jan'],
  ['February', 'Feb'],
  ['March', 'Mar'],
  ['April', 'Apr'],
  ['May', 'May'],
  ['June', 'Jun'],
  ['July', 'Jul'],
  ['August', 'Aug'],
  ['September', 'Sep'],
  ['October', 'Oct'],
  ['November', 'Nov'],
  ['December', 'Dec'],
] as const;
const WEEKDAYS = [
  ['Sunday', 'Sun'],
  ['Monday', 'Mon'],
  ['Tuesday', 'Tue'],
  ['Wednesday', 'Wed'],
  ['Thursday', 'Thu'],
  ['Friday', 'Fri'],
  ['Saturday', 'Sat'],
] as const;
const MONTH = MONTHS.flat().join('|');
const WEEKDAY = WEEKDAYS.flat().join('|');
const PATTERNS = [
  // Fri 12 December 2026, 12 Dec
  new RegExp(
    `\\b(?:(?<weekday>${WEEKDAY}),? )?(?<day>[0-3]?\\d) (?<month>${MONTH})\\b(?:,? (?<year>(?:19|20)\\d\\d))?`,
    'g',
  ),
  // December 12, 2026
  new RegExp(
    `\\b(?:(?<weekday>${WEEKDAY}),? )?(?<month>${MONTH}) (?<day>[0-3]?\\d)\\b(?:, (?<year>(?:19|20)\\d\\d))?`,
    'g',
  ),
  // 2026-12-12 and 12.12.2026
  /\b(?<year>(?:19|20)\d\d)-(?<month>\d\d)-(?<day>\d\d)\b/g,
  /\b(?<day>[0-3]?\d)\.(?<month>[01]?\d)\.(?<year>(?:19|20)\d\d)\b/g,
];
const YEAR = /\b(?:19|20)\d\d\b/g;

/**
 * Dates and years in a text, in reading order, each with what it becomes `days` later. A date without a year is taken
 * to be of `year`, or of the next where its month lies before `month` (1 to 12), in which the old run began. A lone year
 * moves as far as the old start's year does.
 */
export function datesIn(
  text: string,
  days: number,
  start: { readonly year: number; readonly month: number },
): DateHit[] {
  const hits: DateHit[] = [];
  const isTaken = (at: number, end: number) => hits.some((hit) => at < hit.end && hit.start < end);
  for (const pattern of PATTERNS)
    for (const match of text.matchAll(pattern)) {
      const [found] = match;
      const at = match.index;
      if (isTaken(at, at + found.length)) continue;
      const proposal = moved(found, match.groups ?? {}, days, start);
      if (proposal !== null) hits.push({ start: at, end: at + found.length, found, proposal });
    }
  const first = Date.UTC(start.year, start.month - 1, 15);
  const years = new Date(first + days * 86_400_000).getUTCFullYear() - start.year;
  for (const match of text.matchAll(YEAR)) {
    const [found] = match;
    if (isTaken(match.index, match.index + 4)) continue;
    hits.push({ start: match.index, end: match.index + 4, found, proposal: String(Number(found) + years) });
  }
  return hits.sort((a, b) => a.start - b.start);
}

function moved(
  found: string,
  { weekday, day = '', month = '', year }: Partial<Record<string, string>>,
  days: number,
  start: { readonly year: number; readonly month: number },
): string | null {
  const named = MONTHS.findIndex((names) => (names as readonly string[]).includes(month));
  const index = named >= 0 ? named : Number(month) - 1;
  const inYear = year ? Number(year) : index + 1 < start.month ? start.year + 1 : start.year;
  const date = new Date(Date.UTC(inYear, index, Number(day)));
  if (date.getUTCMonth() !== index || date.getUTCDate() !== Number(day)) return null;
  const next = new Date(date.getTime() + days * 86_400_000);
  const short = (names: readonly (readonly [string, string])[], at: number, like: string) =>
    names[at]?.[names.some(([, brief]) => brief === like) ? 1 : 0] ?? '';
  const padded = (value: number, like: string) => (like.length === 2 ? String(value).padStart(2, '0') : String(value));
  let result = found;
  const put = (old: string | undefined, now: string) => {
    if (old !== undefined) result = result.replace(old, `\u0000${parts.push(now) - 1}\u0000`);
  };
  const parts: string[] = [];
  put(weekday, weekday === undefined ? '' : short(WEEKDAYS, next.getUTCDay(), weekday));
  put(year, String(next.getUTCFullYear()));
  if (named >= 0) put(month, short(MONTHS, next.getUTCMonth(), month));
  if (/^\d{1,2}\./.test(found)) {
    put(day, padded(next.getUTCDate(), day));
    put(month, padded(next.getUTCMonth() + 1, month));
  } else {
    if (named < 0) put(month, padded(next.getUTCMonth() + 1, month));
    put(day, padded(next.getUTCDate(), day));
  }
  return result.replace(/\u0000(\d+)\u0000/g, (_, at: string) => parts[Number(at)] ?? '');
}

/** A text with some of its hits replaced; hits that are not named stay as they are. */
export function withReplacements(
  text: string,
  replacements: readonly { readonly start: number; readonly end: number; readonly by: string }[],
): string {
  return [...replacements]
    .sort((a, b) => b.start - a.start)
    .reduce((result, { start, end, by }) => result.slice(0, start) + by + result.slice(end), text);
}
