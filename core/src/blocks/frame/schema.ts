import { checkOutsideAddress } from '../../address/index.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { choice, line, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Frame {
  readonly layout: 'page' | 'narrow' | 'full';
  readonly heading: string;
  readonly address: string;
  readonly title: string;
  readonly height: string;
  readonly loads: 'near' | 'press';
  readonly picture: PictureUse | null;
  readonly words: string;
}

/** An encrypted address: browsers show nothing else within a page that is. Of pasted code for embedding it is what that would load. */
export const addressOf = (typed: string): URL | null => {
  const address = (/^\s*<iframe\b[^>]*?\ssrc\s*=\s*["']?([^"'\s>]+)/i.exec(typed)?.[1] ?? typed).replaceAll(
    '&amp;',
    '&',
  );
  const checked = address ? checkOutsideAddress(address.startsWith('//') ? `https:${address}` : address) : null;
  const place = checked?.ok ? new URL(checked.url) : null;
  return place?.protocol === 'https:' ? place : null;
};

export const frame = defineBlock<Frame>({
  label: 'Embedded frame',
  group: 'Show',
  glyph: [
    ['soft', 'M5 4h32v18H5z'],
    ['ink', 'M5 4h32v4H5z'],
    ['paper', 'M7 5h2v2H7zM11 5h2v2h-2z'],
  ],
  example: { heading: '‹What is shown here›', title: '‹What it is›', loads: 'press', words: '‹Show it›' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { page: 'Page', narrow: 'Narrow', full: 'Full width' }),
    line('heading', 'Heading', 200),
    line(
      'address',
      'Address of what is embedded',
      2000,
      'Must begin with https; code for embedding can be pasted as it is.',
    ),
    choice('loads', 'Loaded', { near: 'As visitors come near', press: 'When they press' }),
    pictureField('picture', 'Still picture', 'Shown until it is pressed.'),
    line('words', 'Words on it', 80, 'What a press shows: “Watch the film, 2 minutes”. The host stands beside them.'),
    line('title', 'What it is, for people who can’t see it', 120, 'Screen readers read this instead of the frame.'),
    choice('height', 'Height', { 320: '320', 480: '480', 640: '640', 900: '900' }),
  ],
  summary: ({ heading, address }) => heading || (addressOf(address)?.hostname ?? ''),
  notes: ({ address, loads }) => {
    const host = addressOf(address)?.hostname;
    const when =
      loads === 'press' ? 'when a visitor presses it, and nothing before' : 'for every visitor who scrolls near it';
    return host ? [`Loads ${host} ${when}`] : [];
  },
  findings: ({ address, title }) => [
    ...(addressOf(address)
      ? []
      : [
          {
            severity: 'worth-fixing' as const,
            code: address ? ('frame-unreadable' as const) : ('frame-empty' as const),
            field: 'address',
          },
        ]),
    ...(title
      ? []
      : [
          {
            severity: 'worth-fixing' as const,
            code: 'frame-nameless' as const,
            field: 'title',
          },
        ]),
  ],
});
