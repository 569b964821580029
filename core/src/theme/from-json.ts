import { isRecord, type Fault, type Result } from '../fields/result.js';
import { wrong, type Wrong } from '../words/faults.js';
import { FONTS } from './fonts.js';
import { BUTTONS, PICTURES, ROLES, SPACINGS, type OwnFont, type Palette, type Theme } from './themes.js';

const MAX_THEME_CSS = 50_000;
const MOST_FONTS = 6;

/** Notes what is wrong at a place. */
type Report = (path: string, what: Wrong) => void;

/** A theme from JSON; every fault names its place. */
export function themeFromJSON(json: unknown): Result<Theme> {
  if (!isRecord(json)) return { ok: false, faults: [{ path: 'theme', ...wrong('theme-unreadable') }] };
  const faults: Fault[] = [];
  const fault: Report = (path, what) => void faults.push({ path, ...what });
  const text = (key: string, max: number): string => {
    const value = json[key];
    if (typeof value === 'string' && value.length <= max) return value;
    fault(key, wrong('at-most-characters', { most: max }));
    return '';
  };
  const number = (key: string, least: number, most: number): number => {
    const value = json[key];
    if (typeof value === 'number' && value >= least && value <= most) return value;
    fault(key, wrong('not-a-number', { least, most }));
    return least;
  };
  const oneOf = <T extends string>(key: string, all: readonly T[]): T => {
    const value = json[key] as T;
    if (all.includes(value)) return value;
    fault(key, wrong('not-one-of', { all }));
    return all[0] as T;
  };
  const length = (key: string, pattern: RegExp, example: string): string => {
    const value = json[key];
    if (typeof value === 'string' && pattern.test(value)) return value;
    fault(key, wrong('not-in-form', { example }));
    return example;
  };
  const ownFonts = ownFontsFromJSON(json['ownFonts'], fault);
  const family = (key: string): string => {
    const value = json[key];
    if (typeof value === 'string' && (Object.hasOwn(FONTS, value) || ownFonts.some((font) => font.key === value)))
      return value;
    fault(key, wrong('font-unknown'));
    return 'hanken';
  };
  const theme: Theme = {
    label: text('label', 60) || 'Theme',
    display: family('display'),
    text: family('text'),
    displayWeight: number('displayWeight', 100, 900),
    displaySpacing: length('displaySpacing', /^-?0(\.\d{1,4})?(em)?$/, '-0.02em'),
    scale: number('scale', 1.05, 1.6),
    corner: length('corner', /^\d{1,2}(\.\d)?px$/, '6px'),
    spacing: oneOf('spacing', SPACINGS),
    buttons: oneOf('buttons', BUTTONS),
    pictures: oneOf('pictures', PICTURES),
    colours: paletteFromJSON(json['colours'], 'colours', fault),
    dark: json['dark'] ? paletteFromJSON(json['dark'], 'dark', fault) : null,
    css: text('css', MAX_THEME_CSS),
    ownFonts,
  };
  return faults.length ? { ok: false, faults } : { ok: true, value: theme };
}

function paletteFromJSON(json: unknown, path: string, fault: Report): Palette {
  const record = isRecord(json) ? json : {};
  return Object.fromEntries(
    ROLES.map((role) => {
      const value = record[role];
      if (typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value)) return [role, value.toLowerCase()];
      fault(`${path}.${role}`, wrong('colour-invalid'));
      return [role, '#000000'];
    }),
  ) as unknown as Palette;
}

function ownFontsFromJSON(json: unknown, fault: Report): OwnFont[] {
  if (!Array.isArray(json) || json.length > MOST_FONTS) {
    fault('ownFonts', wrong('too-many-fonts', { most: MOST_FONTS }));
    return [];
  }
  return json.flatMap((one: unknown, index): OwnFont[] => {
    const { key, family, file, kind, fileId, metrics } = isRecord(one) ? one : {};
    const measures = isRecord(metrics) ? [metrics['ascent'], metrics['descent'], metrics['advance']] : [];
    const isMeasured =
      measures.length === 3 && measures.every((value) => typeof value === 'number' && value > 0 && value < 4);
    if (
      typeof key === 'string' &&
      /^own-\d{1,12}$/.test(key) &&
      typeof family === 'string' &&
      /^[^"\\<>\n]{1,80}$/.test(family) &&
      typeof file === 'string' &&
      /^[0-9a-f]{64}\.woff2$/.test(file) &&
      (kind === 'sans' || kind === 'serif') &&
      Number.isSafeInteger(fileId) &&
      isMeasured
    ) {
      const [ascent, descent, advance] = measures as [number, number, number];
      return [
        { key, family, file, kind, fileId: fileId as number, package: null, metrics: { ascent, descent, advance } },
      ];
    }
    fault(`ownFonts[${index}]`, wrong('font-unreadable'));
    return [];
  });
}
