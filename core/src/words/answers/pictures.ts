import type { Shown } from '../shown.js';

/** What the server says of pictures: refusals, lines of previews, mails. */
export const say = {
  isAAndIsReplacedBy: (name: Shown, ending: Shown, given: Shown) =>
    `“${name}” is a ${ending} and is replaced by one; this is a ${given}.`,
  uploadTheNewOneWhereThe: 'Upload the new one where the theme is edited.',
  youCanBringItInAs: ' You can bring it in as a file of its own and lead to that.',
  thisFileWasNotReplaced: 'This file was not replaced.',
  someoneElseHasChangedThisFile: 'Someone else has changed this file.',
  domatiumAcceptsJPEG:
    'Domatium accepts JPEG, PNG, WebP, AVIF, GIF, TIFF and SVG pictures, PDF documents, and MP4 or WebM films.',
  thisIsAnHEIC:
    'This is an HEIC picture, as phones make them, and can’t be opened here. Save it as JPEG (on the phone: “Most compatible”), and bring that.',
  thisIsAQuickTimeFilm: 'This is a QuickTime film, which many browsers can’t play. Export it as MP4, and bring that.',
  thisIsAMatroskaFilmWhich:
    'This is a Matroska film, which browsers can’t play. Export it as MP4 or WebM, and bring that.',
  thisIsAnAVI: 'This is an AVI film, which browsers can’t play. Export it as MP4, and bring that.',
  thisIsASoundNotA: (value: Shown) => `This is a sound, not a picture or a film. ${value}`,
  thisIsACompressedFileIf: 'This is a compressed file. If it is an SVG, save it as plain SVG.',
  aFileHasAtMostMegabytes: (value: Shown) => `A file has at most ${value} megabytes; this one has more.`,
  theFileIsEmpty: 'The file is empty.',
  thisFileSaysItIsA: 'This file says it is a font, but can’t be read as one. Export it as WOFF2 once more.',
  anSVGHasAt: (value: Shown) =>
    `An SVG has at most ${value} megabytes. Export it as PNG or JPEG: Domatium makes it light.`,
  thisSVGHasParts: (elements: Shown, depth: Shown, most: Shown, deepest: Shown) =>
    `This SVG has ${elements} parts, ${depth} deep; at most ${most} are taken, ${deepest} deep. Export it as PNG or JPEG: Domatium makes it light.`,
  thisSVGCantBe: 'This SVG can’t be read: it is broken, or holds no drawing. Export it once more.',
  inFrames: (pages: Shown) => ` in ${pages} frames`,
  thisPictureHasMillionPixelsAt: (pixels: Shown, pages: Shown, value: Shown) =>
    `This picture has ${pixels} million pixels${pages}; at most ${value} million are taken. Save it smaller: visitors see at most 2,000 across.`,
  readingThisFileTakesTooMuch:
    'Reading this file takes too much: it is far too intricate, or made to be. Export it more simply.',
  thisIsAWebPageNot: 'This is a web page, not a picture. Open it, and save the picture itself.',
  thisIsAnArchiveOrAn: (value: Shown) => `This is an archive or an office document. ${value}`,
  thisFileCantBeOpenedWhatever: (value: Shown) =>
    `This file can’t be opened, whatever its name says: it is damaged, or of another kind. ${value}`,
  andMore: (count: Shown) => ` and ${count} more`,
  shows: 'shows',
  show: 'show',
  itTakeItOffThereFirst: (users: Shown, count: Shown, show: Shown) =>
    `${users}${count} ${show} it. Take it off there first, or replace it everywhere.`,
  site: 'site',
  sites: 'sites',
  andMoreWithCount: (count: Shown, sites: Shown) => ` and ${count} more ${sites}`,
  visitorsOfWouldSeeItAt: (sites: Shown) =>
    `Visitors of ${sites} would see it at once; only a publisher or an owner may do that.`,
  visitorsOfWouldSeeItAtWithStrict: (strict: Shown) =>
    `Visitors of ${strict} would see it at once, where changes want approval; only an owner may do that.`,
  uploadedPicturesCantBeProcessed: 'Uploaded pictures can’t be processed right now.',
  thisPictureIsDamagedItOpens: 'This picture is damaged: it opens, but can’t be read to the end.',
  makingThisPicturesSizesTakesToo:
    'Making this picture’s sizes takes too much memory or time. Save it smaller, and bring that.',
  thisOneHas: (coming: Shown) => `; this one has ${coming}`,
  theFilesOfThisPortfolioHave: (used: Shown, quota: Shown, coming: Shown) =>
    `The files of this portfolio have ${used} of ${quota} GB${coming}. Delete pictures and files that nothing uses; what pages show stays.`,
  aPictureCanOnlyBeReplaced: 'A picture can only be replaced by a picture; this is a file of another kind.',
  aFileCanOnlyBeReplaced: 'A file can only be replaced by one of its kind; this is a picture.',
  youCanBringItInAsToo: ' You can bring it in as a picture of its own and put that on pages.',
  someoneElseHasChangedThisPicture: 'Someone else has changed this picture meanwhile.',
  thisPictureWasNotReplacedBy: 'This picture was not replaced by another.',
  thisPictureCameFromAnother:
    'This picture came from another portfolio without its original. Bring it in here to crop it.',
};
