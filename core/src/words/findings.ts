import type { Instant } from '../time/index.js';
import { faultWords, type Said } from './faults.js';
import { say as factWords } from './screens/facts.js';

/** What is wrong, and what the person can do about it. */
export interface FindingWords {
  readonly message: string;
  readonly mend: string;
}

/** How an instant is written for the person who reads. */
export type WriteInstant = (at: Instant) => string;

/** Why a link leads nowhere, with what can be done. */
const WHY_OFF = {
  binned: { is: 'is in the bin', mend: 'Choose another page, or restore that one.' },
  never: { is: 'was never released, and nothing is planned', mend: 'Choose another page, or release that one first.' },
  ended: { is: 'is off, and nothing is planned', mend: 'Choose another page, or release that one again.' },
};
type WhyOff = keyof typeof WHY_OFF;

type FactWord = keyof typeof factWords.kinds;
const factNames = (keys: readonly string[]) =>
  keys.map((key) => factWords.fields[key as keyof typeof factWords.fields].toLowerCase()).join(', ');

/** Other pages, the first by name; `null` for more than are counted. */
interface Others {
  readonly pages: readonly string[];
  readonly more: number | null;
}

function listed({ pages, more }: Others): string {
  if (more === null) return 'more than 20 other pages';
  const all = more ? [...pages, more === 1 ? '1 more page' : `${more} more pages`] : pages;
  return new Intl.ListFormat('en-GB', { type: 'conjunction' }).format(all);
}

const names = new Intl.DisplayNames('en', { type: 'language' });
const languageName = (tag: string) => names.of(tag) ?? tag;

const from = (at: Instant | null, write: WriteInstant) => (at === null ? '' : ` from ${write(at)}`);

/**
 * Everything a check can find, by code, in words: the one place where they are written. What is found keeps its code and
 * params; words are made when somebody reads.
 */
