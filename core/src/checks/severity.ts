import { FINDING_KINDS, type FindingCode } from '../words/index.js';
import type { Finding } from './finding.js';

/** How serious a site takes something that checks find: as it says, or not at all. */
export const TAKEN = ['blocks', 'worth-fixing', 'off'] as const;
export type Taken = (typeof TAKEN)[number];

/** What a site takes otherwise than usual, by what is found. */
export type Severities = Readonly<Partial<Record<FindingCode, Taken>>>;

/** What a release as a whole makes wrong: no single site has a say in it. */
const OF_RELEASES: ReadonlySet<string> = new Set<FindingCode>(['redirect-circle', 'redirect-broken', 'legal-lost']);

/** What a site can take otherwise than usual. */
export const SETTABLE = Object.keys(FINDING_KINDS).filter((code) => !OF_RELEASES.has(code)) as FindingCode[];

/** What holds a release back where a site says nothing of it. */
const BLOCKS: ReadonlySet<string> = new Set<FindingCode>([
  ...(['title-missing', 'heading-none', 'heading-several', 'heading-empty', 'picture-undescribed'] as const),
  ...(['placeholder', 'piece-first-content', 'phone-impossible', 'mail-impossible'] as const),
  ...(['form-without-button', 'form-without-target', 'form-to-page', 'form-to-nobody', 'form-unencrypted'] as const),
]);
/** What holds it back where it is so at once, and is worth fixing where it comes to be so later, or is only odd. */
const EITHER: ReadonlySet<string> = new Set<FindingCode>([
  ...(['link-broken', 'piece-not-out', 'value-unknown', 'link-unfilled', 'own-css'] as const),
]);

/** How serious something is where a site says nothing of it; `either` where that depends on how it is. */
export const usually = (code: FindingCode): Finding['severity'] | 'either' =>
  BLOCKS.has(code) ? 'blocks' : EITHER.has(code) ? 'either' : 'worth-fixing';

/** Findings as a site takes them, those that block first; what it takes not at all is left out. */
export function asTaken<One extends Pick<Finding, 'code' | 'severity'>>(
  findings: readonly One[],
  severities: Severities = {},
): One[] {
  return findings
    .flatMap((finding) => {
      const taken = severities[finding.code] ?? finding.severity;
      return taken === 'off' ? [] : [{ ...finding, severity: taken }];
    })
    .sort((a, b) => Number(b.severity === 'blocks') - Number(a.severity === 'blocks'));
}

/** That something found in a place of a page is let be, with a reason; its end is somebody else's to know. */
export interface Accepted {
  readonly code: string;
  /** The block it stands in; `null` for the page as a whole. */
  readonly blockId: string | null;
}

/** Where a finding stands, as far as it is accepted there. */
export const blockOf = ({ place }: Pick<Finding, 'place'>): string | null =>
  place && 'blockId' in place ? place.blockId : null;

/** Findings without those that are accepted. */
export function withoutAccepted<One extends Pick<Finding, 'code' | 'place'>>(
  findings: readonly One[],
  accepted: readonly Accepted[],
): One[] {
  return accepted.length
    ? findings.filter(
        (finding) => !accepted.some(({ code, blockId }) => code === finding.code && blockId === blockOf(finding)),
      )
    : [...findings];
}
