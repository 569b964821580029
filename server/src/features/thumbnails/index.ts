export { ThumbnailDrawer } from './drawer.js';
