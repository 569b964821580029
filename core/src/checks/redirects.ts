import { contains } from '../time/index.js';
import { redirectProblems } from '../routing/index.js';
import type { CheckInput, Finding } from './finding.js';

export type RedirectCheckInput = Pick<
  CheckInput,
  'planned' | 'current' | 'touched' | 'made' | 'now' | 'nameOf' | 'write'
>;

/**
 * Loops and dead ends of a release, at any instant of the plan. A redirect the release makes must lead somewhere, and
 * a loop never may arise; an older redirect that comes to lead nowhere is worth fixing. What was so before is left out,
 * unless it is made anew.
 */
export function redirects({ planned, current, touched, made, now, nameOf, write }: RedirectCheckInput): Finding[] {
  const known = redirectProblems(current, touched, now);
  return redirectProblems(planned, touched, now).flatMap((problem): Finding[] => {
    const { kind, host, path, target, during } = problem;
    const isMade = made.has(host + path);
    const isOld = known.some(
      (old) =>
        old.kind === kind &&
        old.host === host &&
        old.path === path &&
        old.target === target &&
        contains(old.during, during.from),
    );
    if (isOld && !isMade) return [];
    const when = during.from > now ? ` from ${write(during.from)}` : '';
    return [
      {
        check: 'redirects',
        severity: isMade || kind === 'loop' ? 'blocks' : 'worth-fixing',
        message:
          kind === 'loop'
            ? `The redirect at ${host}${path} leads round in a circle${when}.`
            : `The redirect at ${host}${path} to ${nameOf(target)} leads nowhere${when}.`,
        mend: 'Choose a target that is live then.',
        place: null,
      },
    ];
  });
}
