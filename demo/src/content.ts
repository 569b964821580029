import { readFileSync } from 'node:fs';
import type { Sketch } from './build.js';

/** The pages of a site that are written by hand; those of a kind are made in `ferries.ts` and `places.ts`. */
export function sketchesOf(site: string): Sketch[] {
  return JSON.parse(readFileSync(new URL(`./content/${site}.json`, import.meta.url), 'utf8')) as Sketch[];
}
