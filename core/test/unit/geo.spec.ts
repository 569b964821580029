import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { degreesWords, metresBetween, placeFrom, planHtml, roundBelow } from '../../src/geo/index.js';
import { newBlock, type Block } from '../../src/document/index.js';
import { blockHtml, contextOf, worldOf } from '../../src/render/index.js';
import { documentFindingsOf } from '../../src/checks/index.js';

const place = fc.record({
  latitude: fc.double({ min: -85, max: 85, noNaN: true }),
  longitude: fc.double({ min: -179.9, max: 179.9, noNaN: true }),
});
const shown = (block: Block) => blockHtml(block, contextOf(worldOf({ fileOf: (id) => FILES[id] ?? null }))).markup;
const FILES: Record<number, { src: string; name: string; bytes: number; ending: string }> = {
  1: { src: '/-/a.mp4', name: 'Film', bytes: 1, ending: 'mp4' },
  2: { src: '/-/b.vtt', name: 'Words', bytes: 1, ending: 'vtt' },
};
const codesOf = (block: Block) =>
  documentFindingsOf({
    metadata: { title: 'T', description: 'D' },
    blocks: [newBlock('opening', 'o1', { heading: 'H' }), block],
  }).map(({ code }) => code);

describe('a place', () => {
  it.each([
    ['54.0743, -2.8512', 54.0743, -2.8512],
    ['54.0743 -2.8512', 54.0743, -2.8512],
    ['54,0743; -2,8512', 54.0743, -2.8512],
    ['54°4′27.5″ N 2°51′4.3″ W', 54.0743, -2.8512],
    [`N 54° 4.458' W 2° 51.072'`, 54.0743, -2.8512],
    [`2°51'4.3"W, 54°4'27.5"N`, 54.0743, -2.8512],
    ['geo:54.0743,-2.8512?z=15', 54.0743, -2.8512],
  ])('is read as people write it: %s', (text, latitude, longitude) => {
    const found = placeFrom(text);
    expect(found?.latitude).toBeCloseTo(latitude, 3);
    expect(found?.longitude).toBeCloseTo(longitude, 3);
  });
  it.each(['', 'Quay Street 4', '91, 0', '0, 181', '54.07', '54 N 2 N', '54°70′ N 2° W'])('is none of: %s', (text) =>
    expect(placeFrom(text)).toBeNull(),
  );
  it('survives being written in degrees and minutes', () => {
    fc.assert(
      fc.property(place, ({ latitude, longitude }) => {
        const back = placeFrom(`${degreesWords(latitude, 'latitude')} ${degreesWords(longitude, 'longitude')}`);
        expect(Math.abs((back?.latitude ?? 99) - latitude)).toBeLessThan(0.001);
        expect(Math.abs((back?.longitude ?? 999) - longitude)).toBeLessThan(0.001);
      }),
    );
  });
  it('is a nautical mile from one a minute north of it, and as far back', () => {
    const { north, east } = metresBetween({ latitude: 54, longitude: 3 }, { latitude: 54 + 1 / 60, longitude: 3 });
    expect([Math.round(north), Math.round(east)]).toEqual([1853, 0]);
    const over = metresBetween({ latitude: 0, longitude: 179.95 }, { latitude: 0, longitude: -179.95 });
    expect(Math.round(over.east / 100)).toBe(111);
  });
});

describe('a plan', () => {
  it('has every landmark within its edges, wherever that lies, and reads all of them out', () => {
    fc.assert(
      fc.property(
        place,
        fc.constantFrom(500, 5000, 100_000),
        fc.array(place, { maxLength: 5 }),
        (middle, extent, all) => {
          const marks = all.map((one, n) => ({ name: `Mark ${n}`, place: one }));
          const { markup } = planHtml(middle, extent, marks, 'Here');
          for (const { name } of marks) expect(markup).toMatch(new RegExp(`aria-label="Here[^"]*; ${name}, `));
          for (const [, attribute, value] of markup.matchAll(/ (cx|cy|x|y)="(-?[\d.]+)"/g))
            expect(Number(value)).toBeLessThanOrEqual(attribute?.endsWith('x') ? 640 : 400);
          expect(markup).not.toMatch(/NaN|Infinity|="-/);
        },
      ),
    );
  });
  it('has a scale of 1, 2 or 5 times a power of ten', () => {
    expect([0.7, 1, 4.9, 5, 750, 25_000].map(roundBelow)).toEqual([0.5, 1, 2, 5, 500, 20_000]);
  });
  it('is drawn where coordinates can be read, with a link that opens maps; else it is said', () => {
    const block = newBlock('map', 'm1', {
      heading: 'Us',
      place: '54.0743, -2.8512',
      landmarks: [{ name: 'Pier', place: '54.08, -2.85' }],
    });
    expect(shown(block)).toMatch(/<svg class="plan"[^>]*aria-label="Us; Pier, 640 m">/);
    expect(shown(block)).toContain('<a href="geo:54.074300,-2.851200" dir="ltr">54°04.5′ N 2°51.1′ W</a>');
    expect(codesOf(block)).not.toContain('map-place-unreadable');
    const poor = newBlock('map', 'm1', { place: 'by the pier' });
    expect(shown(poor)).not.toContain('<svg');
    expect(codesOf(poor)).toContain('map-place-unreadable');
  });
});

describe('what is loaded from elsewhere', () => {
  const player = '<iframe width="560" src="https://player.example/v/1?a=1&amp;b=2" allowfullscreen></iframe>';
  it('waits folded for a press and says from where; pasted code is read as its address', () => {
    const html = shown(newBlock('frame', 'f1', { address: player, loads: 'press', words: 'Watch' }));
    expect(html).toMatch(
      /<details class="press"><summary>.*Watch<\/span> <span class="play-where">player.example<\/span>/,
    );
    expect(html).toMatch(
      /<\/summary><iframe[^>]* src="https:\/\/player.example\/v\/1\?a=1&amp;b=2"[^>]* loading="lazy"/,
    );
  });
  it('stands there at once where it was before', () => {
    expect(shown(newBlock('frame', 'f1', { address: 'https://player.example/v/1' }))).not.toContain('<details');
  });
});

describe('a film', () => {
  it('has its captions, in their language; one without is worth fixing', () => {
    const block = newBlock('video', 'v1', { file: { id: 1 }, captions: { id: 2 }, captionsIn: 'de' });
    expect(shown(block)).toContain('<track kind="captions" src="/-/b.vtt" srclang="de" label="Deutsch" default>');
    expect(codesOf(block)).not.toContain('film-captions');
    expect(codesOf(newBlock('video', 'v1', { file: { id: 1 } }))).toContain('film-captions');
  });
});
