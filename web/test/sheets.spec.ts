import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { AnswerInput, Changes, ReleaseChange, ReleasePreview } from '@domatium/contracts';
import type { RegisterRow } from '@domatium/core/register';
import { instantOfWall, type Instant } from '@domatium/core/time';
import { NEVER } from 'rxjs';
import { RegisterService } from '../src/app/hub/register.service';
import { AnswerField } from '../src/app/releases/answer-field';
import { ReleaseSheet } from '../src/app/releases/release-sheet';
import { NO_FAULTS, ReleasingService, type Faults } from '../src/app/releases/releasing.service';
import { TakeOffSheet } from '../src/app/releases/take-off-sheet';
import { MomentField } from '../src/app/shared/moment-field';
import { PlaceService } from '../src/app/hub/place.service';
import { pass, previewOf } from './help';

const zone = 'Europe/Oslo';
const at = (local: string) => instantOfWall({ local, zone }) as Instant;
const now = at('2026-11-25T08:55');
const page: RegisterRow = {
  id: 7,
  name: 'Midwinter crossing',
  role: 'ordinary',
  siteId: 1,
  host: 'marrowick.example',
  path: '/midwinter',
  siteName: 'Ferries',
  campaign: null,
  labels: [],
  template: null,
  findings: null,
  owner: null,
  changedAt: 0,
  changedBy: null,
  version: 1,
  redirectsAfter: false,
  unfoundLive: null,
  binnedSince: null,
  prepared: [],
  tasks: null,
  visits: 0,
  visitsBefore: 0,
  periods: [{ from: at('2026-11-12T09:00'), until: at('2026-12-21T00:00'), revision: 14 }],
};
const offer = {
  pageId: 7,
  revision: 15,
  draftVersion: 4,
  canGoBackToPlan: false,
  proposedUntil: at('2026-12-21T00:00'),
  proposedAfterwards: { kind: 'gone' } as AnswerInput,
};
const GIVEN = { code: 'page', params: { page: 'Midwinter crossing', revision: 15 } } as const;
const preview = previewOf({
  now,
  lines: [
    {
      at: now,
      address: 'marrowick.example/midwinter',
      words: 'Midwinter crossing, revision 15',
      isWarning: false,
      ...GIVEN,
    },
  ],
  pages: [offer],
  lineCount: 1,
});

/** Answers previews and presses, and remembers them. */
class FakeReleasing {
  asked: ReleaseChange[] = [];
  pressed: { change: ReleaseChange; stock: Changes['stock']; key: string }[] = [];
  answer: { preview: ReleasePreview | null; faults: Faults } = { preview, faults: NO_FAULTS };
  refusal: Faults | null = null;
  preview({ changes }: Changes) {
    this.asked.push(changes[0] as ReleaseChange);
    return Promise.resolve(this.answer);
  }
  release({ changes, stock }: Changes, key: string) {
    this.pressed.push({ change: changes[0] as ReleaseChange, stock, key });
    return Promise.resolve(this.refusal);
  }
}

let releasing: FakeReleasing;
const went: object[] = [];
beforeEach(() => {
  releasing = new FakeReleasing();
  went.length = 0;
  const register = {
    now: signal(now),
    zone: signal(zone),
    page: (id: number) => (id === 7 ? page : null),
    version: signal(1),
    head: signal(null),
    portfolioId: signal(1),
    events: NEVER,
  };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      { provide: RegisterService, useValue: register },
      { provide: ReleasingService, useValue: releasing },
      { provide: PlaceService, useValue: { go: (change: object) => went.push(change) } },
    ],
  });
});

async function settle(fixture: ComponentFixture<unknown>): Promise<void> {
  await pass(1);
  await pass(260);
  await pass(1);
}
const text = (fixture: ComponentFixture<unknown>) =>
  (fixture.nativeElement as HTMLElement).textContent?.replace(/\s+/g, ' ') ?? '';
