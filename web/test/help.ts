import { Component, input, output, provideZonelessChangeDetection, signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { problem, type Endpoint, type ProblemCode, type ReleasePreview } from '@domatium/contracts';
import type { RegisterRow } from '@domatium/core/register';
import type { SiteProfile } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { Subject } from 'rxjs';
import { RegisterService } from '../src/app/hub/register.service';
import type { PortfolioEvent } from '../src/app/hub/portfolio-events';
import { SelectionService } from '../src/app/hub/selection.service';
import { SessionService } from '../src/app/hub/session.service';
import { Api, Refusal } from '../src/app/hub/api';
import { NoticeService } from '../src/app/hub/notices';
import { CodeField } from '../src/app/source/code-field';
import { PlaceService } from '../src/app/hub/place.service';

interface Input {
  readonly params?: Record<string, unknown>;
  readonly query?: Record<string, unknown>;
  readonly body?: Record<string, unknown>;
}

/** Answers calls by method and path of their endpoint below the portfolio, and remembers them. */
export class FakeApi {
  readonly calls: ({ readonly path: string } & Input)[] = [];
  /** Nothing is accepted where a test says nothing of it. */
  readonly answers = new Map<string, (input: Input) => unknown>([['GET accepted-findings', () => []]]);

  call({ path, method }: Endpoint, input: Input): Promise<unknown> {
    const place = `${method} ${path.replace(/^\/api\/(portfolios\/:portfolioId\/)?/, '')}`;
    this.calls.push({ path: place, ...input });
    const answer = this.answers.get(place);
    return answer ? Promise.resolve().then(() => answer(input)) : Promise.resolve({});
  }

  on(path: string, answer: (input: Input) => unknown): void {
    this.answers.set(path, answer);
  }

  refuse(code: ProblemCode, detail: string, fields: { path: string; message: string }[] = []): never {
    throw new Refusal(problem(code, detail, fields.length ? { fields } : {}));
  }

  /** Bodies that were sent to a place, in order. */
  sent(path: string): unknown[] {
    return this.calls.filter((call) => call.path === path).map(({ body }) => body);
  }
}

export const NOW = Date.UTC(2026, 10, 25, 8, 0) as Instant;
/** What a site is. */
export const profileWith = (more: Partial<SiteProfile> = {}): SiteProfile => ({
  ...{ brand: 'M', language: 'en', theme: 'ferry', iconId: null, shareId: null, ...more },
});
/** A preview of a release that changes nothing for anybody. */
export const previewOf = (more: Partial<ReleasePreview> = {}): ReleasePreview => ({
  ...{ now: NOW, lines: [], cuts: [], findings: [], faults: [], pages: [], stock: [], lineCount: 0 },
  ...{ basis: 'basis', latest: null },
  ...{ links: { redirect: 0, nowhere: 0 }, ...more },
});
export const rowOf = (id: number, name: string, changes: Partial<RegisterRow> = {}): RegisterRow => ({
  id,
  name,
  role: 'ordinary',
  version: 1,
  siteId: 1,
  siteName: 'Ferries',
  host: 'marrowick.example',
  path: `/p${id}`,
  campaign: null,
  owner: null,
  labels: [],
  template: null,
  findings: null,
  changedAt: 0,
  changedBy: null,
  periods: [],
  tasks: null,
  prepared: [],
  redirectsAfter: false,
  unfoundLive: null,
  binnedSince: null,
  visits: 0,
  visitsBefore: 0,
  ...changes,
});

/** What sheets find around them, with what a test makes of it. */
export function surround({
  rows = [],
  role = 'owner',
  pageId = null,
  chosen = [],
  scope = null,
}: {
  rows?: readonly RegisterRow[];
  role?: string;
  pageId?: number | null;
  chosen?: readonly number[];
  scope?: { kind: 'site'; id: number } | null;
} = {}) {
  const api = new FakeApi();
  const events = new Subject<PortfolioEvent>();
  const went: object[] = [];
  const said: string[] = [];
  const sites = [{ id: 1, name: 'Ferries', host: 'marrowick.example', basePath: '/' }];
  const may = (act: string) =>
    ['owner', 'publisher', ...(act === 'release' ? [] : ['author'])].includes(role) &&
    (act !== 'manage' || role === 'owner');
  const register = {
    now: signal(NOW),
    shown: signal(NOW),
    zone: signal('Europe/Oslo'),
    version: signal(1),
    portfolioId: signal(1),
    portfolio: signal({ id: 1, name: 'Marrowick Coast' }),
    isNow: signal(true),
    head: signal({
      size: rows.length,
      sites,
      campaigns: [],
      people: [{ id: 1, name: 'Ingrid' }],
      labels: [],
      templates: [],
    }),
    mayWrite: signal(may('write')),
    mayRelease: signal(may('release')),
    mayManage: signal(may('manage')),
    events,
    page: (id: number | null) => rows.find((row) => row.id === id) ?? null,
    rowsOf: (ids: readonly number[]) => Promise.resolve(rows.filter(({ id }) => ids.includes(id))),
    ready: () => Promise.resolve(),
    load: () => Promise.resolve(),
    desk: { ofScope: () => Promise.resolve(rows.map(({ id }) => id)), pick: () => Promise.resolve(rows) },
  };
  const session = {
    session: signal({
      account: { id: 1, name: 'Ingrid', email: 'ingrid@marrowick.example', mailWish: 'at-once' },
      portfolios: [
        { id: 1, name: 'Marrowick Coast', role },
        { id: 2, name: 'Nine Mile Orchard', role: 'publisher' },
        { id: 3, name: 'Only to read', role: 'reader' },
      ],
    }),
    mayAct: (_: number, act: string) => may(act),
    openHref: () => '',
    reload: () => Promise.resolve(null),
  };
  const view = signal(scope ? { scope: `${scope.kind}:${scope.id}` } : {});
  const preparedId = signal<number | null>(null);
  const place = {
    view,
    go: (to: { readonly prepared?: string | null }) => {
      went.push(to);
      if (to.prepared !== undefined) preparedId.set(Number(to.prepared) || null);
    },
    preparedId,
    pageId: signal(pageId),
    scope: signal(scope),
    asOf: () => null,
    movedEnd: signal(null),
  };
  const notices = { say: ({ text }: { text: string }) => said.push(text) };
  const providers = [
    provideZonelessChangeDetection(),
    provideRouter([]),
    { provide: Api, useValue: api },
    { provide: RegisterService, useValue: register },
    { provide: SessionService, useValue: session },
    { provide: PlaceService, useValue: place },
    { provide: NoticeService, useValue: notices },
    { provide: SelectionService, useValue: { ids: signal(new Set(chosen)), clear: () => undefined } },
  ];
  TestBed.configureTestingModule({ providers });
  return { api, events, went, said, register };
}

/** Lets time pass, as the fake clock of the tests does: at once. */
export const pass = (ms: number): Promise<void> => jest.advanceTimersByTimeAsync(ms);

export async function settle(fixture: ComponentFixture<unknown>): Promise<void> {
  for (let n = 0; n < 4; n++) {
    await pass(1);
    await pass(1);
  }
}

const inRealTime = globalThis.setTimeout;

/** Settles until something shows: what is loaded, packed or drawn meanwhile takes real time, and longer on a busy machine. */
export async function settleUntil(fixture: ComponentFixture<unknown>, words: string): Promise<void> {
  for (let n = 0; n < 200 && !text(fixture).includes(words); n++) {
    await new Promise((done) => inRealTime(done, 25));
    await settle(fixture);
  }
  expect(text(fixture)).toContain(words);
}

/** Opens a component and waits longer than sheets wait with their first question. */
export async function open<T>(type: Type<T>, inputs: Record<string, unknown> = {}): Promise<ComponentFixture<T>> {
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await settle(fixture);
  await pass(230);
  await settle(fixture);
  return fixture;
}

export const element = (fixture: ComponentFixture<unknown>) => fixture.nativeElement as HTMLElement;
export const text = (fixture: ComponentFixture<unknown>) => element(fixture).textContent?.replace(/\s+/g, ' ') ?? '';
export const buttons = (fixture: ComponentFixture<unknown>) =>
  [...element(fixture).querySelectorAll('button')].map((one) => (one.textContent ?? '').replace(/\s+/g, ' ').trim());

export async function press(fixture: ComponentFixture<unknown>, label: string | RegExp): Promise<void> {
  const button = [...element(fixture).querySelectorAll('button')].find((one) => {
    const words = (one.textContent ?? '').replace(/\s+/g, ' ').trim();
    return typeof label === 'string' ? words === label : label.test(words);
  });
  if (!button) throw new Error(`No button ${label}; there are ${buttons(fixture).join(' | ')}`);
  button.click();
  await settle(fixture);
}

export async function choose(fixture: ComponentFixture<unknown>, label: string, value: string): Promise<void> {
  const fields = [...element(fixture).querySelectorAll('select')];
  const field = fields.find((one) => one.id === label || one.getAttribute('aria-label') === label);
  if (!field) throw new Error(`No field ${label}`);
  field.value = value;
  field.dispatchEvent(new Event('change'));
  await settle(fixture);
}

export function type(fixture: ComponentFixture<unknown>, id: string, value: string): void {
  const field = element(fixture).querySelector<HTMLInputElement>(`#${id}`);
  if (!field) throw new Error(`No field ${id}`);
  field.value = value;
  field.dispatchEvent(new Event('input'));
}

/** Code as a plain field: what CodeMirror does is its own. */
@Component({
  selector: 'dm-code-field',
  template: `<textarea
    [attr.aria-label]="label()"
    [value]="value()"
    (input)="changed.emit($any($event.target).value)"
  ></textarea>`,
})
class PlainCode {
  readonly label = input('');
  readonly language = input('');
  readonly value = input('');
  readonly check = input<unknown>();
  readonly changed = output<string>();
}

export function withPlainCode(...types: readonly Type<unknown>[]): void {
  for (const type of types)
    TestBed.overrideComponent(type, { remove: { imports: [CodeField] }, add: { imports: [PlainCode] } });
}
