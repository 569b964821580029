import { writeInstant, type Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/editor';
import type { DraftService } from './draft.service';

/** Whether a draft is saved, in words, on the clock of its portfolio. */
export function keepingWords(
  draft: Pick<DraftService, 'keeping' | 'keptAt'>,
  clock: { readonly zone: string; readonly now: Instant },
): string {
  const at = draft.keptAt();
  const time = at === null ? '' : writeInstant(at as Instant, clock.zone, clock.now).split(', ')[1];
  switch (draft.keeping()) {
    case 'kept':
      return say.saved(time ?? '');
    case 'offline':
      return say.offlineSavedOnThisDeviceIt;
    case 'refused':
      return say.notSaved;
    default:
      return say.saving;
  }
}
