export { filesWith } from './files.js';
export { picturesWith, sendPicture, faceForm } from './service.js';
export { PictureMaker } from './maker.js';
