import { readablePath } from '../address/index.js';
import type { PageId, RedirectTarget } from '../plan/index.js';
import { contains } from '../time/index.js';
import { redirectProblems, type RedirectProblem } from '../routing/index.js';
import type { CheckInput, Finding } from './finding.js';

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
  const isOld = ({ kind, host, path, sourceId, during }: RedirectProblem) =>
    known.some(
      (old) =>
        old.kind === kind &&
        old.host === host &&
        old.path === path &&
        old.sourceId === sourceId &&
        contains(old.during, during.from),
    );
  const isChanged = new Set(changed);
  const said = new Set<string>();
  return redirectProblems(planned, touched, now).flatMap((problem): RedirectFinding[] => {
    const { kind, host, path, target, during, trail, sourceId, isAtStart } = problem;
    const isChosen = sourceId !== null && chosen.has(sourceId);
    if (!isChosen && isOld(problem)) return [];
    const own = problem.pageId !== null && isChanged.has(problem.pageId) ? problem.pageId : null;
    const pageId =
      own ?? trail.find((step) => step.pageId !== null && isChanged.has(step.pageId))?.pageId ?? changed[0];
    // The same redirect is told of once, at the first instant it is so.
    const key = `${kind} ${host}${path} ${sourceId}`;
    if (pageId === undefined || said.has(key)) return [];
    said.add(key);
    const when = during.from > now ? ` from ${write(during.from)}` : '';
    const address = host + readablePath(path);
    const loop = kind === 'loop';
    return [
      {
        pageId,
        check: 'redirects',
        severity: loop || (isChosen && isAtStart) ? 'blocks' : 'worth-fixing',
        message: loop
          ? `The redirect at ${address} leads round in a circle${when}: ${wayOf(problem)}.`
          : `The redirect at ${address} to ${targetName(target, nameOf)} leads nowhere${when}.`,
        mend: loop ? 'Choose another target.' : 'Choose a target that is live then.',
        place: null,
      },
    ];
  });
}

const targetName = (target: RedirectTarget, nameOf: (id: PageId) => string) =>
  target.kind === 'page' ? nameOf(target.pageId) : target.url;

/** The way of a circle, from the redirect on to where it comes round. */
const wayOf = ({ host, path, trail }: RedirectProblem) =>
  [{ host, path }, ...trail].map((step) => step.host + readablePath(step.path)).join(' → ');
