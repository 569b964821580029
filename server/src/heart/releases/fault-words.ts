import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { releaseFaultWords, summaryWords, type SummaryPart, type WritePlan } from '@domatium/core/words';
import type { ReleaseFault } from './apply.js';

/** How instants are written in a zone, for somebody who reads now. */
export const writePlan = (zone: string, now: Instant): WritePlan => ({
  at: (at) => writeInstant(at, zone, now),
  end: (at) => writeEnd(at, zone, now),
});

/** What a release did, in words; one of the version before has only those it was given then. */
export const summaryOfRow = (
  { parts, summary }: { readonly parts: readonly SummaryPart[] | null; readonly summary: string },
  write: WritePlan,
): string => (parts ? summaryWords(parts, write) : summary);

/** A fault with its words. */
export const withWords = (
  fault: ReleaseFault,
  zone: string,
  now: Instant,
): ReleaseFault & { readonly message: string } => ({
  ...fault,
  message: releaseFaultWords(fault.code, fault.params as never, writePlan(zone, now)),
});
