import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { CampaignView } from '@domatium/contracts';
import { DAY, type Instant } from '@domatium/core/time';
import { CampaignSheet, NewCampaignSheet } from '../src/app/campaigns/campaign-sheet';
import { CampaignsService } from '../src/app/campaigns/campaigns.service';
import { NoticeService } from '../src/app/hub/notices';
import { PlaceService } from '../src/app/hub/place.service';
import { RegisterService } from '../src/app/hub/register.service';
import { SessionService } from '../src/app/hub/session.service';
import { NewPortfolioSheet, NewSiteSheet } from '../src/app/people/new-site-sheet';
import { Welcome } from '../src/app/people/welcome';
import { DifferenceSheet } from '../src/app/register/difference-sheet';
import { NewPassword } from '../src/app/session/new-password';
import { buttons, choose, element, NOW, open, press, rowOf, settle, surround, text, type } from './help';

/** Sends a form, as Enter in a field does. */
async function send(fixture: Awaited<ReturnType<typeof open>>): Promise<void> {
  element(fixture)
    .querySelector('form')
    ?.dispatchEvent(new Event('submit', { cancelable: true }));
  await settle(fixture);
}
const errors = (fixture: Awaited<ReturnType<typeof open>>) =>
  [...element(fixture).querySelectorAll('.field-error')].map((one) => one.textContent?.trim()).filter(Boolean);
const surroundWithRouter = () => {
  const world = surround();
  const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
  const byUrl = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
  Object.assign(TestBed.inject(SessionService), { reload: () => Promise.resolve() });
  return { ...world, routed: went, byUrl };
};

describe('where an invitation leads', () => {
  const invited = { portfolio: 'Marrowick Coast', role: 'author', email: 'maren@marrowick.example', isKnown: false };
  const person = (fixture: Awaited<ReturnType<typeof open>>) => {
    type(fixture, 'name', 'Maren Holt');
    type(fixture, 'password', 'midwinter-crossing');
  };
  it('is an account of one’s own, under the address it was sent to, in the portfolio', async () => {
    const { api, byUrl } = surroundWithRouter();
    api.on('GET invitations/:token', () => invited);
    api.on('POST invitations/:token/join', () => ({}));
    const fixture = await open(Welcome, { token: 'abc' });
    expect(text(fixture)).toMatch(/Marrowick Coast.*author/);
    await send(fixture);
    expect(errors(fixture)).toEqual(['Enter your name.', 'Choose a password.']);
    expect(api.calls.filter(({ path }) => path.startsWith('POST'))).toEqual([]);
    person(fixture);
    await send(fixture);
    expect(api.calls.at(-1)?.body).toMatchObject({ name: 'Maren Holt', email: 'maren@marrowick.example', code: null });
    expect(byUrl).toHaveBeenCalledWith('/');
  });
  it('asks for the code of an authenticator once the server wants one, and says beside it what is wrong', async () => {
    const { api, byUrl } = surroundWithRouter();
    api.on('GET invitations/:token', () => ({ ...invited, isKnown: true }));
    const fixture = await open(Welcome, { token: 'abc' });
    const wants = 'Write the code of your authenticator.';
    for (const { path } of api.calls) expect(path).toBe('GET invitations/:token');
    api.on('POST invitations/:token/join', () => api.refuse('invalid', wants, [{ path: 'code', message: wants }]));
    person(fixture);
    await send(fixture);
    expect([errors(fixture), byUrl.mock.calls]).toEqual([[wants], []]);
    type(fixture, 'code', '123456');
    api.on('POST invitations/:token/join', () => ({}));
    await send(fixture);
    expect(api.calls.at(-1)?.body).toMatchObject({ code: '123456' });
    expect(byUrl).toHaveBeenCalledTimes(1);
  });
  it('is a portfolio too for the first person, and nowhere where the link has ended', async () => {
    const { api } = surroundWithRouter();
    api.on('GET invitations/:token', () => ({ ...invited, portfolio: null, email: null }));
    api.on('POST invitations/:token/found', () => ({ id: 1 }));
    const fixture = await open(Welcome, { token: 'abc' });
    person(fixture);
    type(fixture, 'email', 'ingrid@marrowick.example');
    await send(fixture);
    expect(errors(fixture)).toEqual(['A portfolio needs a name.']);
    type(fixture, 'portfolio', 'Marrowick Coast');
    await choose(fixture, 'zone', 'Europe/Oslo').catch(() => undefined);
    await send(fixture);
    expect(api.calls.at(-1)?.body).toMatchObject({ portfolio: { name: 'Marrowick Coast' } });
    TestBed.resetTestingModule();
    const second = surroundWithRouter();
    const words = 'This invitation has expired. Ask for a new link.';
    second.api.on('GET invitations/:token', () => second.api.refuse('link-ended', words));
    const gone = await open(Welcome, { token: 'old' });
    expect(text(gone)).toContain(words);
    expect(buttons(gone)).toEqual([]);
  });
});

