import type { PartKind } from '@domatium/core/stock';
import { array, number, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id, trim } from './fields.js';
import { inPortfolio, labelName } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

/** The largest file that is taken, in bytes. */
export const MAX_UPLOAD = 100 * 1024 * 1024;
/** The largest picture that is taken, in pixels: what would need more memory to open is refused before it is opened. */
export const MAX_PIXELS = 150_000_000;

/** One size of a picture: its public files, and how many bytes a visitor fetches. */
export interface PictureVariant {
  readonly width: number;
  readonly src: string;
  /** The same as AVIF, for browsers that can show it. */
  readonly avif?: string;
  readonly bytes?: number;
}

export interface PictureView {
  readonly id: number;
  readonly name: string;
  readonly description: string;
  readonly width: number;
  readonly height: number;
  readonly variants: readonly PictureVariant[];
  readonly state: 'waiting' | 'ready' | 'failed';
  /** How far its sizes are made, 0 to 1. */
  readonly progress: number;
  readonly failure: string | null;
  readonly labels: readonly string[];
  readonly version: number;
  /** The picture it is a part of, and which part: thousandths of its width and height. */
  readonly ofId: number | null;
  readonly crop: Crop | null;
  /** Pictures that look much the same. */
  readonly similar: readonly number[];
  /** What was brought in. */
  readonly original: Brought | null;
  /** What it was made from before it was replaced; it can be put back. */
  readonly former: Brought | null;
  /** Descriptions it had before it was replaced: where a page says one of them, visitors get that of now. */
  readonly formerWords: readonly string[];
}

/** Bytes as they were brought in, which are kept. */
export interface Brought {
  readonly bytes: number;
  readonly format: string;
}

export interface FileView {
  readonly id: number;
  readonly name: string;
  readonly ending: string;
  readonly bytes: number;
  readonly src: string;
  readonly version: number;
  /** What it was before it was replaced; it can be put back. */
  readonly former: { readonly bytes: number } | null;
}

/** A file that visitors may get, named by its hash. */
export const publicFile = () =>
  string()
    .matches(/^[0-9a-f]{64}\.(webp|avif|svg|jpg|png|mp4|webm|pdf|woff2|ics|vtt|csv|txt)$/, say.notAFile)
    .required();

/** What became of bytes that were sent: a picture, or a file that is none. */
export interface Received {
  readonly picture: PictureView | null;
  readonly file: FileView | null;
  /** The very same file is here already; nothing new was made. */
  readonly isKnown: boolean;
}

const thousandths = () => number().integer().min(0).max(1000).required();
export const cropBody = object({
  x: thousandths(),
  y: thousandths(),
  width: thousandths().min(20, say.aCropMustBeAtLeast),
  height: thousandths().min(20, say.aCropMustBeAtLeastToo),
})
  .noUnknown(say.unknownField)
  .test(
    'inside',
    say.theCropExtendsBeyondThePicture,
    (value) => !value || (value.x + value.width <= 1000 && value.y + value.height <= 1000),
  );
