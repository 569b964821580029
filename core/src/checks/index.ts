import { EMPTY_DOCUMENT, type Block } from '../document/index.js';
import { blocks as checkBlocks } from './blocks.js';
import { canonical } from './canonical.js';
import { content, countdownOver } from './content.js';
import { facts } from './facts.js';
import { firstHeading } from './first-heading.js';
import type { Check, CheckInput, DocumentCheck, Finding } from './finding.js';
import { forms } from './forms.js';
import { links } from './links.js';
import { ownCss } from './own-css.js';
import { pictureDescription, pictureTiny } from './picture-description.js';
import { placeholder } from './placeholder.js';
import { search } from './search.js';
import { shared } from './shared.js';
import { title } from './title.js';

export * from './finding.js';
export * from './severity.js';
export { TINY } from './picture-description.js';
export { mendsOf, type Mend } from './mends.js';
export { mendAll, type MendLine } from './mend-all.js';
export { draftLinkFindingsOf, type KnownPage } from './draft-links.js';
export { canonical as canonicalFindingsOf } from './canonical.js';
export { links as linkFindingsOf } from './links.js';
export { facts as factFindingsOf } from './facts.js';
export { search as searchFindingsOf } from './search.js';
export { namesOf, shared as sharedFindingsOf } from './shared.js';
/** Judges a release as a whole, once. */
export { redirects as redirectFindingsOf, type RedirectCheckInput, type RedirectFinding } from './redirects.js';

/** Checks of the document alone: they run in the editor too. */
export const documentChecks: readonly DocumentCheck[] = [
  title,
  firstHeading,
  pictureDescription,
  pictureTiny,
  forms,
  checkBlocks,
  content,
  placeholder,
  ownCss,
];
/** Checks of a document in its plan. */
export const planChecks: readonly Check[] = [links, shared, search, canonical, facts, countdownOver];

/** All findings of a document that is to be released, those that block first. */
export function findingsOf(input: CheckInput): Finding[] {
  return blockingFirst([...documentChecks, ...planChecks].flatMap((check) => check(input)));
}

/** The findings that need no plan, for the editor. */
export function documentFindingsOf(document: CheckInput['document'], tiny: ReadonlySet<number> = new Set()): Finding[] {
  return blockingFirst(documentChecks.flatMap((check) => check({ document, tiny })));
}

/** What is wrong with the blocks of something that stands around pages. */
export function partFindingsOf(blocks: readonly Block[]): Finding[] {
  const document = { ...EMPTY_DOCUMENT, blocks };
  return blockingFirst([pictureDescription, forms, checkBlocks, placeholder].flatMap((check) => check({ document })));
}

function blockingFirst(findings: Finding[]): Finding[] {
  return findings.sort((a, b) => Number(b.severity === 'blocks') - Number(a.severity === 'blocks'));
}
