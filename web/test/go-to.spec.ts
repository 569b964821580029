import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { PlaceService } from '../src/app/hub/place.service';
import { RegisterService } from '../src/app/hub/register.service';
import { GoTo } from '../src/app/shell/go-to';
import { ViewsService } from '../src/app/views/views.service';
import { element, open, rowOf, settle, surround, text } from './help';

describe('going to anything', () => {
  const start = async (role = 'owner') => {
    const world = surround({ rows: [rowOf(7, 'Night boat'), rowOf(8, 'Day boat')], role });
    TestBed.overrideProvider(ViewsService, {
      useValue: { named: () => [{ name: 'Ending soon' }], show: () => undefined },
    });
    const went = jest.spyOn(TestBed.inject(PlaceService), 'go');
    const { desk } = TestBed.inject(RegisterService);
    const pages = [rowOf(7, 'Night boat'), rowOf(8, 'Day boat')];
    const pick = (typed: string) => Promise.resolve(pages.filter(({ name }) => name.toLowerCase().includes(typed)));
    desk.pick = pick as never;
    const fixture = await open(GoTo);
    let closed = 0;
    fixture.componentInstance.closed.subscribe(() => closed++);
    await settle(fixture);
    return { ...world, fixture, went, closed: () => closed };
  };
  const field = (fixture: ComponentFixture<unknown>) => element(fixture).querySelector('input') as HTMLInputElement;
  const write = async (fixture: ComponentFixture<unknown>, words: string) => {
    field(fixture).value = words;
    field(fixture).dispatchEvent(new Event('input'));
    await settle(fixture);
  };
  const key = async (fixture: ComponentFixture<unknown>, name: string) => {
    field(fixture).dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
    await settle(fixture);
  };
  const options = (fixture: ComponentFixture<unknown>) =>
    [...element(fixture).querySelectorAll('[role="option"]')].map((one) =>
      one.textContent?.replace(/\s+/g, ' ').trim(),
    );

  it('offers what there is before a letter is typed, and pages by a few', async () => {
    const { fixture } = await start();
    expect(options(fixture).slice(0, 2)).toEqual(['DoNew page', 'DoNew campaign']);
    expect(field(fixture).getAttribute('role')).toBe('combobox');
    await write(fixture, 'boat');
    expect(options(fixture)).toEqual(['PageNight boatmarrowick.example/p7', 'PageDay boatmarrowick.example/p8']);
    await write(fixture, 'whale');
    expect([options(fixture), text(fixture)]).toEqual([[], expect.stringContaining('No results.')]);
  });

  it('knows days: the portfolio as of then', async () => {
    const { fixture, went } = await start();
    await write(fixture, '24 dec 18:00');
    expect(options(fixture)[0]).toBe('WhenAs of Thu 24 Dec, 18:00in 29 days');
    await key(fixture, 'Enter');
    expect(went.mock.lastCall).toEqual([{ at: '2026-12-24T17:00:00.000Z', panel: null }]);
  });

  it('goes there by arrows and Enter, or a click, and back where one was with Escape', async () => {
    const { fixture, went, closed } = await start();
    await write(fixture, 'boat');
    await key(fixture, 'ArrowDown');
    await key(fixture, 'Enter');
    expect([went.mock.lastCall, closed()]).toEqual([[{ page: 8, panel: null }], 1]);
    await write(fixture, 'templates');
    element(fixture).querySelector<HTMLElement>('[role="option"]')?.click();
    await settle(fixture);
    expect(went.mock.lastCall).toEqual([{ page: null, panel: 'templates' }]);
    await key(fixture, 'Escape');
    expect(closed()).toBe(3);
  });

  it('takes what was typed where Enter comes before the list has followed it', async () => {
    const { fixture, went } = await start();
    field(fixture).value = 'templates';
    field(fixture).dispatchEvent(new Event('input'));
    // Nothing has been listed of it yet: what stands first is of no letter at all.
    expect(options(fixture)[0]).toBe('DoNew page');
    await key(fixture, 'Enter');
    expect(went.mock.calls).toEqual([[{ page: null, panel: 'templates' }]]);
  });

  it('offers a reader nothing to make', async () => {
    const { fixture } = await start('reader');
    expect(options(fixture).some((words) => /New page|Import/.test(words ?? ''))).toBe(false);
  });
});
