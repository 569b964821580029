import type { Trouble } from '@domatium/storage';
import { LEAP } from './clock.js';

/** What is wrong at an edge. */
export interface EdgeState {
  readonly edgeId: string;
  /** Pages that are missing or damaged on its disk. */
  readonly lacks: number;
  /** Why its disk takes nothing, `null` where it does. */
  readonly disk: string | null;
  /** Files of the spool that could not be read whole. */
  readonly unread: number;
  /** Answers that found no room to be counted. */
  readonly lost: number;
  /** By how many milliseconds its clock leads the database's. */
  readonly clockLeads: number;
}

/** What is wrong, as sentences for whoever looks after the installation. */
export function troublesOf({ edgeId, lacks, disk, unread, lost, clockLeads }: EdgeState): Trouble[] {
  const trouble = (kind: Trouble['kind'], words: string): Trouble => ({ kind, words, portfolioId: null });
  return [
    ...(lacks
      ? [
          trouble(
            'damaged',
            `${lacks === 1 ? 'A page is' : `${lacks} pages are`} missing or damaged on the disk of ${edgeId}. Visitors get the version before; the page is made anew.`,
          ),
        ]
      : []),
    ...(disk ? [trouble('disk', `${edgeId} can’t write to its disk (${disk}).`)] : []),
    ...(unread || lost
      ? [
          trouble(
            'counts',
            `Some visits at ${edgeId} are not counted: ${unread ? `${unread} files of the spool could not be read whole and were set aside` : `${lost} answers found no room`}.`,
          ),
        ]
      : []),
    ...(Math.abs(clockLeads) > LEAP
      ? [
          trouble(
            'clock',
            `The clock of ${edgeId} is ${Math.round(Math.abs(clockLeads) / 1000)} seconds ${clockLeads > 0 ? 'ahead of' : 'behind'} the database’s. It goes by the database’s.`,
          ),
        ]
      : []),
  ];
}