const button = (fixture: ComponentFixture<unknown>, label: RegExp) =>
  [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find(({ textContent }) =>
    label.test((textContent ?? '').trim()),
  ) as HTMLButtonElement;
async function open<T>(type: new () => T): Promise<ComponentFixture<T>> {
  const fixture = TestBed.createComponent(type);
  fixture.componentRef.setInput('pageId', 7);
  await settle(fixture);
  // What the first preview proposes is previewed in its turn.
  await settle(fixture);
  return fixture;
}

describe('the release sheet', () => {
  it('takes the end and the afterwards that fit the plan, and names the act on its button', async () => {
    const fixture = await open(ReleaseSheet);
    expect(releasing.asked.at(-1)).toMatchObject({
      act: 'release',
      from: 'now',
      until: { local: '2026-12-21T00:00', zone },
      afterwards: { kind: 'gone' },
    });
    expect(text(fixture)).toContain('on the air to the end of Sun 20 Dec');
    expect(text(fixture)).toContain('Midwinter crossing, revision 15');
    button(fixture, /Next Monday/).click();
    await settle(fixture);
    expect(button(fixture, /^Put revision/).textContent?.trim()).toBe('Put revision 15 live on Mon 30 Nov, 09:00');
    button(fixture, /^Put revision/).click();
    await settle(fixture);
    expect(releasing.pressed[0]?.change).toMatchObject({ from: { local: '2026-11-30T09:00', zone }, draftVersion: 4 });
    expect(went).toEqual([{ panel: null }]);
  });
  it('can’t be pressed while something blocks, and says how much', async () => {
    releasing.answer = {
      preview: {
        ...preview,
        findings: [
          {
            check: 'title',
            code: 'title-missing',
            params: {},
            severity: 'blocks',
            message: 'The page has no title.',
            mend: 'Write one.',
            place: { metadata: 'title' },
            pageId: 7,
            pageName: 'Fares',
          },
        ],
      },
      faults: NO_FAULTS,
    };
    const fixture = await open(ReleaseSheet);
    expect(button(fixture, /^Put revision/).disabled).toBe(true);
    expect(text(fixture)).toContain('1 thing blocks this');
  });
  it('says nothing of what it judged before while it judges something else, and can’t be pressed', async () => {
    const place = { metadata: 'title' as const };
    const wrong = { check: 'title', code: 'title-missing' as const, params: {}, place, pageId: 7, pageName: 'Fares' };
    releasing.answer = {
      preview: { ...preview, findings: [{ ...wrong, severity: 'blocks', message: 'No title.', mend: 'Write one.' }] },
      faults: NO_FAULTS,
    };
    const fixture = await open(ReleaseSheet);
    expect(text(fixture)).toContain('1 thing blocks this');
    releasing.answer = { preview, faults: NO_FAULTS };
    button(fixture, /^Tomorrow/).click();
    await pass(1);
    const view = (fixture.nativeElement as HTMLElement).querySelector('dm-preview-view');
    expect([view?.className, view?.getAttribute('aria-busy')]).toEqual(['judging', 'true']);
    expect(text(fixture)).not.toContain('1 thing blocks this');
    expect(button(fixture, /^Put revision/).disabled).toBe(true);
    await settle(fixture);
    expect(view?.className).toBe('');
    expect(button(fixture, /^Put revision/).disabled).toBe(false);
  });
  it('takes a piece along that would show nothing, in the same press', async () => {
    const params = { piece: 'Contact', itemId: 12, at: null };
    const place = { blockId: 'used1', field: 'piece' };
    const missing = { check: 'shared', code: 'piece-not-out' as const, params, place, pageId: 7, pageName: 'Fares' };
    releasing.answer = {
      preview: {
        ...preview,
        findings: [{ ...missing, severity: 'blocks', message: 'The piece “Contact” isn’t live.', mend: 'Release it.' }],
      },
      faults: NO_FAULTS,
    };
    const fixture = await open(ReleaseSheet);
    expect(button(fixture, /^Put revision/).disabled).toBe(true);
    // One that is live and only ends later would take its draft to every page that shows it.
    const [blocking] = releasing.answer.preview?.findings ?? [];
    releasing.answer = {
      preview: { ...preview, findings: blocking ? [{ ...blocking, severity: 'worth-fixing' }] : [] },
      faults: NO_FAULTS,
    };
    const other = await open(ReleaseSheet);
    expect(text(other)).toContain('isn’t live.');
    expect(button(other, /^Release it too$/)).toBeUndefined();
    releasing.answer = { preview, faults: NO_FAULTS };
    button(fixture, /^Release it too$/).click();
    await settle(fixture);
    await settle(fixture);
    button(fixture, /^Put revision/).click();
    await settle(fixture);
    expect(releasing.pressed.at(-1)?.stock).toMatchObject([{ act: 'put', itemId: 12, from: 'now', until: null }]);
  });
  it('shows a refusal beside its field, and sends the same press again under the same key', async () => {
    const fixture = await open(ReleaseSheet);
    releasing.refusal = {
      fields: [{ path: 'changes[0].until', message: 'It must end after it starts.' }],
      whole: null,
    };
    button(fixture, /^Put revision/).click();
    await settle(fixture);
    expect(text(fixture)).toContain('It must end after it starts.');
    expect(button(fixture, /^Put revision/).disabled).toBe(true);
    releasing.refusal = { fields: [], whole: 'Domatium can’t be reached just now.', isPassing: true };
    const other = await open(ReleaseSheet);
    button(other, /^Put revision/).click();
    await settle(other);
    expect(text(other)).toContain('can’t be reached just now');
    button(other, /^Put revision/).click();
    await settle(other);
    const [first, second] = releasing.pressed.slice(-2);
    expect(second?.key).toBe(first?.key);
  });
});

it('the take-off sheet asks for what visitors get instead, from now on', async () => {
  const fixture = await open(TakeOffSheet);
  expect(releasing.asked.at(-1)).toEqual({
    act: 'take-off',
    pageId: 7,
    from: 'now',
    until: null,
    afterwards: { kind: 'not-found' },
  });
  button(fixture, /Tomorrow/).click();
  await settle(fixture);
  expect(button(fixture, /^Take Midwinter/).textContent?.trim()).toBe(
    'Take Midwinter crossing off on Thu 26 Nov, 09:00',
  );
});

describe('fields', () => {
  it('an answer is what was chosen: back to the plan, a redirect with its target and status, gone', async () => {
    const fixture = TestBed.createComponent(AnswerField);
    const seen: (AnswerInput | null)[] = [];
    fixture.componentInstance.changed.subscribe((answer) => seen.push(answer));
    fixture.componentRef.setInput('label', 'Afterwards');
    fixture.componentRef.setInput('value', { kind: 'gone' });
    fixture.componentRef.setInput('canGoBack', true);
    await pass(1);
    const select = (fixture.nativeElement as HTMLElement).querySelector('select') as HTMLSelectElement;
    const choose = async (value: string) => {
      select.value = value;
      select.dispatchEvent(new Event('change'));
      fixture.componentRef.setInput('value', seen.at(-1));
      await pass(1);
    };
    await choose('back');
    await choose('outside');
    const url = (fixture.nativeElement as HTMLElement).querySelector('input[type=url]') as HTMLInputElement;
    url.value = 'https://o.example/';
    url.dispatchEvent(new Event('change'));
    await choose('not-found');
    expect(seen).toEqual([
      null,
      { kind: 'redirect', status: 302, target: { kind: 'outside', url: '' } },
      { kind: 'redirect', status: 302, target: { kind: 'outside', url: 'https://o.example/' } },
      { kind: 'not-found' },
    ]);
  });
  it('a moment is a day and a time, or nothing', async () => {
    const fixture = TestBed.createComponent(MomentField);
    const seen: (string | null)[] = [];
    fixture.componentInstance.changed.subscribe((moment) => seen.push(moment));
    fixture.componentRef.setInput('label', 'From');
    fixture.componentRef.setInput('value', '2026-11-27T09:00');
    await pass(1);
    const [day, time] = [...(fixture.nativeElement as HTMLElement).querySelectorAll('input')] as [
      HTMLInputElement,
      HTMLInputElement,
    ];
    expect([day.value, time.value]).toEqual(['Fri 27 Nov 2026', '09:00']);
    for (const [field, value] of [
      [time, '1030'],
      [day, '1 dec'],
      [day, 'some day'],
      [time, '25:00'],
      [day, ' '],
    ] as const) {
      field.value = value;
      field.dispatchEvent(new Event('change'));
    }
    // What is no day or time is kept as it was typed, for the contracts to refuse.
    expect(seen).toEqual(['2026-11-27T10:30', '2026-12-01T09:00', 'some dayT09:00', '2026-11-27T25:00', null]);
  });
});
