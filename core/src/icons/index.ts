import { html, type Html } from '../html/index.js';
import { ICONS } from './set.js';

export type IconName = keyof typeof ICONS;

export const isIcon = (name: unknown): name is IconName => typeof name === 'string' && Object.hasOwn(ICONS, name);

/** The icons by their names, each with its label. */
export const ICON_LABELS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(ICONS).map(([name, { label }]) => [name, label]),
);

/** The paths an icon is drawn with, on a field of 16 by 16. */
export const iconPaths = (name: IconName): readonly string[] => ICONS[name].path.split('|');

/** An icon beside words that say the same: it is not read out. Nothing where there is none of that name. */
export const iconHtml = (name: unknown): Html | null =>
  isIcon(name)
    ? html`<svg class="icon" viewBox="0 0 16 16" fill="currentColor" aria-hidden="true">${iconPaths(name).map((path) => html`<path d="${path}"></path>`)}</svg>`
    : null;
