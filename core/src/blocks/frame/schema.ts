import { checkOutsideAddress } from '../../address/index.js';
import { choice, line } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Frame {
  readonly layout: 'page' | 'narrow' | 'full';
  readonly heading: string;
  readonly address: string;
  readonly title: string;
  readonly height: string;
}

/** An encrypted address: browsers show nothing else within a page that is. */
export const addressOf = (typed: string): URL | null => {
  const checked = typed ? checkOutsideAddress(typed) : null;
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
  example: { heading: '‹What is shown here›', title: '‹What it is›' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { page: 'Page', narrow: 'Narrow', full: 'Full width' }),
    line('heading', 'Heading', 200),
    line(
      'address',
      'Address of what is embedded',
      2000,
      'Must begin with https. Visitors’ browsers contact that host as they scroll near.',
    ),
    line('title', 'What it is, for people who can’t see it', 120, 'Screen readers read this instead of the frame.'),
    choice('height', 'Height', { 320: '320', 480: '480', 640: '640', 900: '900' }),
  ],
  summary: ({ heading, address }) => heading || (addressOf(address)?.hostname ?? ''),
  notes: ({ address }) => {
    const host = addressOf(address)?.hostname;
    return host ? [`Loads ${host} for every visitor who scrolls near it`] : [];
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
