import { ruleFor, stockAt, type MetadataRule, type SharedMetadata } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import type { ShelvedItem } from './store.js';

/** Rules about search and sharing among things of the stock, as they hold at an instant; `witness` is told how long that stays so. */
export const metadataRulesAt = (
  items: readonly ShelvedItem[],
  at: Instant,
  witness?: (from: number, until: number) => void,
): MetadataRule[] =>
  items.flatMap(({ id, kind, key, siteId, periods }) => {
    const about = kind === 'metadata' ? ruleFor(key, siteId) : null;
    const held = about && stockAt(periods, at, witness);
    return held ? [{ id, for: about, metadata: held.content as SharedMetadata }] : [];
  });
