export { itemOfKey, itemsOfReleases, pagesUsing, stockOf, type ShelvedItem } from './store.js';
export { stockHeld } from './held.js';
export { newStock, releaseStock, undoFailedStock } from './service.js';
