import type { BlockType } from '../fields/names.js';
import { richTextOf, type FieldValues } from '../document/index.js';

/** What a new page can start from: its purpose, and its blocks with what differs from their first content. */
export interface StartDefinition {
  readonly label: string;
  readonly words: string;
  readonly blocks: (name: string) => readonly (readonly [type: BlockType, fields?: FieldValues])[];
}

const go = (label: string) => ({ label, target: null });
const rich = (...paragraphs: string[]) => richTextOf(...paragraphs);

/** Every start, by purpose. */
export const starts = {
  offer: {
    label: 'Offer',
    words: 'something people can take, for a limited time',
    blocks: (heading) => [
      [
        'opening',
        {
          kicker: '‹Until when›',
          heading,
          text: '‹Say in one sentence what people get and what it costs.›',
          button: go('‹Take the offer›'),
        },
      ],
      ['offer', { heading: '‹What is in it›', button: go('‹Take the offer›') }],
      ['reasons', { heading: '‹Why now›' }],
      ['quote'],
      ['questions'],
      ['callToAction', { heading: '‹Ready when you are›', button: go('‹Take the offer›') }],
    ],
  },
  event: {
    label: 'Event',
    words: 'what happens, where and when, and how to get a place',
    blocks: (heading) => [
      [
        'opening',
        {
          kicker: '‹Date and place›',
          heading,
          text: '‹Say what happens, where, and for whom.›',
          button: go('‹Get a place›'),
        },
      ],
      ['text', { body: rich('‹Describe the day from arrival to the end: what to bring, how to get there.›') }],
      ['table', { heading: '‹The day›', layout: 'plain' }],
      ['people', { heading: '‹Who is there›' }],
      ['callToAction', { heading: '‹See you there›', text: '‹Places are limited.›', button: go('‹Get a place›') }],
    ],
  },
  signUp: {
    label: 'Sign-up',
    words: 'one question: will you hear from us?',
    blocks: (heading) => [
      ['opening', { layout: 'over', heading, text: '‹What they will hear of, and how often.›' }],
      [
        'callToAction',
        { heading: '‹Be the first to know›', asks: 'email', askLabel: 'E-mail address', button: go('‹Tell me›') },
      ],
      ['reasons', { heading: '‹What you get›' }],
    ],
  },
  launch: {
    label: 'Launch',
    words: 'something new, and why it is worth a look',
    blocks: (heading) => [
      ['opening', { layout: 'stacked', kicker: '‹New›', heading, button: go('‹See it›') }],
      ['numbers', { layout: 'ruled' }],
      ['columns', { layout: 'first-wide' }],
      ['gallery', { layout: 'first-large' }],
      ['voices', { layout: 'cards' }],
      ['callToAction', { heading: '‹From when›', button: go('‹Be there›') }],
    ],
  },
  holding: {
    label: 'Holding page',
    words: 'what stands here until there is more',
    blocks: (heading) => [
      ['opening', { layout: 'over', kicker: '‹Soon›', heading, text: '‹What will be here, and from when.›' }],
      ['contact', { layout: 'centred' }],
    ],
  },
  thanks: {
    label: 'Thank-you',
    words: 'after somebody has signed up or bought',
    blocks: (heading) => [
      ['opening', { layout: 'stacked', kicker: '‹Done›', heading, text: '‹Say what happens next, and when.›' }],
      ['steps', { layout: 'beside', heading: '‹What happens now›' }],
      ['linkList', { layout: 'lines', heading: '‹Until then›' }],
    ],
  },
  linkHub: {
    label: 'Link hub',
    words: 'pages for one profile, by reference: those that are off are left out',
    blocks: (heading) => [
      ['opening', { layout: 'stacked', heading, text: '‹Who this is, in five words.›' }],
      ['pageList'],
    ],
  },
  job: {
    label: 'Job',
    words: 'who is wanted, for what, and how to answer',
    blocks: (heading) => [
      ['opening', { kicker: '‹Where, how much, from when›', heading, button: go('‹Write to us›') }],
      ['columns', { items: [{ body: rich('‹What you do.›') }, { body: rich('‹What you bring.›') }] }],
      ['steps', { layout: 'line', heading: '‹From letter to first day›' }],
      ['people', { layout: 'rows', heading: '‹Who you work with›' }],
      ['contact', { name: '‹Who answers›' }],
    ],
  },
  notice: {
    label: 'Notice',
    words: 'what is different, from when until when, and what to do instead',
    blocks: (heading) => [
      [
        'opening',
        { layout: 'stacked', kicker: '‹Notice›', heading, text: '‹Say what is different, from when, and until when.›' },
      ],
      ['text', { body: rich('‹What people should do instead, and where they can ask.›') }],
    ],
  },
  comparison: {
    label: 'Comparison',
    words: 'two ways side by side, so that people can choose',
    blocks: (heading) => [
      ['opening', { layout: 'stacked', heading }],
      ['comparison', { layout: 'first' }],
      ['questions', { layout: 'beside' }],
      ['callToAction', { button: go('‹Choose the first›') }],
    ],
  },
  story: {
    label: 'Long story',
    words: 'text to read, with pictures and a voice in between',
    blocks: (heading) => [
      ['opening', { layout: 'over', heading, text: '‹What it is about, in a sentence.›' }],
      ['text', { body: rich('‹How it began.›') }],
      ['picture', { width: 'full' }],
      ['text', { body: rich('‹What came of it.›') }],
      ['quote'],
      ['text', { body: rich('‹How it is today.›') }],
      ['divider', { layout: 'mark' }],
      ['linkList', { layout: 'lines', heading: '‹Read on›' }],
    ],
  },
  visit: {
    label: 'Visit us',
    words: 'where it is, when it is open, how to get there',
    blocks: (heading) => [
      ['opening', { heading, text: '‹Where it is and what is there.›', button: go('‹Book a table›') }],
      ['table', { heading: '‹Open›', layout: 'plain' }],
      ['steps', { layout: 'down', heading: '‹How to get here›' }],
      ['map'],
      ['gallery', { layout: 'strip' }],
      ['contact', { layout: 'deep' }],
    ],
  },
  prices: {
    label: 'Price list',
    words: 'what costs what, with the small print beside it',
    blocks: (heading) => [
      ['opening', { layout: 'stacked', heading, text: '‹From when these prices hold.›' }],
      ['table', { layout: 'figures', heading: '‹Prices›' }],
      ['questions', { layout: 'open', heading: '‹Good to know›' }],
      ['buttonRow', { items: [{ button: go('‹Buy›') }, { button: go('‹Ask›') }] }],
    ],
  },
  notFound: {
    label: 'Not found',
    words: 'for addresses at which there is nothing',
    blocks: (heading) => [
      [
        'opening',
        {
          layout: 'stacked',
          heading,
          text: '‹Say that there is nothing here, and where people may have wanted to go.›',
        },
      ],
      ['linkList', { layout: 'lines', heading: '‹Perhaps one of these›' }],
    ],
  },
  maintenance: {
    label: 'Maintenance',
    words: 'while something is mended: until when, and where to ask',
    blocks: (heading) => [
      [
        'opening',
        { layout: 'over', kicker: '‹Back at›', heading, text: '‹What is being done, and what works meanwhile.›' },
      ],
      ['contact', { layout: 'centred' }],
    ],
  },
  blank: { label: 'Blank', words: 'no blocks yet', blocks: () => [] },
} as const satisfies Record<string, StartDefinition>;
