import type { Button } from '../../fields/fields.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { emailForm } from '../../forms/index.js';
import { button, choice, line, paragraph, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Opening {
  readonly layout: 'side' | 'over' | 'stacked';
  readonly kicker: string;
  readonly heading: string;
  readonly text: string;
  readonly picture: PictureUse | null;
  readonly button: Button | null;
  readonly asks: 'nothing' | 'email';
  readonly askLabel: string;
}

export const opening = defineBlock<Opening>({
  label: 'Opening',
  group: 'Open',
  glyph: [
    ['ink', 'M5 7h15v3H5zM5 12h11v2H5z'],
    ['moss', 'M5 17h9v4H5z'],
    ['soft', 'M25 4h12v18H25z'],
  ],
  example: { heading: '‹What this page offers›', text: '‹One sentence that says who it is for and what they get.›' },
  firstHeadings: 1,
  fields: [
    choice('layout', 'Layout', { side: 'Side', over: 'Over picture', stacked: 'Stacked' }),
    line('kicker', 'Line above', 120, 'A date, a place or what kind of page this is.'),
    line('heading', 'Heading', 200, 'The page’s main heading. Up to about 60 characters fit on two lines.'),
    paragraph('text', 'Text', 2000),
    pictureField(
      'picture',
      'Picture',
      'Loaded first. Text over a picture needs a calm area: set the focal point away from it.',
    ),
    choice('asks', 'Ask for', { nothing: 'Nothing', email: 'E-mail address' }),
    line('askLabel', 'Text next to the field', 120, 'What visitors enter: “Your e-mail address”.'),
    button('button', 'Button', 'Name the action: “Book a berth”, not “Submit”.'),
  ],
  summary: ({ heading }) => heading,
  form: ({ asks, askLabel, button }) => (asks === 'email' ? emailForm(askLabel, button) : null),
});
