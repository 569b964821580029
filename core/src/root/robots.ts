import { wrong } from '../words/faults.js';
import type { Fault } from '../fields/result.js';

/** One line that allows or forbids. */
export interface RobotsRule {
  readonly isAllowed: boolean;
  /** As it was written, encoded as addresses are: `*` stands for anything, `$` at the end for the end. */
  readonly pattern: string;
  /** From 1. */
  readonly line: number;
}

/** Lines of `robots.txt` for some crawlers. */
export interface RobotsGroup {
  /** Product tokens in lower case; `*` for all that no group names. */
  readonly agents: readonly string[];
  readonly rules: readonly RobotsRule[];
}

export interface RobotsTxt {
  readonly groups: readonly RobotsGroup[];
  /** What no crawler would heed, by line: `path` is its number from 1. */
  readonly faults: readonly Fault[];
}

const KNOWN = new Set(['user-agent', 'allow', 'disallow', 'sitemap', 'crawl-delay', 'host']);

/** `robots.txt` by its lines (RFC 9309, 2.2). Whatever can't be read is left out, as crawlers do, and said. */
export function readRobots(text: string): RobotsTxt {
  const groups: { agents: string[]; rules: RobotsRule[] }[] = [];
  const faults: Fault[] = [];
  let isNaming = false;
  text.split(/\r\n|\r|\n/).forEach((whole, index) => {
    const line = index + 1;
    const said = whole.replace(/#.*/, '').trim();
    if (!said) return;
    const [, name = '', value = ''] = /^([^:\s]+)\s*:\s*(.*)$/.exec(said) ?? [];
    const key = name.toLowerCase();
    const last = groups.at(-1);
    if (!KNOWN.has(key)) faults.push({ path: String(line), ...wrong('robots-line') });
    else if (key === 'user-agent') {
      const agent = productOf(value);
      if (!agent) faults.push({ path: String(line), ...wrong('robots-agent') });
      else if (isNaming && last) last.agents.push(agent);
      else groups.push({ agents: [agent], rules: [] });
      isNaming = agent !== '';
    } else if (key === 'allow' || key === 'disallow') {
      isNaming = false;
      if (!last) faults.push({ path: String(line), ...wrong('robots-no-agent') });
      else if (value && !/^[/*]/.test(value)) faults.push({ path: String(line), ...wrong('robots-path') });
      else if (value) last.rules.push({ isAllowed: key === 'allow', pattern: encoded(value), line });
    }
  });
  return { groups, faults };
}

/** The product token of a crawler in lower case, without its version. */
const productOf = (agent: string): string => (/^\s*([^\s/]+)/.exec(agent)?.[1] ?? '').toLowerCase();

/** Letters beyond ASCII as addresses write them; escapes in capitals. */
function encoded(path: string): string {
  const whole = /[^\u0020-\u007e]/.test(path) ? encodeURI(path).replaceAll('%25', '%') : path;
  return whole.replace(/%[\da-f]{2}/gi, (escape) => escape.toUpperCase());
}

/** Whether a crawler may ask for an address, and the line that decides; `null` where none does. */
export interface RobotsDecision {
  readonly isAllowed: boolean;
  readonly rule: RobotsRule | null;
}

/**
 * The longest pattern that fits decides, of two that are as long the one that allows (RFC 9309, 2.2.2). The file itself
 * may always be asked for. `path` with what is asked of it.
 */
export function robotsDecision({ groups }: RobotsTxt, agent: string, path: string): RobotsDecision {
  if (path === '/robots.txt') return { isAllowed: true, rule: null };
  const named = groups.filter(({ agents }) => agents.includes(productOf(agent)));
  const heard = named.length ? named : groups.filter(({ agents }) => agents.includes('*'));
  const asked = encoded(path);
  let rule: RobotsRule | null = null;
  for (const one of heard.flatMap(({ rules }) => rules)) {
    const isLonger = !rule || one.pattern.length > rule.pattern.length;
    const isKinder = rule !== null && one.pattern.length === rule.pattern.length && one.isAllowed;
    if ((isLonger || isKinder) && fits(one.pattern, asked)) rule = one;
  }
  return { isAllowed: rule?.isAllowed ?? true, rule };
}

/** Whether a pattern fits the beginning of an address, in a time that grows with their lengths alone. */
function fits(pattern: string, path: string): boolean {
  const isWhole = pattern.endsWith('$');
  const [first = '', ...parts] = (isWhole ? pattern.slice(0, -1) : pattern).split('*');
  if (!path.startsWith(first)) return false;
  if (!parts.length) return !isWhole || path.length === first.length;
  let at = first.length;
  const last = isWhole ? parts.pop() : undefined;
  for (const part of parts) {
    const found = path.indexOf(part, at);
    if (found < 0) return false;
    at = found + part.length;
  }
  return last === undefined || (path.length - last.length >= at && path.endsWith(last));
}
