import { readablePath } from '../address/index.js';
import type { PageId, RedirectTarget } from '../plan/index.js';
import { contains } from '../time/index.js';
import { redirectProblems, type RedirectProblem } from '../routing/index.js';
import { found, type CheckInput, type Finding } from './finding.js';

/** What redirects are judged by. */
export type RedirectCheckInput = Pick<CheckInput, 'planned' | 'current' | 'now' | 'nameOf' | 'write'> & {
  /** Addresses at which the change may alter what a redirect leads to. */
  readonly touched: readonly { readonly host: string; readonly path: string }[];
  /** The redirects that are chosen in the change, by the order of their answers. */
  readonly chosen: ReadonlySet<number>;
  /** The pages that are changed, in their order. */
  readonly changed: readonly PageId[];
};

/** A finding with the page whose change makes it. */
export type RedirectFinding = Finding & { readonly pageId: PageId };

/**
 * Loops and dead ends that a change makes, at any instant of the plan (design rule 3). A redirect that is chosen must
 * lead somewhere at its start, and nowhere round in a circle; where it will lead nowhere later that is worth knowing. A
 * circle among redirects chosen earlier blocks the change that closes it; one of them that comes to lead nowhere is worth
 * fixing. What was so before is left out. What moves leave is not judged: it gives what the page's address gives.
 */
export function redirects({
  planned,
  current,
  touched,
  chosen,
  changed,
  now,
  nameOf,
  write,
}: RedirectCheckInput): RedirectFinding[] {
  const known = redirectProblems(current, touched, now);
  // What only led into a circle before, and lies on one now, is not what it was.
  const isOnCircle = (problem: RedirectProblem) => circleOf(problem).includes(problem.host + problem.path);
  const isOld = (problem: RedirectProblem) =>
    known.some(
      (old) =>
        old.kind === problem.kind &&
        old.host === problem.host &&
        old.path === problem.path &&
        old.sourceId === problem.sourceId &&
        contains(old.during, problem.during.from) &&
        (problem.kind !== 'loop' || isOnCircle(old) || !isOnCircle(problem)),
    );
  const isChanged = new Set(changed);
  const isChosen = ({ sourceId }: RedirectProblem) => sourceId !== null && chosen.has(sourceId);
  const problems = redirectProblems(planned, touched, now);
  // A circle is one fault, however many redirects lie on it or lead into it: told of where it is chosen, or else of one
  // on it. What only leads into one that nobody chose, because moves alone made it, leads nowhere.
  const rankOf = (problem: RedirectProblem) => (isChosen(problem) ? 0 : isOnCircle(problem) ? 1 : 2);
  const ordered = [...problems].sort((a, b) => rankOf(a) - rankOf(b));
  const said = new Set<string>();
  return ordered.flatMap((problem): RedirectFinding[] => {
    const { kind, host, path, target, during, trail, sourceId, isAtStart } = problem;
    if (!isChosen(problem) && isOld(problem)) return [];
    const circle = kind === 'loop' ? `circle ${circleOf(problem).join(' ')}` : null;
    const loop = circle !== null && (isChosen(problem) || isOnCircle(problem));
    const own = problem.pageId !== null && isChanged.has(problem.pageId) ? problem.pageId : null;
    const met = trail.find((step) => step.pageId !== null && isChanged.has(step.pageId))?.pageId;
    const pageId = own ?? met ?? changed[0];
    // The same redirect is told of once, at the first instant it is so.
    const key = `${kind} ${host}${path} ${sourceId}`;
    const isTold = said.has(key) || (circle !== null && !isChosen(problem) && said.has(circle));
    if (pageId === undefined || isTold) return [];
    said.add(key);
    if (circle !== null && loop) said.add(circle);
    const at = during.from > now ? during.from : null;
    const address = host + readablePath(path);
    const severity = loop || (isChosen(problem) && isAtStart) ? 'blocks' : 'worth-fixing';
    const finding = loop
      ? found('redirects', severity, 'redirect-circle', { address, at, way: wayOf(problem) }, null, write)
      : found(
          'redirects',
          severity,
          'redirect-broken',
          { address, at, target: targetName(target, nameOf) },
          null,
          write,
        );
    return [{ ...finding, pageId }];
  });
}

const targetName = (target: RedirectTarget, nameOf: (id: PageId) => string) =>
  target.kind === 'page' ? nameOf(target.pageId) : target.url;

/** The addresses of the circle that a way comes to, in one order. */
function circleOf({ host, path, trail }: RedirectProblem): string[] {
  const all = [{ host, path }, ...trail].map((step) => step.host + step.path);
  return [...new Set(all.slice(all.indexOf(all.at(-1) ?? '')))].sort();
}

/** The way of a circle, from the redirect on to where it comes round. */
const wayOf = ({ host, path, trail }: RedirectProblem) =>
  [{ host, path }, ...trail].map((step) => step.host + readablePath(step.path)).join(' → ');