export const FINDINGS = {
  'thanks-found': (_: { readonly asked: object }) => ({
    message: 'This thank-you page can be found by search engines.',
    mend: 'Keep it out of search results: only those who acted should see it.',
  }),
  'fact-incomplete': ({ kind, missing }: { readonly kind: FactWord; readonly missing: readonly string[] }) => ({
    message: `${factWords.kinds[kind]}: ${factNames(missing)} ${missing.length === 1 ? 'is' : 'are'} missing, so it is not published for search engines.`,
    mend: 'Fill it in, or remove what isn’t on the page.',
  }),
  'fact-passed': ({ kind, at }: { readonly kind: FactWord; readonly at: Instant }, write) => ({
    message: `${factWords.kinds[kind]}: what is stated for search engines is over since ${write(at)}.`,
    mend: 'Change the date, remove it, or end the page.',
  }),
  'countdown-passed': ({ at }: { readonly at: Instant }, write) => ({
    message: `The countdown ended on ${write(at)}.`,
    mend: 'Choose a later moment, or end the page.',
  }),
  'day-over': ({ text }: { readonly text: string }) => ({
    message: `“${text}” was still to come when this went live, and has passed.`,
    mend: 'Write what is true now, or end the page.',
  }),
  'ends-early': (
    { campaign, at, until }: { readonly campaign: string; readonly at: Instant; readonly until: Instant },
    write,
  ) => ({
    message: `The page ends on ${write(at)}, before its campaign ${campaign} on ${write(until)}.`,
    mend: 'Let it run longer, or end the campaign with it.',
  }),
  'language-other': ({ marked, read }: { readonly marked: string; readonly read: string }) => ({
    message: `The text seems to be ${languageName(read)} and is marked as ${languageName(marked)}.`,
    mend: 'Choose the page’s language in its settings.',
  }),
  'share-missing': () => ({
    message: 'There is no picture to show where the page is shared.',
    mend: 'Choose one in the settings of the page, or one for its site.',
  }),
  'share-small': ({ width, height }: { readonly width: number; readonly height: number }) => ({
    message: `The picture for sharing has ${width} × ${height} pixels; 1200 × 630 are needed to be shown large and sharp.`,
    mend: 'Choose a larger one.',
  }),
  'title-same': (others: Others) => ({
    message: `The title is the same as that of ${listed(others)}.`,
    mend: 'Say what sets this page apart.',
  }),
  'title-near': (others: Others) => ({
    message: `The title is nearly the same as that of ${listed(others)}.`,
    mend: 'Say what sets this page apart.',
  }),
  'description-same': (others: Others) => ({
    message: `The description is the same as that of ${listed(others)}.`,
    mend: 'Say what sets this page apart.',
  }),
  'description-near': (others: Others) => ({
    message: `The description is nearly the same as that of ${listed(others)}.`,
    mend: 'Say what sets this page apart.',
  }),
  'text-near': (others: Others) => ({
    message: `Nearly all of the text stands on ${listed(others)} too.`,
    mend: 'Name one of them as canonical, or take one off and redirect it.',
  }),
  'phrase-shared': ({ phrase, ...others }: Others & { readonly phrase: string }) => ({
    message: `“${phrase}” is aimed at by ${listed(others)} too.`,
    mend: 'Leave it to one of them.',
  }),
  'fact-over': ({ kind, at }: { readonly kind: FactWord; readonly at: Instant }, write) => ({
    message: `${factWords.kinds[kind]}: what is stated for search engines is over on ${write(at)}, before this goes live.`,
    mend: 'Change the date, or remove it.',
  }),
  'canonical-off': ({ page, at }: { readonly page: string; readonly at: Instant | null }, write) => ({
    message: `${page}, which search engines are asked to show instead, is not live${from(at, write)}: this page stands for itself then.`,
    mend: 'Choose another page, or release that one.',
  }),
  'canonical-chain': ({ page, at }: { readonly page: string; readonly at: Instant | null }, write) => ({
    message: `${page}, which search engines are asked to show instead, names another page itself${from(at, write)}: they may show neither.`,
    mend: 'Choose the page that is to be shown in the end.',
  }),
  'map-place-unreadable': ({ text }: { readonly text: string }) => ({
    message: `“${text}” is no place that can be read.`,
    mend: 'Write degrees north and east, like 54.0743, -2.8512.',
  }),
  'film-captions': () => ({
    message: 'The film has no captions.',
    mend: 'Add a WebVTT file, for people who can’t hear it or have the sound off.',
  }),
  'title-missing': () => ({
    message: 'The page has no title.',
    mend: 'Write one: it appears in search results and browser tabs.',
  }),
  'title-long': ({ length, shown }: { readonly length: number; readonly shown: number }) => ({
    message: `Title is ${length} characters; about ${shown} are shown.`,
    mend: 'Shorten it; put the important words first.',
  }),
  'description-missing': () => ({
    message: 'The page has no description.',
    mend: 'Write one or two sentences: they appear in search results.',
  }),
  'description-long': ({ length, shown }: { readonly length: number; readonly shown: number }) => ({
    message: `Description is ${length} characters; about ${shown} are shown.`,
    mend: 'Shorten it.',
  }),
  'heading-none': () => ({ message: 'The page has no first heading.', mend: 'Add an opening block.' }),
  'heading-several': ({ count }: { readonly count: number }) => ({
    message: `The page has ${count} first headings; it needs exactly one.`,
    mend: 'Remove an opening block, or make it a text.',
  }),
  'heading-empty': () => ({ message: 'The first heading is empty.', mend: 'Write it.' }),
  'picture-undescribed': ({ label }: { readonly label: string }) => ({
    message: `${label} has no description.`,
    mend: 'Describe it for people who can’t see it, or mark it as decorative.',
  }),
  'picture-tiny': ({ label, most }: { readonly label: string; readonly most: number }) => ({
    message: `${label} has at most ${most} pixels a side: nobody sees it.`,
    mend: 'Choose a larger picture, or remove it.',
  }),
  placeholder: ({ label, text }: { readonly label: string; readonly text: string }) => ({
    message: `${label} still says “${text}”.`,
    mend: 'Write your own words, or remove the block.',
  }),
  'piece-first-content': ({ piece, text }: { readonly piece: string; readonly text: string }) => ({
    message: `The piece “${piece}” still says “${text}”.`,
    mend: 'Open the piece and write your own words.',
  }),
  'own-css': ({ line, fault }: { readonly line: number; readonly fault: Said | string }) => ({
    message: `Own CSS, line ${line}: ${typeof fault === 'string' ? fault : faultWords(fault)}`,
    mend: 'Open the page’s own CSS and change that line.',
  }),
  'form-without-button': () => ({
    message: 'The form has no button.',
    mend: 'Name the button: without it nothing can be sent.',
  }),
  'form-without-target': () => ({
    message: 'The form has no destination.',
    mend: 'Choose the address of the service that receives the answers.',
  }),
  'form-to-page': () => ({
    message: 'The form leads to a page, and pages take no answers.',
    mend: 'Choose the address of the service that receives them, or remove the field.',
  }),
  'form-to-nobody': () => ({
    message: 'The form leads to what takes no answers.',
    mend: 'Choose the address of the service that receives them, or remove the field.',
  }),
  'form-unencrypted': () => ({
    message: 'What visitors write would be sent without encryption.',
    mend: 'Use an address of the service that begins with https://',
  }),
  'frame-unreadable': () => ({
    message: 'The frame’s address can’t be read: nothing is shown.',
    mend: 'Write the whole address, with https://.',
  }),
  'frame-empty': () => ({
    message: 'The frame shows nothing yet.',
    mend: 'Write the whole address, with https://.',
  }),
  'frame-nameless': () => ({ message: 'The frame has no name.', mend: 'Describe it in a few words.' }),
  'countdown-momentless': () => ({
    message: 'The countdown has no moment yet: it isn’t shown.',
    mend: 'Choose a moment, or count to the end of the page’s period.',
  }),
  'countdown-without-after': () => ({
    message: 'Nothing is shown after the countdown ends.',
    mend: 'Write what visitors see afterwards.',
  }),
  'own-html-nameless': () => ({
    message: 'Own HTML has no name: screen readers can’t say what it is.',
    mend: 'Describe it in a few words.',
  }),
  'own-html-broken': ({ line, what }: { readonly line: number; readonly what: string }) => ({
    message: `Own HTML, line ${line}: ${what}.`,
    mend: 'Close what is open, so that every browser shows the same.',
  }),
  'button-nowhere': ({ label }: { readonly label: string }) => ({
    message: `The button “${label}” leads nowhere: visitors don’t see it.`,
    mend: 'Choose where it leads, or remove it.',
  }),
  'picture-missing': ({ label }: { readonly label: string }) => ({
    message: `${label} is empty.`,
    mend: 'Choose one, or remove it.',
  }),
  'picture-file-name': ({ label, text }: { readonly label: string; readonly text: string }) => ({
    message: `${label} is described by the name of a file: “${text}”.`,
    mend: 'Say what can be seen on it.',
  }),
  'place-missing': () => ({
    message: 'A link leads to a block that is not on this page.',
    mend: 'Choose another place.',
  }),
  'heading-shouted': ({ label }: { readonly label: string }) => ({
    message: `${label} is all in capitals: hard to read, and spelled out by some screen readers.`,
    mend: 'Write it as a sentence.',
  }),
  'heading-long': ({ label, length }: { readonly label: string; readonly length: number }) => ({
    message: `${label} has ${length} characters.`,
    mend: 'Shorten it; the rest belongs in a text.',
  }),
  'person-nameless': ({ number }: { readonly number: number }) => ({
    message: `Person ${number} has no name.`,
    mend: 'Write it, or remove the person.',
  }),
  'phone-impossible': ({ text }: { readonly text: string }) => ({
    message: `“${text}” is no phone number: it can’t be called from the page.`,
    mend: 'Write the number with the country code, and other words in the address.',
  }),
  'mail-impossible': ({ text }: { readonly text: string }) => ({
    message: `“${text}” is no e-mail address: nobody can write to it.`,
    mend: 'Correct it.',
  }),
  'countdown-over': ({ at }: { readonly at: Instant }, write) => ({
    message: `The countdown ends on ${write(at)}, before this goes live.`,
    mend: 'Choose a later moment, or count to the end of the page’s period.',
  }),
  'link-off': ({ page, why }: { readonly page: string; readonly why: WhyOff }) => ({
    message: `The link to ${page} is broken: that page ${WHY_OFF[why].is}.`,
    mend: WHY_OFF[why].mend,
  }),
  'listed-off': ({ page, why }: { readonly page: string; readonly why: WhyOff }) => ({
    message: `${page} stands in this list and ${WHY_OFF[why].is}.`,
    mend: WHY_OFF[why].mend,
  }),
  'legal-lost': (
    { kind, site, at }: { readonly kind: string; readonly site: string | null; readonly at: Instant | null },
    write,
  ) => ({
    message: `This page is the legal page “${kind}” of ${site ?? 'all sites'}: ${at === null ? 'with this they have none' : `from ${write(at)} they have none`}.`,
    mend: 'Name another page under Menus & legal, or let this one stay.',
  }),
  'piece-not-out': (
    { piece, at }: { readonly piece: string | null; readonly itemId: number; readonly at: Instant | null },
    write,
  ) => ({
    message: `${piece === null ? 'A piece' : `The piece “${piece}”`} isn’t live${at === null ? ' when this page goes live' : from(at, write)}: visitors would see nothing of it.`,
    mend: 'Release the piece with the page, or unlink it.',
  }),
  'value-unknown': ({ name, at }: { readonly name: string; readonly at: Instant | null }, write) => ({
    message: `{${name}} has no value${at === null ? '' : from(at, write)}: visitors would read it with its braces.`,
    mend: 'Correct the name, or add the value to the shared values.',
  }),
  'link-unfilled': ({ typed, at }: { readonly typed: string; readonly at: Instant | null }, write) => ({
    message: `The link to ${typed} leads nowhere${from(at, write)}, with what the shared values hold.`,
    mend: 'Correct the shared value, or type the address or number here.',
  }),
  'link-broken': ({ page, isLive }: { readonly page: string; readonly isLive: boolean }) => ({
    message: `The link to ${page} is broken${isLive ? '' : ' when this goes live'}: that page is off.`,
    mend: 'Choose another page, or release that one first.',
  }),
  'link-broken-later': ({ page, at }: { readonly page: string; readonly at: Instant }, write) => ({
    message: `The link to ${page} is broken${from(at, write)}.`,
    mend: 'Give that page an afterwards, or choose another target.',
  }),
  'link-redirected': ({ page, at }: { readonly page: string; readonly at: Instant | null }, write) => ({
    message: `The link to ${page} leads through a redirect${from(at, write)}.`,
    mend: 'Choose the page it leads to.',
  }),
  'redirect-circle': (
    { address, at, way }: { readonly address: string; readonly at: Instant | null; readonly way: string },
    write,
  ) => ({
    message: `The redirect at ${address} leads round in a circle${from(at, write)}: ${way}.`,
    mend: 'Choose another target.',
  }),
  'redirect-broken': (
    { address, at, target }: { readonly address: string; readonly at: Instant | null; readonly target: string },
    write,
  ) => ({
    message: `The redirect at ${address} to ${target} is broken${from(at, write)}.`,
    mend: 'Choose a target that is live then.',
  }),
} satisfies Record<string, (params: never, write: WriteInstant) => FindingWords>;

export type FindingCode = keyof typeof FINDINGS;
/** What a code has to be told to be words; nothing for most. */
export type FindingParams<Code extends FindingCode = FindingCode> =
  Parameters<(typeof FINDINGS)[Code]> extends [infer Params, ...unknown[]] ? Params : Record<string, never>;

/** The words of something found; `null` for a code of another version that is not known here. */
export function findingWords(code: string, params: unknown, write: WriteInstant): FindingWords | null {
  return Object.hasOwn(FINDINGS, code)
    ? (FINDINGS[code as FindingCode] as (params: unknown, write: WriteInstant) => FindingWords)(params, write)
    : null;
}
