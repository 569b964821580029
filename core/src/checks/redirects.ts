import { contains } from '../time/index.js';
import { redirectProblems } from '../routing/index.js';
import type { Check } from './finding.js';

/** A loop or dead end that the release makes, at any instant of the plan, blocks it; one that was there already does not. */
export const redirects: Check = ({ planned, current, touched, now, nameOf, write }) => {
  const known = redirectProblems(current, touched, now);
  return redirectProblems(planned, touched, now).map((problem) => {
    const { kind, host, path, target, during } = problem;
    const isOld = known.some((old) => old.kind === kind && old.host === host && old.path === path && old.target === target && contains(old.during, during.from));
    const when = during.from > now ? ` from ${write(during.from)}` : '';
    return {
      check: 'redirects',
      severity: isOld ? 'worth-fixing' : 'blocks',
      message: kind === 'loop'
        ? `The redirect at ${host}${path} leads round in a circle${when}.`
        : `The redirect at ${host}${path} to ${nameOf(target)} leads nowhere${when}.`,
      mend: 'Choose a target that is live then.',
      place: null,
    };
  });
};
