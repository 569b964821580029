export { picturesWith, sendPicture } from './service.js';