describe('a new password', () => {
  it('is asked for by address, and whether there is an account is told to nobody', async () => {
    const { api } = surroundWithRouter();
    const fixture = await open(NewPassword);
    type(fixture, 'email', 'no address');
    await send(fixture);
    expect(errors(fixture)).toEqual(['That isn’t an e-mail address.']);
    expect(api.calls).toEqual([]);
    type(fixture, 'email', 'ingrid@marrowick.example');
    await send(fixture);
    expect(text(fixture)).toContain('If that address has an account, a link is on its way.');
  });
  it('is taken through the link, once', async () => {
    const { api } = surroundWithRouter();
    const fixture = await open(NewPassword, { token: 'abc' });
    type(fixture, 'password', 'short');
    await send(fixture);
    expect(errors(fixture)).toEqual(['At least 10 characters.']);
    type(fixture, 'password', 'midwinter-crossing');
    await send(fixture);
    expect(text(fixture)).toContain('all sessions ended');
    expect(api.calls).toHaveLength(1);
  });
});

describe('a new site', () => {
  const fill = (fixture: Awaited<ReturnType<typeof open>>, name: string, host: string) => {
    for (const [id, value] of Object.entries({ 'site-name': name, 'site-host': host }))
      (element(fixture).querySelector(`#${id}`) as HTMLInputElement).value = value;
  };
  it('is made and shown; below a domain of others it asks for their owner’s code, beside its field', async () => {
    const { api, went } = surroundWithRouter();
    api.on('GET stock', () => []);
    const fixture = await open(NewSiteSheet);
    await press(fixture, 'Add the site');
    expect(errors(fixture)).toEqual(['A site needs a name.']);
    fill(fixture, 'Tide Hall', 'night.tidehall.example');
    const held = 'This host lies under a domain that another portfolio of this installation holds.';
    api.on('POST sites', () => api.refuse('invalid', held, [{ path: 'consent', message: held }]));
    await press(fixture, 'Add the site');
    expect([errors(fixture), went]).toEqual([[held], []]);
    const code = element(fixture).querySelector('#site-consent') as HTMLInputElement;
    code.value = 'allow-it';
    code.dispatchEvent(new Event('input'));
    api.on('POST sites', () => ({ id: 9 }));
    await press(fixture, 'Add the site');
    expect(api.sent('POST sites').at(-1)).toMatchObject({ host: 'night.tidehall.example', consent: 'allow-it' });
    expect(went).toEqual([{ scope: 'site:9', panel: null }]);
  });
  it('and a new portfolio is opened once it is there', async () => {
    const { api, routed } = surroundWithRouter();
    api.on('POST portfolios', () => ({ id: 4 }));
    const fixture = await open(NewPortfolioSheet);
    await press(fixture, 'Create the portfolio');
    expect(errors(fixture)).toEqual(['A portfolio needs a name.']);
    (element(fixture).querySelector('#portfolio-name') as HTMLInputElement).value = 'Nine Mile Orchard';
    await press(fixture, 'Create the portfolio');
    expect(routed.mock.lastCall?.[0]).toEqual(['/portfolios', 4, 'pages']);
  });
});

