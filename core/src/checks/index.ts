import { firstHeading } from './first-heading.js';
import type { Check, CheckInput, DocumentCheck, Finding } from './finding.js';
import { links } from './links.js';
import { pictureDescription } from './picture-description.js';
import { redirects } from './redirects.js';
import { title } from './title.js';

export * from './finding.js';

/** Checks of the document alone: they run in the editor too. */
export const documentChecks: readonly DocumentCheck[] = [title, firstHeading, pictureDescription];
/** Checks that need the plan. */
export const planChecks: readonly Check[] = [links, redirects];

/** All findings of a document that is to be released, those that block first. */
export function findingsOf(input: CheckInput): Finding[] {
  const findings = [...documentChecks, ...planChecks].flatMap((check) => check(input));
  return findings.sort((a, b) => Number(b.severity === 'blocks') - Number(a.severity === 'blocks'));
}

/** The findings that need no plan, for the editor. */
export function documentFindingsOf(document: CheckInput['document']): Finding[] {
  return documentChecks.flatMap((check) => check({ document }));
}
