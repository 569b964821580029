import { Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { PlaceService } from '../src/app/hub/place.service';
import { pass } from './help';

@Component({ selector: 'dm-blank', template: '' })
class Blank {}

describe('the place', () => {
  it('keeps what a press asked for when another follows before it is there', async () => {
    TestBed.configureTestingModule({
      providers: [
        provideRouter([
          { path: 'pages', component: Blank },
          { path: 'stock', component: Blank },
        ]),
      ],
    });
    const [place, router] = [TestBed.inject(PlaceService), TestBed.inject(Router)];
    void router.navigateByUrl('/pages?scope=site:1');
    await pass(50);

    place.go({ find: 'gift' }, true);
    place.go({ page: 7, scope: null });
    place.go({ sort: 'name:asc' }, true);
    await pass(50);
    expect(router.url).toBe('/pages?find=gift&page=7&sort=name:asc');
    expect([place.find(), place.pageId(), place.scopeKey()]).toEqual(['gift', 7, '']);

    void router.navigateByUrl('/stock?find=x');
    place.go({ panel: 'notice' });
    await pass(50);
    expect(router.url).toBe('/stock?find=x&panel=notice');
  });
});
