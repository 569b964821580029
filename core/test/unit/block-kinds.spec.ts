import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import vm from 'node:vm';
import { generate, parse, walk } from 'css-tree';
import { BLOCK_TYPES, blockTypes, type BlockType } from '../../src/blocks/index.js';
import { blockViews } from '../../src/blocks/views.js';
import {
  blockWords,
  completeBlock,
  completeDocument,
  documentFromJSON,
  newBlock,
  richTextOf,
  type FieldDefinition,
  type FieldValues,
  type PageDocument,
} from '../../src/document/index.js';
import type { PageId, PictureId } from '../../src/plan/index.js';
import { blockHtml, contextOf, worldOf, type RenderWorld } from '../../src/render/index.js';
import { filledBlocks } from './filled.js';

const NOON = Date.UTC(2026, 11, 24, 11, 0);
const OSLO = { at: NOON, zone: 'Europe/Oslo' };
const picture = { pictureId: 1 as PictureId, description: 'A boat', isDecorative: false };
const outside = (label: string, url: string) => ({ label, target: { kind: 'outside' as const, url } });
const toPage = (label: string, id: number) => ({ label, target: { kind: 'page' as const, pageId: id as PageId } });
const show = (type: BlockType, fields: Record<string, unknown>, known: Partial<RenderWorld> = {}) =>
  blockHtml(
    newBlock(type, 'block001', fields as never),
    contextOf(
      worldOf({
        pageHref: (id) => ((id as number) === 1 ? '/there' : null),
        pictureOf: () => ({ width: 600, height: 400, variants: [{ width: 640, src: '/-/p.webp', avif: '/-/p.avif' }] }),
        ...known,
      }),
    ),
  ).markup.replace(/\s*\n\s*/g, '');
const findingsOf = (type: BlockType, fields: Record<string, unknown>) =>
  (blockTypes[type].findings?.(newBlock(type, 'block001', fields as never).fields) ?? []).map(({ field }) => field);
