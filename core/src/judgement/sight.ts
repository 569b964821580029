import { picturesOf, textsOf, type PageDocument } from '../document/index.js';
import { worded, type Worded } from '../metadata/index.js';
import type { PageId } from '../plan/index.js';
import type { Instant, Interval } from '../time/index.js';
import { daysIn, languageOf, type DayInText } from './reading.js';
import { signatureOf, type Signature } from './same.js';

/** What of a document is looked at beside all others: a function of the document alone, so it is made once a revision. */
export interface Sight {
  readonly document: PageDocument;
  readonly title: Worded;
  readonly description: Worded;
  /** `null` where there is too little text to be compared. */
  readonly text: Signature | null;
  /** What it is to be found by: as it is compared, and as it is written. */
  readonly phrases: ReadonlyMap<string, string>;
  readonly days: readonly DayInText[];
  /** The language it seems to be written in, as ISO 639-1; `null` where that is not sure. */
  readonly language: string | null;
  /** The pictures it could be shared with, the first before the others. */
  readonly pictures: readonly number[];
}

export function sightOf(document: PageDocument): Sight {
  const { title, description, phrases = [], sharePictureId } = document.metadata;
  const texts = textsOf(document).filter(({ value, isCode }) => !isCode && value.trim() !== '');
  const whole = texts.map(({ value }) => value).join('\n');
  const own = picturesOf(document).map(({ value }) => value.pictureId as number);
  return {
    document,
    title: worded(title),
    description: worded(description),
    text: signatureOf(whole),
    phrases: new Map(phrases.flatMap((phrase) => (worded(phrase).plain ? [[worded(phrase).plain, phrase]] : []))),
    days: texts.flatMap(({ value, blockId }) => daysIn(value, blockId)),
    language: languageOf(whole),
    pictures: sharePictureId === undefined ? own : [sharePictureId, ...own],
  };
}

/** A page as visitors get it at the moment, or will get it first after it. */
export interface JudgedPage {
  readonly id: PageId;
  readonly name: string;
  /** A key that is the same as long as all below is. */
  readonly key: string;
  readonly sight: Sight;
  /** How long it is live without a gap, as this revision or another one. */
  readonly live: Interval;
  /** When this revision went live, or will. */
  readonly since: Instant;
  readonly role: string;
  /** As its site or itself says, as a BCP 47 tag. */
  readonly language: string;
  /** Whether search engines are asked to show it. */
  readonly isShown: boolean;
  readonly campaign: { readonly name: string; readonly until: Instant } | null;
  /** The picture of its site, where it has none. */
  readonly sitePicture: number | null;
}