/** A part of a picture, in thousandths of its width and height. */
export interface Crop {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const pictureBody = object({
  version: number().integer().positive().required(),
  name: string().transform(trim).required(say.giveItAName).max(200, say.atMost200Characters),
  description: string().transform(trim).defined().max(500, say.atMost500Characters),
  labels: array().of(labelName()).max(20, say.atMost20LabelsOnAPicture).required(),
}).noUnknown(say.unknownField);

/** Where something is used that changes at once wherever it is. */
export interface Uses {
  /** Of all pages that show it the first by name. */
  readonly pages: readonly {
    readonly pageId: number;
    readonly name: string;
    /** In its draft, or in a revision that is live or planned. */
    readonly where: readonly ('draft' | 'plan')[];
  }[];
  /** Pieces that show it, and parts that stand around pages. */
  readonly pieces: readonly { readonly id: number; readonly name: string; readonly kind: 'piece' | PartKind }[];
  /** How many pages show it, pieces counted in, and how many of those are live or planned. */
  readonly count: number;
  readonly live: number;
  /** Why whoever asks may not replace it, in words; `null` where they may. */
  readonly refusal: string | null;
}

export interface PictureUses extends Uses {
  readonly sites: readonly { readonly siteId: number; readonly name: string; readonly as: 'icon' | 'share' }[];
}

export interface FileUses extends Uses {
  /** Themes whose font it is. */
  readonly themes: readonly { readonly id: number; readonly name: string }[];
}

/** As many pages are named where a picture is used. */
export const USES_NAMED = 200;

const versionBody = object({ version: number().integer().positive().required() }).noUnknown(say.unknownField);
const onFile = object({ portfolioId: id(), fileId: id() });
const onPicture = object({ portfolioId: id(), pictureId: id() });

export const pictures = {
  pictures: endpoint<readonly PictureView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pictures',
    who: 'read',
    summary: 'The portfolio’s pictures, crops of them too',
    params: inPortfolio,
  }),
  receive: endpoint<Received>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pictures',
    who: 'write',
    summary: 'Upload a picture or file, as the bytes it has; its sizes are made in the background',
    params: inPortfolio,
    query: object({
      name: string().transform(trim).required(say.giveItAName).max(200, say.atMost200Characters),
      /** The picture that these bytes replace, wherever it is used. */
      replaces: number().integer().positive().optional(),
      /** How the picture is described that these bytes make of it. */
      description: string().transform(trim).max(500, say.atMost500Characters).optional(),
      /** The file that these bytes replace, of the same kind. */
      replacesFile: number().integer().positive().optional(),
    }),
    takes: 'bytes',
  }),
  setPicture: endpoint<PictureView>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/pictures/:pictureId',
    who: 'write',
    summary: 'Name, description and labels of a picture',
    params: onPicture,
    body: pictureBody,
  }),
  pictureUses: endpoint<PictureUses>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pictures/:pictureId/uses',
    who: 'read',
    summary: 'Where a picture or a crop of it is used',
    params: onPicture,
  }),
  crop: endpoint<PictureView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pictures/:pictureId/crops',
    who: 'write',
    summary: 'A part of a picture, in thousandths of its width and height, as a picture to use',
    params: onPicture,
    body: cropBody,
  }),
  takePicture: endpoint<PictureView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pictures/:pictureId/original',
    who: 'write',
    summary: 'Put a picture of the portfolio in the place of another, wherever that is used',
    params: onPicture,
    body: object({
      /** The picture, or a part of it, that takes the place. */
      from: id(),
      /** How the picture is described from then on; as before where it is left out. */
      description: string().transform(trim).max(500, say.atMost500Characters).optional(),
    }).noUnknown(say.unknownField),
  }),
  putBackPicture: endpoint<PictureView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pictures/:pictureId/former',
    who: 'write',
    summary: 'Put back what a picture was before it was replaced; what it is now can be put back in the same way',
    params: onPicture,
    body: versionBody,
  }),
  deletePicture: endpoint<object>()({
    method: 'DELETE',
    path: '/api/portfolios/:portfolioId/pictures/:pictureId',
    who: 'write',
    summary: 'Delete a picture; refused while anything uses it',
    params: onPicture,
  }),
  files: endpoint<readonly FileView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stored-files',
    who: 'read',
    summary: 'Files that are no pictures: documents, films, fonts',
    params: inPortfolio,
  }),
  fileUses: endpoint<FileUses>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stored-files/:fileId/uses',
    who: 'read',
    summary: 'Where a file is led to or played, and whose font it is',
    params: onFile,
  }),
  setFile: endpoint<FileView>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/stored-files/:fileId',
    who: 'write',
    summary: 'The name of a file',
    params: onFile,
    body: object({
      version: number().integer().positive().required(),
      name: string().transform(trim).required(say.giveItAName).max(200, say.atMost200Characters),
    }).noUnknown(say.unknownField),
  }),
  takeFile: endpoint<FileView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/files/:fileId/bytes',
    who: 'write',
    summary: 'Put a file of the portfolio in the place of another of its kind, wherever that is used',
    params: onFile,
    body: object({ from: id() }).noUnknown(say.unknownField),
  }),
  putBackFile: endpoint<FileView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/stored-files/:fileId/former',
    who: 'write',
    summary: 'Put back what a file was before it was replaced; what it is now can be put back in the same way',
    params: onFile,
    body: versionBody,
  }),
  deleteFile: endpoint<object>()({
    method: 'DELETE',
    path: '/api/portfolios/:portfolioId/stored-files/:fileId',
    who: 'write',
    summary: 'Delete a file; refused while anything uses it',
    params: onFile,
  }),
  file: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/files/:hash',
    who: 'read',
    summary: 'A public file by its hash, for the canvas',
    params: object({
      portfolioId: id(),
      hash: publicFile(),
    }),
    answers: 'bytes',
  }),
};