const words = (markup: string) =>
  markup
    .replace(/<[^>]*>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** Fields of fields too. */
const allFields = (fields: readonly FieldDefinition[]): FieldDefinition[] =>
  fields.flatMap((field) => [field, ...(field.kind === 'list' ? allFields(field.fields) : [])]);

describe.each(BLOCK_TYPES)('%s', (type) => {
  const [{ fields }, { style, script }] = [blockTypes[type], blockViews[type]];
  it('is laid out from where reading begins: no rule says left or right', () => {
    walk(parse(style), (node) => {
      if (node.type !== 'Declaration') return;
      expect(node.property).not.toMatch(/^(?:(?:margin|padding|border)-)?(?:left|right)\b|^(?:border-(?:left|right))/);
      if (/^(?:margin|padding|inset)$/.test(node.property)) {
        const sides = node.value.type === 'Value' ? node.value.children.toArray().map((side) => generate(side)) : [];
        const [, second, , fourth = second] = sides;
        expect(`${node.property} ${second}`).toBe(`${node.property} ${fourth}`);
      }
      if (node.property === 'text-align' || node.property === 'float')
        walk(node, (part) => part.type === 'Identifier' && expect(part.name).not.toMatch(/^(?:left|right)$/));
    });
  });
  it('takes its colours and measures of type from the theme', () => {
    walk(parse(style), (node) => {
      if (node.type === 'Hash') throw new Error(`#${node.value} is a colour of its own`);
      // Words that shine through would be another pair of colours than the theme is judged by.
      if (node.type === 'Declaration' && node.property === 'opacity') throw new Error('a colour that is mixed');
      if (node.type === 'Declaration' && node.property === 'font-family') throw new Error('a family of its own');
    });
  });
  it('has three layouts or more, or nothing to lay out, and names what each field is', () => {
    const layouts = fields.find(({ key }) => key === 'layout' || key === 'width');
    if (type !== 'piece') expect(layouts?.kind === 'choice' ? layouts.options.length : 0).toBeGreaterThanOrEqual(3);
    for (const field of allFields(fields)) {
      expect(field.label.length).toBeGreaterThan(2);
      if (field.kind === 'line' || field.kind === 'paragraph') expect(field.max).toBeLessThanOrEqual(100_000);
    }
    expect(allFields(fields).some(({ help }) => help)).toBe(type !== 'divider');
  });
  it('looks the same where it was kept before one of its fields was there, and gets that blank', () => {
    for (const block of filledBlocks(type))
      for (const { key } of fields) {
        const { [key]: _, ...older } = block.fields;
        const whole = completeBlock({ ...block, fields: older });
        expect(Object.keys(whole.fields).sort()).toEqual(Object.keys(block.fields).sort());
        const rendered = (one: typeof whole) => blockHtml(one, contextOf(worldOf())).markup;
        expect(rendered({ ...block, fields: older })).toBe(rendered(whole));
      }
  });
  it('brings a script only where it can’t do without, and a small one', () => {
    if (type !== 'countdown') expect(script).toBeUndefined();
    else expect(Buffer.byteLength(script ?? '')).toBeLessThan(1024);
  });
});

it('a document that lacks nothing stays the same one', () => {
  const whole: PageDocument = { metadata: { title: '', description: '' }, blocks: [newBlock('quote', 'quote001', {})] };
  expect(completeDocument(whole)).toBe(whole);
});

describe('a block that was written with an older version of its type', () => {
  const definition = blockTypes.quote as { upgrades?: readonly ((fields: FieldValues) => FieldValues)[] };
  const written = { id: 'quote001', type: 'quote' as const, fields: { said: 'We sail at nine', by: 'Ada' } };
  // Version 2 called what was said “words”, version 3 calls it “text”, and whoever said it “who”.
  beforeEach(() => {
    definition.upgrades = [
      ({ said, ...rest }) => ({ ...rest, words: said ?? null }),
      ({ words, by, ...rest }) => ({ ...rest, text: words ?? null, who: by ?? null }),
    ];
  });
  afterEach(() => {
    delete definition.upgrades;
  });

  it('is upgraded as it is read, from whichever version it has, and says which it has then', () => {
    const first = completeBlock(written);
    expect(first).toMatchObject({ version: 3, fields: { text: 'We sail at nine', who: 'Ada' } });
    const second = completeBlock({ ...written, version: 2, fields: { words: 'We sail at ten', by: 'Bo' } });
    expect(second).toMatchObject({ version: 3, fields: { text: 'We sail at ten', who: 'Bo' } });
    expect(completeBlock(first)).toBe(first);
    expect(newBlock('quote', 'quote002', {}).version).toBe(3);
    const read = documentFromJSON({ metadata: { title: '', description: '' }, blocks: [written] });
    expect(read).toMatchObject({ ok: true, value: { blocks: [first] } });
  });
  it('is refused where it comes from a newer version than this one knows', () => {
    const newer = { metadata: { title: '', description: '' }, blocks: [{ ...written, version: 4 }] };
    expect(documentFromJSON(newer)).toMatchObject({
      ok: false,
      faults: [{ path: 'blocks[0]', message: 'This block was made by a newer version of Domatium.' }],
    });
  });
});

describe('a countdown', () => {
  it('names its moment in the zone it was chosen in, in the page’s language; afterwards it says what is then', () => {
    const shown = show('countdown', { moment: OSLO, before: 'Until', after: 'Doors are open' }, { language: 'nb' });
    expect(shown).toContain(`data-until="${NOON}"`);
    expect(words(shown)).toMatch(/^Until .*24\. des\. 2026, 12:00/);
    expect(shown).toContain('<p class="count-after" hidden>Doors are open</p>');
    const over = show('countdown', { moment: OSLO, after: 'Doors are open' }, { isPast: (at) => at >= NOON });
    expect(words(over)).toBe('Doors are open');
    expect(over).not.toContain('data-until');
  });
  it('counts to the end of the period the page is live in, and shows nothing where that has none', () => {
    expect(show('countdown', { to: 'end' }, { end: OSLO })).toContain(`data-until="${NOON}"`);
    expect(show('countdown', { to: 'end', heading: 'Left' })).toBe(show('countdown', {}));
  });
  it('asks for its moment, and for what is read afterwards', () => {
    expect(findingsOf('countdown', {})).toEqual(['moment']);
    expect(findingsOf('countdown', { moment: OSLO })).toEqual(['after']);
    expect(findingsOf('countdown', { to: 'end' })).toEqual([]);
  });
  it('ticks with its script: days to seconds, then what is shown afterwards', () => {
    class Node {
      hidden = false;
      textContent = '';
      parentNode: Node | null = null;
      children: (Node | string)[] = [];
      append(...all: (Node | string)[]): void {
        for (const one of all) if (one instanceof Node) one.parentNode = this;
        this.children.push(...all);
      }
      replaceChildren(...all: (Node | string)[]): void {
        this.children = all;
      }
      get words(): string {
        return [this.textContent, ...this.children.map((one) => (typeof one === 'string' ? one : one.words))]
          .filter(Boolean)
          .join(' ');
      }
    }
    const [to, count, after] = [new Node(), new Node(), new Node()];
    after.textContent = 'Open';
    after.hidden = true;
    let now = NOON - (2 * 86_400 + 3 * 3600 + 60 + 5) * 1000;
    const later: (() => void)[] = [];
    const element = { dataset: { until: String(NOON) }, querySelectorAll: () => [to, count, after] };
    vm.runInNewContext(blockViews.countdown.script ?? '', {
      document: { documentElement: { lang: 'en' }, querySelectorAll: () => [element], createElement: () => new Node() },
      Date: { now: () => now },
      setTimeout: (next: () => void) => later.push(next),
      Intl,
      Math,
    });
    expect(count.words.replace(/\s+/g, ' ')).toBe('2 days 3 hours 1 minute 5 seconds');
    now = NOON;
    later.pop()?.();
    expect([to.hidden, count.hidden, after.hidden]).toEqual([true, true, false]);
  });
});

describe('a list of pages', () => {
  it('takes titles and addresses as they are, and leaves out what is not live', () => {
    const items = [1, 2, 3].map((id) => ({ page: { id }, words: `about ${id}` }));
    const titles = new Map([
      [1, 'Night boat'],
      [3, 'Nowhere'],
    ]);
    const shown = show('pageList', { heading: 'More', items }, { titleOf: (id) => titles.get(id) ?? null });
    expect(words(shown)).toBe('More Night boat about 1');
    expect(shown).toContain('href="/there"');
    expect(shown).toContain('aria-label="More"');
  });
});

describe('a piece', () => {
  it('shows what is in the stock, and none of it can be typed here', () => {
    const held = [newBlock('quote', 'inner001', { text: 'From the stock' })];
    const markup = blockHtml(
      newBlock('piece', 'block001', { piece: { id: 4 } }),
      contextOf(worldOf({ pieceOf: (id) => (id === 4 ? held : null) }), true),
    ).markup;
    expect(markup).toContain('From the stock');
    expect(markup).not.toContain('data-field');
    expect(words(show('piece', { piece: { id: 9 } }))).toBe('');
    // What is shown at one width is so in a piece too.
    const narrow = newBlock('text', 'narrow01', { shownAt: 'narrow', body: richTextOf('On phones') } as never);
    expect(show('piece', { piece: { id: 4 } }, { pieceOf: () => [narrow] })).toMatch(
      /<section class="only-narrow">.*On phones/,
    );
  });
});

describe('a video', () => {
  it('that lies elsewhere is behind a click that names the host; nothing of it is fetched before', () => {
    const button = outside('Watch', 'https://films.example/v/1');
    const shown = show('video', { button, picture });
    expect(words(shown)).toBe('Watch plays at films.example');
    expect(shown).not.toMatch(/<iframe|<video|src="https/);
    expect(shown).toContain('<source type="image/avif"');
  });
  it('of one’s own plays on the page, fetches nothing before it is pressed, and can be had as a file', () => {
    const fileOf = () => ({ src: '/-/f.webm', name: 'Crossing', bytes: 9, ending: 'webm' });
    const shown = show('video', { file: { id: 3 }, picture }, { fileOf });
    expect(shown).toMatch(/<video [^>]*controls preload="none" width="1280" height="720" poster="\/-\/p.webp">/);
    expect(shown).toContain('<source src="/-/f.webm" type="video/webm"><a href="/-/f.webm">Crossing</a>');
    // The file is gone, or is no film that can be played: what is behind the button is shown in its place.
    expect(show('video', { file: { id: 3 }, button: toPage('Watch', 1) })).toContain('href="/there"');
  });
});

describe('what is embedded', () => {
  it('stands in a frame of its own that knows nothing of the page, with a name', () => {
    const shown = show('frame', { address: 'https://tickets.example/x?y=1&z', title: 'Tickets', height: '640' });
    expect(shown).toMatch(
      /<iframe title="Tickets" src="https:\/\/tickets\.example\/x\?y=1&amp;z" height="640" sandbox="[^"]*" allow="[^"]*" loading="lazy" referrerpolicy="no-referrer">/,
    );
    expect(blockTypes.frame.notes?.(newBlock('frame', 'f', { address: 'https://tickets.example' }).fields)).toEqual([
      'Loads tickets.example for every visitor who scrolls near it',
    ]);
  });
  it.each(['javascript:alert(1)', 'data:text/html,x', 'http://tickets.example', 'tickets', ''])(
    '%j is no address',
    (address) => {
      expect(show('frame', { address, title: 'x' })).not.toContain('<iframe');
      expect(findingsOf('frame', { address, title: 'x' })).toEqual(['address']);
    },
  );
  it('own HTML is kept apart, and says what it loads', () => {
    const code =
      '<a href="https://followed.example/">A link is followed, not loaded</a><script src="https://a.example/x.js"></script><img src=//b.example/i.png><p style="background:url(https://a.example/y)">';
    expect(show('ownHtml', { code, title: 'Odd' })).toContain('sandbox="" ');
    const published = show('ownHtml', { code, title: 'Odd' }, { apart: () => ({ src: '/-/own.html' }) });
    expect(published).toContain('src="/-/own.html"');
    expect(published).not.toContain('a.example');
    expect(blockTypes.ownHtml.notes?.(newBlock('ownHtml', 'o', { code }).fields)).toEqual([
      'Loads a.example, 2 times',
      'Loads b.example',
    ]);
    const hidden =
      '<img srcset="//a.example/1.png 1x, https://b.example/2.png 2x"><style>@import "//c.example/x.css"; p { background: url(//d.example/p) }</style>' +
      '<script src="https&#58;//e.example/s.js"></script><template><p style="background:url(\'//f.example/\')"></template><!-- //g.example -->';
    expect(blockTypes.ownHtml.notes?.(newBlock('ownHtml', 'o', { code: hidden }).fields)).toEqual(
      [...'abcdef'].map((letter) => `Loads ${letter}.example`),
    );
    expect(findingsOf('ownHtml', { code })).toEqual(['title']);
  });
});

describe('links and buttons', () => {
  it('that lead nowhere now are not shown; the rest stays', () => {
    const items = [{ button: toPage('Here', 1) }, { button: toPage('Gone', 2) }, { button: null }];
    expect(words(show('buttonRow', { items }))).toBe('Here');
    expect(words(show('linkList', { items: items.map((one) => ({ ...one, words: 'beside' })) }))).toBe('Here beside');
    expect(words(show('contact', { name: 'Desk', items }))).toBe('Desk Here');
    expect(words(show('callToAction', { heading: 'Book', button: toPage('Gone', 2) }))).toBe('Book');
  });
  it('in columns go with their heading while none of them leads to a live page, and come back with it', () => {
    const items = [
      { heading: 'Sail', button: toPage('Fares', 1) },
      { heading: '', button: toPage('Gone', 2) },
      { heading: 'Stay', button: toPage('Later', 3) },
      { heading: '', button: outside('Elsewhere', 'https://a.example/') },
    ];
    const known = {
      pageHref: (id: PageId) => ((id as number) === 2 ? null : `/p${id}`),
      isLive: (id: PageId) => (id as number) !== 3,
    };
    expect(words(show('linkColumns', { items }, known))).toBe('Sail Fares Stay Elsewhere');
    expect(words(show('linkColumns', { items: items.slice(0, 3) }, known))).toBe('Sail Fares');
    expect(words(show('linkColumns', { items: items.slice(2, 3) }, known))).toBe('');
    expect(show('linkColumns', { items: items.slice(2, 3) }, { ...known, saysEmpty: true })).toContain('ways-empty');
  });
  it('to profiles say that they are of the same, and have a name where only an icon is seen', () => {
    const items = [
      { button: { ...outside('Films', 'https://films.example/us'), icon: 'film' } },
      { button: outside('Letters', 'https://letters.example/us') },
      { button: { label: 'None yet', target: null } },
    ];
    const signs = show('profiles', { layout: 'signs', heading: 'Follow us', items });
    expect(signs.match(/ rel="me"/g)).toHaveLength(2);
    expect(signs).toMatch(/<svg[^]*<\/svg><span class="said">Films<\/span>/);
    expect(signs).toContain('<span>Letters</span>');
    expect(words(signs)).toBe('Films Letters');
    expect(words(show('profiles', { heading: 'Follow us', items }))).toBe('Follow us Films Letters');
  });
  it('of a contact can be called and written to', () => {
    const shown = show('contact', { phone: '+47 75 12 (00) 31', mail: 'desk@marrowick.example' });
    expect(shown).toContain('href="tel:+4775120031"');
    expect(shown).toContain('href="mailto:desk@marrowick.example"');
  });
});

describe('tables', () => {
  it('have a head, a column that says what a row is of, and no column that nothing stands in', () => {
    const items = [
      { a: 'Fare', b: 'Adult', c: '', d: '' },
      { a: 'Night', b: '44', c: '', d: '' },
    ];
    const shown = show('table', { heading: 'Fares', items });
    expect(shown).toContain(
      '<caption>Fares</caption><thead><tr><th scope="col">Fare</th><th scope="col">Adult</th></tr></thead>',
    );
    expect(shown).toContain('<tbody><tr><th scope="row">Night</th><td>44</td></tr></tbody>');
    expect(shown).toContain('tabindex="0" role="group" aria-label="Fares"');
  });
  it('of a comparison name both sides and what is compared', () => {
    const items = [{ what: 'Cabin', a: 'yes', b: 'no' }];
    expect(show('comparison', { first: 'Night', second: 'Day', items: [...items, ...items] })).toContain(
      '<th scope="row">Cabin</th><td>yes</td><td>no</td>',
    );
  });
});

describe('questions', () => {
  const items = [{ question: 'When?', answer: richTextOf('At eight.') }];
  it('open without any script, or are all open', () => {
    expect(show('questions', { items })).toContain('<details><summary><h3>When?</h3></summary>');
    expect(show('questions', { layout: 'open', items })).not.toContain('<details');
  });
});

describe('a form', () => {
  it('in an opening or a call to action is posted without any script, with a field that says what it wants', () => {
    for (const type of ['opening', 'callToAction'] as const) {
      const shown = show(type, {
        asks: 'email',
        askLabel: 'Your mail',
        button: outside('Join', 'https://list.example/in'),
      });
      expect(shown).toMatch(/<form [^>]*method="post"/);
      expect(shown).toMatch(/<label[^>]*>.*Your mail.*<input [^>]*type="email"[^>]*required/);
      expect(shown).toContain('<button type="submit" class="button">Join</button>');
      // One that can't work is not shown: nobody fills in what leads nowhere.
      expect(show(type, { asks: 'email', button: outside('', 'https://list.example/in') })).not.toContain('<form');
    }
    expect(blockWords(newBlock('opening', 'o', { heading: 'Boats' }))).toBe('Opening “Boats”');
  });
});

describe('pictures', () => {
  it('of a place that has none are left out; a logo without one is its name', () => {
    expect(
      show('gallery', {
        items: [
          { picture, caption: 'Quay' },
          { picture: null, caption: 'Lost' },
        ],
      }),
    ).not.toContain('Lost');
    expect(
      words(
        show('logos', {
          items: [
            { picture: null, name: 'Nine Mile' },
            { picture, name: 'Sail' },
          ],
        }),
      ),
    ).toBe('Nine Mile');
    expect(words(show('map', { address: 'Quay 4\nMarrowick' }))).toBe('Quay 4 Marrowick');
  });
  it('keep in view what must not be cut, say their size, and are silent where they only decorate', () => {
    const shown = show('picture', { picture: { ...picture, isDecorative: true, focus: { x: 250, y: 900 } } });
    expect(shown).toContain('width="600" height="400" alt="" style="object-position:25% 90%"');
  });
  it('keep the proportion of a part that was chosen in every block, are not blown up where they are small, and say what is said of them now', () => {
    const of = (more: object) => {
      const variants = [{ width: 640, src: '/-/p.webp' }];
      const context = contextOf(worldOf({ pictureOf: () => ({ width: 500, height: 800, variants, ...more }) }));
      const use = { ...picture, description: 'The old boat' };
      return ['picture', 'reasons', 'people'].map((type) => {
        const items = [{ title: 'T', name: 'N', text: '', role: '', picture: use }];
        const fields = type === 'picture' ? { picture: use } : { items };
        return blockHtml(newBlock(type as 'picture', 'block001', fields as never), context).markup;
      });
    };
    for (const shown of of({})) expect(shown).not.toContain('aspect-ratio');
    for (const shown of of({ crop: {} })) expect(shown).toContain('style="aspect-ratio:500/800"');
    for (const shown of of({ width: 24, height: 24 })) expect(shown).toContain('max-width:min(100%,24px)');
    for (const shown of of({ description: 'The new boat', formerWords: ['The old boat'] }))
      expect(shown).toContain('alt="The new boat"');
  });
});
