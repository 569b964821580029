import type { RegisterRow } from '@domatium/core/register';
import type { Item } from '../hub/desk';

/** The page that a row of the list is, `null` where it is a group or still on its way. */
export const pageOf = (item: Item | undefined): RegisterRow | null => (item?.kind === 'page' ? item.page : null);
