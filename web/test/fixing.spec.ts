import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { FoundGroup, MendingView } from '@domatium/contracts';
import { ChecksSheet } from '../src/app/fixing/checks-sheet';
import { FixSheet } from '../src/app/fixing/fix-sheet';
import { SelectionService } from '../src/app/hub/selection.service';
import { buttons, choose, element, NOW, open, press, settle, surround, text } from './help';

const found = (pageId: number, visits: number, blockId: string | null = null) => ({
  ...{ pageId, name: `Page ${pageId}`, host: 'marrowick.example', path: `/p${pageId}`, visits, blockId },
  ...{ message: `Title of ${pageId} is 72 characters; about 60 are shown.`, mend: 'Shorten it.' },
});
const groups: FoundGroup[] = [
  {
    ...{ code: 'placeholder', severity: 'blocks', title: 'First content not replaced', why: 'Visitors would read it.' },
    ...{ visits: 3, pageIds: [5], found: [found(5, 3, 'quote001')], mends: [] },
  },
  {
    ...{ code: 'title-long', severity: 'worth-fixing', title: 'Title too long', why: 'Results cut what comes last.' },
    ...{ visits: 1234, pageIds: [7, 8, 9], found: [found(7, 1200), found(8, 34)] },
    mends: [{ code: 'shorten', label: 'Shorten at a word' }],
  },
];

describe('what is to fix', () => {
  const start = async () => {
    const world = surround({});
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    world.api.on('GET to-fix', () => groups);
    const fixture = await open(FixSheet, {});
    await settle(fixture);
    return { ...world, fixture };
  };
  it('is worked off with keys: groups open and close, and each page leads to the place', async () => {
    const { fixture } = await start();
    document.body.append(element(fixture));
    const lines = () => [...element(fixture).querySelectorAll<HTMLElement>('.line')];
    expect(text(fixture)).toContain('2 kinds of faults on 4 pages');
    expect(lines().map((line) => line.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
      'Blocks a release: First content not replaced Visitors would read it. 1 page 3 visits',
      'Worth fixing: Title too long Results cut what comes last. 3 pages 1,234 visits',
    ]);
    const key = async (name: string) => {
      document.activeElement?.dispatchEvent(
        new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }),
      );
      await settle(fixture);
    };
    lines()[0]?.focus();
    await key('ArrowRight');
    expect(lines()).toHaveLength(3);
    await key('j');
    expect(document.activeElement?.getAttribute('href')).toMatch(/\/pages\/5\/edit\?block=quote001$/);
    await key('ArrowLeft');
    await key('ArrowLeft');
    expect(lines()).toHaveLength(2);
    await key('ArrowDown');
    await key('ArrowRight');
    expect(text(fixture)).toContain('And 1 more page with fewer visits.');
    expect(lines()[2]?.getAttribute('href')).toMatch(/block=page$/);
    element(fixture).remove();
  });
  it('is let be with a reason by A, and what was let be counts again', async () => {
    const { api, fixture } = await start();
    const one = { id: 3, pageId: 5, name: 'Page 5', host: 'marrowick.example', path: '/p5', title: 'First content' };
    const kept = {
      ...one,
      code: 'placeholder',
      blockId: 'quote001',
      reason: 'Said so by law.',
      until: null,
      by: 'Ingrid',
      at: NOW,
    };
    api.on('POST accepted-findings', () => ({ id: 3 }));
    document.body.append(element(fixture));
    const lines = () => [...element(fixture).querySelectorAll<HTMLElement>('.line')];
    lines()[0]?.click();
    await settle(fixture);
    lines()[1]?.focus();
    const key = (init: KeyboardEventInit) =>
      document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init }));
    key({ key: 'a' });
    await settle(fixture);
    const field = element(fixture).querySelector<HTMLInputElement>('dm-accept-finding input');
    if (field) field.value = 'Said so by law.';
    api.on('GET accepted-findings', () => [kept]);
    await press(fixture, 'Accept');
    expect(api.sent('POST accepted-findings')).toEqual([
      { pageId: 5, code: 'placeholder', blockId: 'quote001', reason: 'Said so by law.', until: null },
    ]);
    expect(text(fixture)).toMatch(/1 accepted finding ?First content · Page 5 .* Said so by law\. Ingrid/);
    api.on('GET accepted-findings', () => []);
    api.on('DELETE accepted-findings/:acceptanceId', () => ({ id: 3 }));
    await press(fixture, 'Withdraw');
    expect(text(fixture)).not.toContain('accepted finding');
    element(fixture).remove();
  });
  it('is as serious as a site says: what is set otherwise stands first', async () => {
    const { api } = surround({ role: 'owner' });
    const site = { id: 4, name: 'Crew', approvals: 1, severities: { 'title-long': 'off' } };
    api.on('GET people', () => ({ sites: [site] }));
    const fixture = await open(ChecksSheet);
    await settle(fixture);
    expect(element(fixture).querySelector('td')?.textContent).toContain('Title too long');
    await choose(fixture, 'No description, on Crew', 'blocks');
    await choose(fixture, 'Title too long, on Crew', '');
    expect(api.sent('PUT sites/:siteId/rules')).toEqual([
      { approvals: 1, severities: { 'title-long': 'off', 'description-missing': 'blocks' } },
      { approvals: 1, severities: {} },
    ]);
  });
  it('is mended on all pages that have it, as it was seen', async () => {
    const { api, fixture, went } = await start();
    const asked: { pageIds: number[]; seen: unknown }[] = [];
    api.on('POST drafts/mending', ({ body }): MendingView => {
      asked.push(body as (typeof asked)[number]);
      const lines = [
        { words: 'A long title', how: 'gone' as const },
        { words: 'A long', how: 'new' as const },
      ];
      return {
        pages: [7, 8].map((pageId) => ({ pageId, name: `Page ${pageId}`, version: 2, hasMore: false, lines })),
        out: [{ pageId: 9, name: 'Page 9' }],
      };
    });
    element(fixture).querySelectorAll<HTMLElement>('.group')[1]?.click();
    await settle(fixture);
    await press(fixture, 'Shorten at a word on 3 pages…');
    expect(asked).toEqual([{ code: 'title-long', mend: 'shorten', pageIds: [7, 8, 9], seen: null }]);
    expect(text(fixture)).toContain('Removed: A long title');
    expect(text(fixture)).toContain('One page can’t be fixed this way');
    await press(fixture, 'Change 2 drafts and go on to release');
    expect(asked.at(-1)?.seen).toEqual([7, 8].map((pageId) => ({ pageId, version: 2 })));
    expect([...TestBed.inject(SelectionService).ids()]).toEqual([7, 8]);
    expect(went.at(-1)).toEqual({ panel: 'many-release' });
    await press(fixture, 'Back to the list');
    expect(buttons(fixture).join()).toContain('Title too long');
  });
});
