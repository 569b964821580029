import { describe, expect, it } from '@jest/globals';
import { blockViews } from '../../src/blocks/views.js';
import { documentFindingsOf } from '../../src/checks/index.js';
import { newBlock } from '../../src/document/index.js';
import { emailField, formFaultsOf, formHtml, type Form } from '../../src/forms/index.js';
import type { PageId } from '../../src/plan/index.js';
import { contextOf, worldOf } from '../../src/render/index.js';
import { FINDINGS } from '../../src/words/index.js';

const outside = (url: string) => ({ kind: 'outside' as const, url });
const form = (target: Form['target'], button = 'Tell me'): Form => ({ fields: [emailField('')], button, target });
const context = contextOf(worldOf({ pageHref: () => '/there' }));

describe('a form', () => {
  it.each([
    [form(outside('https://lists.example/join')), null],
    [form(outside('http://lists.localhost:4690/join')), null],
    [form(outside('http://lists.example/join')), 'What visitors write would be sent without encryption.'],
    [form(outside('http://localhost.evil.example/join')), 'What visitors write would be sent without encryption.'],
    [form(outside('mailto:a@b.example')), 'What visitors write would be sent without encryption.'],
    [form({ kind: 'page', pageId: 3 as PageId }), 'The form leads to a page, and pages take no answers.'],
    [form(null), 'The form has no destination.'],
    [form(outside('https://lists.example/join'), ' '), 'The form has no button.'],
  ])('%#: is sent where answers are taken, over an encrypted line', (one, fault) => {
    expect(formFaultsOf(one).map((code) => FINDINGS[code]().message)).toEqual(fault ? [fault] : []);
    expect(formHtml(one) === null).toBe(fault !== null);
  });

  it('lets no markup through, in its words or in its address', () => {
    const html = formHtml({
      fields: [emailField('"><script>x</script>')],
      button: '<b>',
      target: outside('https://l.example/?a="><script>'),
    });
    expect(html?.markup).not.toMatch(/<script|<b>/);
    expect(html?.markup).toContain('action="https://l.example/?a=&quot;&gt;&lt;script&gt;"');
  });
});

describe('a call to action that asks for something', () => {
  const fields = {
    heading: 'Hear first',
    asks: 'email',
    button: { label: 'Tell me', target: outside('https://lists.example/join') },
  };
  const document = (values: object) => ({
    metadata: { title: 'T', description: 'D' },
    blocks: [
      newBlock('opening', 'opening1', { heading: 'H' }),
      newBlock('callToAction', 'ask1', values as Record<string, never>),
    ],
  });

  it('is a form; one that asks for nothing is a link, as before', () => {
    const render = (values: object) =>
      blockViews.callToAction.render(newBlock('callToAction', 'a', values as Record<string, never>).fields, context)
        .markup;
    expect(render(fields)).toMatch(
      /<form class="form" method="post" action="https:\/\/lists\.example\/join">.*type="email"/s,
    );
    expect(render({ ...fields, asks: 'nothing' })).toContain(
      '<a class="button" href="https://lists.example/join">Tell me</a>',
    );
  });
  it('blocks a release while it can’t work', () => {
    expect(documentFindingsOf(document(fields))).toEqual([]);
    const broken = { ...fields, button: { label: 'Tell me', target: { kind: 'page', pageId: 4 } } };
    expect(documentFindingsOf(document(broken))).toMatchObject([
      { check: 'forms', severity: 'blocks', place: { blockId: 'ask1', field: 'button' } },
    ]);
  });
});
