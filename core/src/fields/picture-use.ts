import type { PictureId } from '../plan/index.js';
import { wrong, type Wrong } from '../words/faults.js';
import { isRecord } from './result.js';

/** A picture as one block uses it. `isDecorative` says that it needs no description. */
export interface PictureUse {
  readonly pictureId: PictureId;
  readonly description: string;
  readonly isDecorative: boolean;
  /** What must stay in view where the picture is cut to fit, in thousandths of its width and height; its middle where it says nothing. */
  readonly focus?: { readonly x: number; readonly y: number };
}

const LONGEST_DESCRIPTION = 500;

/** The use of a picture from JSON, or what is wrong with it. */
export function pictureUseFromJSON(json: unknown): PictureUse | Wrong {
  if (!isRecord(json) || !Number.isSafeInteger(json['pictureId']) || typeof json['description'] !== 'string')
    return wrong('picture-unreadable');
  if (json['description'].length > LONGEST_DESCRIPTION)
    return wrong('description-too-long', { most: LONGEST_DESCRIPTION });
  const focus = focusFromJSON(json['focus']);
  return {
    pictureId: json['pictureId'] as PictureId,
    description: json['description'],
    isDecorative: json['isDecorative'] === true,
    ...(focus ? { focus } : {}),
  };
}

function focusFromJSON(json: unknown): PictureUse['focus'] | null {
  const isShare = (value: unknown): value is number =>
    Number.isInteger(value) && Number(value) >= 0 && Number(value) <= 1000;
  return isRecord(json) && isShare(json['x']) && isShare(json['y']) ? { x: json['x'], y: json['y'] } : null;
}
