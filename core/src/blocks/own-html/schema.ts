import { choice, code, line } from '../fields.js';
import { brokenIn, loadedBy } from './loads.js';
import { defineBlock } from '../definition.js';

export interface OwnHtml {
  readonly layout: 'page' | 'narrow' | 'full';
  readonly heading: string;
  readonly title: string;
  readonly code: string;
  readonly height: string;
}

export const ownHtml = defineBlock<OwnHtml>({
  label: 'Own HTML',
  group: 'Show',
  glyph: [
    ['soft', 'M5 4h32v18H5z'],
    ['ink', 'm15 8-5 5 5 5 1.6-1.6L13.200 13l3.400-3.400zM27 8l5 5-5 5-1.6-1.6L28.800 13l-3.400-3.400z'],
  ],
  example: {
    title: '‹What it shows›',
    code: '<p>Own HTML, with its own <em>style</em> and script.</p>',
    height: '320',
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { page: 'Page', narrow: 'Narrow', full: 'Full width' }),
    line('heading', 'Heading', 200),
    line('title', 'What it is, for people who can’t see it', 120),
    code('code', 'HTML, with CSS in <style>', 'It runs in its own frame: nothing in it affects the page.', 100_000),
    choice('height', 'Height', { 160: '160', 320: '320', 480: '480', 640: '640', 900: '900' }),
  ],
  summary: ({ heading, title }) => heading || title,
  notes: ({ code: text }) => loadedBy(text).map((one) => `Loads ${one}`),
  findings: ({ title, code: text }) => {
    const broken = text ? brokenIn(text) : null;
    return [
      ...(text && !title
        ? [{ severity: 'worth-fixing' as const, code: 'own-html-nameless' as const, field: 'title' }]
        : []),
      ...(broken
        ? [{ severity: 'worth-fixing' as const, code: 'own-html-broken' as const, field: 'code', params: broken }]
        : []),
    ];
  },
});
