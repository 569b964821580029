import { absoluteAddress, type AddressStyle } from '@domatium/core/address';
import { rootTexts, rootToText, type RootContent } from '@domatium/core/root';
import { stockAt } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import type { ShelvedItem } from '../stock/index.js';
import type { SiteView } from './input.js';
import type { Witness } from './surroundings.js';

/** Files of the root of a host, as the site says that lies there; blank where it lies elsewhere, or says nothing. */
export function rootAround(
  items: readonly ShelvedItem[],
  { siteId, host, basePath }: SiteView,
  style: AddressStyle,
  at: Instant,
  witness: Witness,
): string {
  const item = basePath === '/' ? items.find((one) => one.siteId === siteId) : undefined;
  const held = item && stockAt(item.periods, at, witness);
  const texts = held ? rootTexts(held.content as RootContent, (path) => absoluteAddress(style, host, path)) : null;
  return texts ? rootToText(texts) : '';
}
