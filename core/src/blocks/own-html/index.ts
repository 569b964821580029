import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, code, line } from '../fields.js';
import { loadedBy } from './loads.js';

interface OwnHtml {
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
  findings: ({ title, code: text }) =>
    text && !title
      ? [
          {
            severity: 'worth-fixing',
            code: 'own-html-nameless',
            field: 'title',
          },
        ]
      : [],
  render: ({ layout, heading, title, code: text, height }, context) => {
    const place = text ? context.apart(text) : null;
    return html`
    <div class="apart ${layout}">
      ${headingAt(heading, context)}
      ${
        place &&
        ('src' in place
          ? html`<iframe title="${title || 'Own content'}" src="${place.src}" height="${height}" sandbox="allow-scripts allow-popups allow-forms" loading="lazy"></iframe>`
          : html`<iframe title="${title || 'Own content'}" srcdoc="${place.srcdoc}" height="${height}" sandbox="" loading="lazy"></iframe>`)
      }
    </div>`;
  },
  style: `
.apart{margin:0 auto;max-width:calc(var(--page) + 2*var(--gutter));padding:calc(var(--section)*.6) var(--gutter)}
.apart.narrow{max-width:calc(var(--measure) + 2*var(--gutter))}
.apart.full{max-width:none;padding-inline:0}
.apart h2{margin:0 0 1.25rem}
.apart iframe{display:block;width:100%;border:0}`,
});
