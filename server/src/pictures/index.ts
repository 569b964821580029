export { filesWith, picturesWith, sendPicture, faceForm } from './service.js';
export { PictureMaker } from './maker.js';
