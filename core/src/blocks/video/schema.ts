import type { Button, Reference } from '../../fields/fields.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { LANGUAGES } from '../languages.js';
import { button, choice, line, pictureField, reference } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Video {
  readonly layout: 'page' | 'narrow' | 'full';
  readonly heading: string;
  readonly picture: PictureUse | null;
  readonly file: Reference | null;
  readonly button: Button | null;
  readonly caption: string;
  readonly captions: Reference | null;
  readonly captionsIn: string;
}

export const video = defineBlock<Video>({
  label: 'Video',
  group: 'Show',
  glyph: [
    ['soft', 'M5 4h32v18H5z'],
    ['ink', 'm18 8 9 5-9 5z'],
  ],
  example: { heading: '‹What the film shows›', button: { label: '‹Watch the film, 2 minutes›', target: null } },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { page: 'Page', narrow: 'Narrow', full: 'Full width' }),
    line('heading', 'Heading', 200),
    pictureField('picture', 'First picture', 'Shown until the video plays.'),
    reference(
      'file',
      'Own film',
      'file',
      'MP4 or WebM. It plays on the page; without one, the button leads to the player.',
    ),
    button('button', 'Plays at', 'An external player: visitors see its name, and it opens only when they click.'),
    line('caption', 'Caption', 300),
    {
      kind: 'reference',
      key: 'captions',
      label: 'What is said, as captions',
      of: 'file',
      holds: 'captions',
      help: 'A WebVTT file, for people who can’t hear it or have the sound off.',
    },
    choice('captionsIn', 'Captions in', { '': 'The language of the page', ...LANGUAGES }),
  ],
  summary: ({ heading, button }) => heading || (button?.label ?? ''),
  findings: ({ file, captions }) =>
    file && !captions ? [{ severity: 'worth-fixing', code: 'film-captions', field: 'captions' }] : [],
});
