import type { SessionRowView } from '@domatium/contracts';
import { columnsFor, type ColumnContext } from '../src/app/register/columns';
import { AccountSheet } from '../src/app/session/account-sheet';
import { SignIn } from '../src/app/session/sign-in';
import { SessionService } from '../src/app/hub/session.service';
import { TroubleBar } from '../src/app/troubles/trouble-bar';
import { TestBed } from '@angular/core/testing';
import { element, NOW, open, press, rowOf, settle, settleUntil, surround, text, type as write } from './help';

describe('what goes wrong', () => {
  const disk = { words: 'Can’t write to disk.', since: NOW };
  const page = { words: 'A page is damaged.', since: NOW };

  it('stands over everything while it lasts, the first of it first, and is heard of at once', async () => {
    const { api, events } = surround();
    let told: object[] = [disk, page];
    api.on('GET troubles', () => told);
    const fixture = await open(TroubleBar);
    expect(text(fixture)).toContain('Can’t write to disk.');
    expect(text(fixture)).not.toContain('A page is damaged.');
    await press(fixture, '1 more');
    expect(text(fixture)).toContain('A page is damaged.');
    told = [];
    events.next({ kind: 'trouble', portfolioId: 1 } as never);
    await settle(fixture);
    expect(text(fixture).trim()).toBe('');
  });
  it('is said too where the database is away, and gone when it is back', async () => {
    const { api, events } = surround();
    let isAway = true;
    api.on('GET troubles', () => (isAway ? api.refuse('database-away', 'The database can’t be reached') : []));
    const fixture = await open(TroubleBar);
    expect(text(fixture)).toContain('The database can’t be reached');
    isAway = false;
    events.next({ kind: 'again', portfolioId: 1 } as never);
    await settle(fixture);
    expect(text(fixture).trim()).toBe('');
  });
});

describe('one’s own account', () => {
  const session = (id: number, isThis: boolean): SessionRowView => ({
    ...{ id, isThis, since: NOW, seenAt: NOW, address: '10.0.0.1' },
    agent: 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0',
  });
  it('shows where one is signed in, ends the others, and tells recovery codes once', async () => {
    const { api } = surround();
    api.on('GET account/factor', () => ({ since: null, recoveryCodes: 0 }));
    api.on('GET account/sessions', () => [session(1, true), session(2, false)]);
    api.on('POST account/factor', () => ({ secret: 'ABCDEFGH', uri: 'otpauth://totp/x?secret=ABCDEFGH' }));
    api.on('PUT account/factor', () => ({ recoveryCodes: ['aaaa-bbbb-cccc'] }));
    TestBed.inject(SessionService).reload = () => Promise.resolve(null);
    const fixture = await open(AccountSheet);
    expect(text(fixture)).toContain('Firefox on Linux');
    await press(fixture, /^Sign out Firefox/);
    expect(api.calls.find(({ path }) => path.startsWith('DELETE'))).toMatchObject({ params: { sessionId: 2 } });
    await press(fixture, 'Set up');
    await settleUntil(fixture, 'ABCD EFGH');
    await press(fixture, 'Put in force');
    expect(text(fixture)).toContain('aaaa-bbbb-cccc');
    await press(fixture, 'I have saved them');
    expect(text(fixture)).not.toContain('aaaa-bbbb-cccc');
  });
});

describe('signing in', () => {
  it('asks for the code once the password was right, and says what is wrong with it the second time', async () => {
    const { api } = surround();
    const refused = [{ path: 'code', message: 'That code is not right.' }];
    TestBed.inject(SessionService).signIn = () => Promise.resolve().then(() => api.refuse('invalid', 'x', refused));
    const fixture = await open(SignIn);
    expect(element(fixture).querySelector('#code')).toBeNull();
    write(fixture, 'email', 'ingrid@marrowick.example');
    write(fixture, 'password', 'midwinter-crossing');
    await press(fixture, 'Sign in');
    expect(element(fixture).querySelector('#code')).not.toBeNull();
    expect(text(fixture)).not.toContain('That code is not right.');
    write(fixture, 'code', '123456');
    await press(fixture, 'Sign in');
    expect(text(fixture)).toContain('That code is not right.');
  });
});

describe('names in the register', () => {
  it('are text, whatever they look like', () => {
    const name = '<meta http-equiv=refresh content="0;url=https://evil.example"><style>*{color:red}</style>';
    const context = {
      ...{ shown: () => NOW, now: () => NOW, zone: () => 'UTC', lineOf: () => [], isChosen: () => false },
      ...{ scale: () => ({ from: 0, until: 1, at: () => 0 }) },
    } as unknown as ColumnContext;
    const column = columnsFor(context).find(({ colId }) => colId === 'name');
    const draw = column?.cellRenderer as (params: object) => HTMLElement;
    for (const tasks of [null, { open: 1, due: 1 }]) {
      const cell = draw({ data: { kind: 'page', page: rowOf(1, name, { tasks } as never) } });
      expect(cell.textContent).toContain(name);
      expect(cell.querySelector('meta, style')).toBeNull();
    }
  });
});
