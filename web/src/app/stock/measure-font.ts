import type { FontMetrics } from '@domatium/core/theme';

/** How often letters come in prose, in tenths of a percent, with the space between words. */
const OFTEN = 'e103 t75 a65 o62 i57 n57 s53 r50 h49 l33 d33 u23 c22 m20 f18 w17 g16 p15 y14 b12 v8 k6 x1 j1 q1 z1'
  .split(' ')
  .map((one) => [one.slice(0, 1), Number(one.slice(1))] as const);
const SIZE = 1000;

/** The measures of a font file, as the browser draws it; `null` where it is no font. */
export async function measureFont(
  file: File,
): Promise<{ family: string; kind: 'sans' | 'serif'; metrics: FontMetrics } | null> {
  const family =
    file.name
      .replace(/\.[a-z0-9]+$/i, '')
      .replace(/[^\p{L}\p{N} -]/gu, ' ')
      .trim()
      .slice(0, 60) || 'Own font';
  try {
    const face = await new FontFace('dm-measured', await file.arrayBuffer()).load();
    document.fonts.add(face);
    const context = document.createElement('canvas').getContext('2d');
    if (!context) return null;
    context.font = `${SIZE}px dm-measured`;
    const all = [...OFTEN, [' ', 180] as const];
    const sum = all.reduce((total, [letter, often]) => total + context.measureText(letter).width * often, 0);
    const count = all.reduce((total, [, often]) => total + often, 0);
    const { fontBoundingBoxAscent, fontBoundingBoxDescent } = context.measureText('Hg');
    document.fonts.delete(face);
    return {
      family,
      kind: /serif|roman|garamond|slab|times/i.test(family) && !/sans/i.test(family) ? 'serif' : 'sans',
      metrics: {
        ascent: fontBoundingBoxAscent / SIZE,
        descent: Math.max(0.001, fontBoundingBoxDescent / SIZE),
        advance: sum / count / SIZE,
      },
    };
  } catch {
    return null;
  }
}
