import { EMPTY_DOCUMENT, newBlock, type PageDocument } from './page-document.js';
import { richTextOf } from './rich-text.js';

/** What a new page starts from. */
export const STARTS = ['blank', 'offer', 'event', 'notice'] as const;
export type Start = (typeof STARTS)[number];

/** The draft of a new page. `newId` makes the identities of its blocks. Texts in brackets ask to be replaced. */
export function startDocument(start: Start, name: string, newId: () => string): PageDocument {
  const metadata = { title: name.slice(0, 200), description: '' };
  const heading = name.slice(0, 160);
  switch (start) {
    case 'blank':
      return { ...EMPTY_DOCUMENT, metadata };
    case 'offer':
      return {
        metadata,
        blocks: [
          newBlock('opening', newId(), {
            kicker: 'For a limited time',
            heading,
            text: 'Say in one sentence what people get and what it costs.',
            button: { label: 'Take the offer', target: null },
          }),
          newBlock('reasons', newId(), {
            heading: 'Why now',
            items: [
              { title: 'The first reason', text: 'What makes this worth having.', picture: null },
              { title: 'The second reason', text: 'What it saves or adds.', picture: null },
              { title: 'The third reason', text: 'What happens after they say yes.', picture: null },
            ],
          }),
          newBlock('callToAction', newId(), {
            heading: 'Ready when you are',
            text: 'Repeat the offer in a few words.',
            button: { label: 'Take the offer', target: null },
          }),
        ],
      };
    case 'event':
      return {
        metadata,
        blocks: [
          newBlock('opening', newId(), {
            kicker: 'Date and place',
            heading,
            text: 'Say what happens, where, and for whom.',
            button: { label: 'Get a place', target: null },
          }),
          newBlock('text', newId(), {
            body: richTextOf(
              'Describe the day from arrival to the end: what to bring, how to get there, what it costs.',
            ),
          }),
          newBlock('quote', newId(), { text: 'What somebody said of last time.', who: 'Name', role: 'Who they are' }),
          newBlock('callToAction', newId(), {
            heading: 'See you there',
            text: 'Places are limited.',
            button: { label: 'Get a place', target: null },
          }),
        ],
      };
    case 'notice':
      return {
        metadata,
        blocks: [
          newBlock('opening', newId(), {
            layout: 'stacked',
            kicker: 'Notice',
            heading,
            text: 'Say what is different, from when, and until when.',
          }),
          newBlock('text', newId(), { body: richTextOf('What people should do instead, and where they can ask.') }),
        ],
      };
  }
}
