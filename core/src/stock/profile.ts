import { isRecord, type Fault, type Result } from '../fields/result.js';
import { wrong } from '../words/faults.js';
import type { PictureId } from '../plan/ids.js';

/** What a site is to its visitors. */
export interface SiteProfile {
  /** The name that stands at the head and foot of its pages, and where they are shared. */
  readonly brand: string;
  /** The language of its pages, as a BCP 47 tag. */
  readonly language: string;
  /** The key of its theme. */
  readonly theme: string;
  /** The picture its small icon is made of, and the one that is shown where it is shared; `null` for none. */
  readonly iconId: PictureId | null;
  readonly shareId: PictureId | null;
}

const MAX_BRAND = 80;
/** Language, script, region and variants of BCP 47 (RFC 5646, section 2.1), without extensions. */
const LANGUAGE = /^[a-z]{2,3}(-[A-Z][a-z]{3})?(-([A-Z]{2}|\d{3}))?(-([a-z\d]{5,8}|\d[a-z\d]{3}))*$/;

/** A profile from JSON; its theme and pictures are looked up by whoever knows the portfolio. */
export function profileFromJSON(json: unknown): Result<SiteProfile> {
  const { brand, language, theme, iconId = null, shareId = null } = isRecord(json) ? json : {};
  const faults: Fault[] = [];
  const name = typeof brand === 'string' ? brand.trim() : '';
  if (!name || name.length > MAX_BRAND) faults.push({ path: 'brand', ...wrong('brand-invalid', { most: MAX_BRAND }) });
  if (typeof language !== 'string' || !LANGUAGE.test(language))
    faults.push({ path: 'language', ...wrong('language-invalid') });
  if (typeof theme !== 'string' || !theme || theme.length > 40)
    faults.push({ path: 'theme', ...wrong('theme-missing') });
  for (const [path, id] of Object.entries({ iconId, shareId }))
    if (id !== null && !(Number.isSafeInteger(id) && (id as number) > 0))
      faults.push({ path, ...wrong('picture-missing') });
  return faults.length
    ? { ok: false, faults }
    : { ok: true, value: { brand: name, language, theme, iconId, shareId } as SiteProfile };
}
