export { filesWith } from './files.js';
export { picturesWith, sendPicture, faceForm, firstFaceForm } from './service.js';
export { PictureMaker } from './maker.js';
