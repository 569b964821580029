import { coloursOf, propertiesOf, rulesOf, type Theme } from '@domatium/core/theme';
import { fontHref } from '../shared/preview-frame';
import { say } from '@domatium/core/words/editor';

/** As most see it, as those who want dark pages, with text twice as large, without pictures, or read aloud. */
export type Seen = 'plain' | 'dark' | 'large' | 'no-pictures' | 'aloud';
export const WAYS: readonly { readonly seen: Seen; readonly label: string }[] = [
  { seen: 'plain', label: say.asMostSeeIt },
  { seen: 'dark', label: say.inTheDark },
  { seen: 'large', label: say.textTwiceAsLarge },
  { seen: 'no-pictures', label: say.withoutPictures },
  { seen: 'aloud', label: say.asItIsReadAloud },
];

/** What the editing layer adds to the page: the chosen block's outline. Nothing of it is published. */
const LAYER = `main section[id]{cursor:default;position:relative}main section[id]:hover::after,main section[id].is-chosen::after{content:"";position:absolute;inset:0;pointer-events:none;outline:2px solid #2E6A50;outline-offset:-2px;z-index:5}main section[id]:hover:not(.is-chosen)::after{outline:1px dashed #2E6A50}main section[id].takes-picture::after{outline:3px solid #2E6A50;background:rgb(46 106 80/12%)}main section[id]:empty,main section[id]>:only-child:empty{min-height:64px}a{cursor:default}.ProseMirror{white-space:pre-wrap;outline:0;min-width:1em}.ProseMirror:focus{box-shadow:0 0 0 2px rgb(46 106 80/35%)}.ProseMirror .reference{color:var(--accent)}`;
const TYPING = '[data-field]{cursor:text}';
const LARGE = 'html{font-size:200%}';

/** The style sheets of the canvas: colours and measures apart, because they change most. */
export interface Sheets {
  readonly properties: string;
  readonly rules: string;
}

/** The theme, own CSS of the site and the page, and the editing layer on top. What the person’s own machine asks for is not what is looked at here. */
export function sheetsOf(
  theme: Theme,
  on: { readonly ownCss: string; readonly mayEdit: boolean; readonly seen: Seen; readonly files: string },
): Sheets {
  const dark = on.seen === 'dark' && theme.dark ? `:root{${coloursOf(theme.dark)}}` : '';
  const sheet = rulesOf(theme, (file) => fontHref(file, on.files));
  return {
    properties: propertiesOf({ ...theme, dark: null }) + dark,
    rules: `${sheet}\n${on.ownCss}\n${LAYER}${on.mayEdit ? TYPING : ''}${on.seen === 'large' ? LARGE : ''}`,
  };
}
