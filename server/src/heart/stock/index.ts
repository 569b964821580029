export { itemOfKey, itemsOfReleases, pagesUsing, stockOf, type ShelvedItem } from './store.js';
export { stockHeld } from './held.js';
export { releaseStock, undoFailedStock } from './releases.js';
export { newStock } from './service.js';