describe('a campaign', () => {
  const campaign: CampaignView = {
    ...{ id: 5, name: 'Midwinter 2026', purpose: '', fromDay: '2026-12-01', untilDay: '2026-12-24', ownerId: null },
    ...{ version: 2 },
  } as CampaignView;
  const start = async (rows = [rowOf(7, 'Night boat')]) => {
    const world = surround({ rows });
    const given: { label: string; run: () => void }[] = [];
    const { notices } = { notices: TestBed.inject(NoticeService) as unknown as { say: unknown } };
    notices.say = ({ action }: { action?: { label: string; run: () => void } }) => action && given.push(action);
    world.api.on('GET campaigns', () => [campaign]);
    world.api.on('GET campaigns/:campaignId/visits', () => ({
      total: 9000,
      since: '2026-11-01',
      last30: 1500,
      before30: 1000,
    }));
    Object.assign(TestBed.inject(RegisterService).desk, { ofCampaign: () => Promise.resolve(rows) });
    TestBed.inject(CampaignsService);
    const fixture = await open(CampaignSheet, { campaignId: 5 });
    await settle(fixture);
    return { ...world, fixture, given };
  };
  const begins = Date.UTC(2026, 10, 30, 23) as Instant;
  it('names pages that are never live in it, are off within it, or end and leave nothing', async () => {
    const period = (from: number, until: number | null) => ({ from, until, revision: 1 });
    const { fixture } = await start([
      rowOf(7, 'Night boat'),
      rowOf(8, 'Day boat', { periods: [period(begins - DAY, begins + 3 * DAY), period(begins + 5 * DAY, null)] }),
      rowOf(9, 'Markets', { periods: [period(begins - DAY, begins + 3 * DAY)] }),
      rowOf(10, 'Lights', { periods: [period(begins - DAY, begins + 3 * DAY)], redirectsAfter: true }),
      rowOf(11, 'Whole', { periods: [period(begins - DAY, null)] }),
    ]);
    expect(text(fixture)).toMatch(/Night boat is never live during it/);
    expect(text(fixture)).toMatch(/Day boat is off from Fri 4 Dec, 00:00 to Sun 6 Dec, 00:00/);
    expect(text(fixture)).toMatch(/Markets ends with .*3 Dec.*, and its address gives nothing then/);
    expect(text(fixture)).not.toMatch(/Lights (ends|is off)|Whole (ends|is off|is never)/);
  });
  it('is changed and removed, each with a way back; a removal that is refused says why', async () => {
    const { fixture, api, given, went } = await start();
    await press(fixture, /^(Change|Edit)/);
    const field = element(fixture).querySelector('#campaign-name') as HTMLInputElement;
    field.value = 'Midwinter';
    field.dispatchEvent(new Event('change'));
    await settle(fixture);
    await press(fixture, /^Save/);
    expect(api.sent('PATCH campaigns/:campaignId').concat(api.sent('PUT campaigns/:campaignId'))).toMatchObject([
      { name: 'Midwinter', version: 2 },
    ]);
    given.at(-1)?.run();
    await settle(fixture);
    expect(api.calls.at(-1)?.body).toMatchObject({ name: 'Midwinter 2026', version: 3 });
    api.on('POST campaigns/:campaignId/remove', () => api.refuse('conflict', 'It has 3 pages. Take them out first.'));
    await press(fixture, 'Change');
    await press(fixture, 'Remove the campaign');
    expect([text(fixture), went]).toEqual([expect.stringContaining('It has 3 pages.'), []]);
  });
  it('that is new needs a name, and days in their order', async () => {
    const { api, went } = surround();
    api.on('POST campaigns', () => ({ id: 6 }));
    const fixture = await open(NewCampaignSheet);
    await press(fixture, 'Make the campaign');
    expect(errors(fixture)).toContain('Give it a name.');
    const field = element(fixture).querySelector('#campaign-name') as HTMLInputElement;
    field.value = 'Storm 2027';
    field.dispatchEvent(new Event('change'));
    await settle(fixture);
    await press(fixture, 'Make the campaign');
    expect(api.sent('POST campaigns')).toMatchObject([{ name: 'Storm 2027', fromDay: null }]);
    expect(went).toEqual([{ scope: 'campaign:6', panel: 'campaign' }]);
  });
});

describe('what differs between two moments', () => {
  it('is told in order of time, with what comes instead of what goes; the link holds both moments', async () => {
    const { api } = surround();
    const later = (NOW + 9 * DAY) as Instant;
    Object.assign(TestBed.inject(PlaceService), { since: () => null, scopeKey: () => 'site:1' });
    Object.assign(TestBed.inject(RegisterService), { shown: () => later });
    const line = (id: number, kind: string, at: number, more: object = {}) => ({
      ...{ kind, at, page: { id, name: `Page ${id}` }, revisions: [1, 2], ...more },
      addresses: [`one.example/${id}`, `one.example/${id}%C3%A9`],
    });
    const lines = [
      line(1, 'comes', NOW + DAY),
      line(2, 'goes', NOW + DAY),
      line(3, 'revision', NOW + 2 * DAY),
      line(4, 'address', NOW + 3 * DAY),
    ];
    const counts = { comes: 1, goes: 1, revision: 1, address: 5 };
    const asked: unknown[] = [];
    Object.assign(TestBed.inject(RegisterService).desk, {
      differences: (...question: unknown[]) => (asked.push(question), Promise.resolve({ lines, counts })),
    });
    api.on('GET register/given', () => [[2, 'gone (410)']]);
    const fixture = await open(DifferenceSheet);
    await settle(fixture);
    expect(asked[0]).toEqual([null, [NOW, later], 300]);
    expect(text(fixture)).toContain('1 go live, 1 come off, 1 change, 5 move');
    expect(text(fixture)).toContain('goes live, revision 2');
    expect(text(fixture)).toContain('comes off; visitors get gone (410)');
    expect(text(fixture)).toContain('revision 1 becomes 2');
    expect(text(fixture)).toContain('moves from one.example/4 to one.example/4é');
    const csv = element(fixture).querySelector<HTMLAnchorElement>('a[href*="difference.csv"]')?.href ?? '';
    expect(new URL(csv).searchParams.get('scope')).toBe('site:1');
    const copied: string[] = [];
    Object.assign(navigator, { clipboard: { writeText: (link: string) => (copied.push(link), Promise.resolve()) } });
    await press(fixture, /[Cc]opy/);
    expect(new URL(copied[0] ?? '').searchParams.get('at')).toMatch(/^2026-12-04T08:00/);
  });
});
