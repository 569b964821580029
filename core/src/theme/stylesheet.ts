import { BLOCK_TYPES } from '../fields/names.js';
import { blockViews } from '../blocks/views.js';
import { FRAME_STYLE } from '../render/frame-style.js';
import { APPEARANCE_STYLE } from '../render/section.js';
import { veilOf } from './contrast.js';
import { facesOf, familyOf } from './fonts.js';
import { scopedCss } from './own-css.js';
import { fontOf, type Palette, type Theme } from './themes.js';

/** Custom properties, base rules and the style of every block: one stylesheet a theme. `fontHref` finds a font file. */
export function stylesheetOf(theme: Theme, fontHref: (file: string) => string): string {
  return `${propertiesOf(theme)}\n${rulesOf(theme, fontHref)}`;
}

/** All rules of a theme without its colours and measures, which stand in custom properties. */
export function rulesOf(theme: Theme, fontHref: (file: string) => string): string {
  const fonts = [...new Set([fontOf(theme, theme.display), fontOf(theme, theme.text)])];
  return [
    ...fonts.map((font) => facesOf(font, fontHref(font.file))),
    BASE,
    BUTTON_MANNERS[theme.buttons],
    ...BLOCK_TYPES.map((type) => blockViews[type].style),
    APPEARANCE_STYLE,
    FRAME_STYLE,
    PICTURE_MANNERS[theme.pictures],
    PRINT,
    scopedCss(theme.css),
  ]
    .join('\n')
    .replace(/\n+/g, '\n');
}

/** The colours by role, as visitors who ask for dark pages get them, for the canvas. */
export function coloursOf(palette: Palette): string {
  const { ground, ink, quiet, tint, accent, onAccent, deep, onDeep } = palette;
  return `--ground:${ground};--ink:${ink};--quiet:${quiet};--tint:${tint};--accent:${accent};--on-accent:${onAccent};--deep:${deep};--on-deep:${onDeep};--veil:${veilOf(palette)}%;`;
}

const SECTIONS = {
  close: 'clamp(2.5rem,5.5vw,4.75rem)',
  even: 'clamp(3.5rem,8vw,7rem)',
  wide: 'clamp(4rem,10vw,9rem)',
} as const;

/** Colours, type and measures of a theme, as custom properties. */
export function propertiesOf(theme: Theme): string {
  const { colours, dark, scale, corner, displayWeight, displaySpacing, spacing } = theme;
  const step = (power: number, floor: number) => {
    const large = 1.0625 * scale ** power;
    const small = 1.0625 * (1 + (scale - 1) * 0.62) ** power;
    return `clamp(${Math.max(floor, small).toFixed(3)}rem,${(small * 0.72).toFixed(3)}rem + ${((large - small) * 1.9 + 0.55).toFixed(2)}vw,${large.toFixed(3)}rem)`;
  };
  const family = (key: string) => familyOf(fontOf(theme, key));
  return `:root{${dark ? 'color-scheme:light dark;' : ''}${coloursOf(colours)}
--display:${family(theme.display)};--text:${family(theme.text)};--display-weight:${displayWeight};--quote-weight:${Math.min(displayWeight, 520)};--display-spacing:${displaySpacing};
--small:.9375rem;--step-1:${step(1, 1.2)};--step-2:${step(2.2, 1.45)};--step-3:${step(2.9, 1.6)};--step-5:${step(5.1, 2.3)};
--corner:${corner};--measure:39rem;--page:76rem;--gutter:clamp(1.25rem,4vw,3rem);--section:${SECTIONS[spacing]}}${
    dark ? `\n@media(prefers-color-scheme:dark){:root{${coloursOf(dark)}}}` : ''
  }`;
}

/** How buttons are drawn; the base has them filled. */
const BUTTON_MANNERS: Readonly<Record<Theme['buttons'], string>> = {
  filled: '',
  framed:
    '.button:not(.ask *,.over *){background:none;color:var(--accent);box-shadow:inset 0 0 0 2px currentcolor}.button:not(.ask *,.over *):hover{background:var(--accent);color:var(--on-accent);filter:none}',
  round: '.button{border-radius:99px;padding-inline:2em}',
  block: '.button{border-radius:0;padding:1.15em 2.2em;font-family:var(--display);font-weight:var(--display-weight)}',
  underlined:
    '.button{border-radius:0}.button:not(.ask *,.over *){background:none;color:var(--accent);padding:.5em 0;box-shadow:0 2px 0 currentcolor}.button:not(.ask *,.over *):hover{filter:none;box-shadow:0 4px 0 currentcolor}',
};

const SHOWN = '.figure:not(.full) img,.gallery img,.columns img,.people img';
const PICTURE_MANNERS: Readonly<Record<Theme['pictures'], string>> = {
  plain: '',
  soft: `${SHOWN}{border-radius:calc(var(--corner) + 10px)}`,
  framed: `${SHOWN}{box-shadow:0 0 0 .6rem var(--ground),0 0 0 calc(.6rem + 1px) color-mix(in srgb,var(--ink) 30%,transparent);border-radius:0}`,
  raised: `${SHOWN}{box-shadow:0 1.2rem 2.4rem -1rem color-mix(in srgb,var(--ink) 45%,transparent)}`,
};

/** On paper: no grounds that eat ink, no block cut in two, and where links lead. */
const PRINT = `@media print{
.masthead,.colophon{padding-inline:0}
section{break-inside:avoid-page}
.opening,.ask,.opening.over,.opening.bare,.on-tint,.on-strong,.on-picture{background:none!important;color:#000!important;--ink:#000;--quiet:#000;--accent:#000}
.behind{display:none}
.row{break-inside:auto}
.opening.over *,.ask *{color:#000!important}
.opening.over .opening-picture,.apart,.player{display:none}
.button{background:none!important;color:#000!important;padding:0;text-decoration:underline}
main a[href^="http"]::after{content:" (" attr(href) ")";font-size:.8em;overflow-wrap:anywhere}
details>*{display:block!important}
details::details-content{content-visibility:visible!important;block-size:auto!important}}`;

const BASE = `
*,::before,::after{box-sizing:border-box}
html{-webkit-text-size-adjust:100%;text-size-adjust:100%}
body{margin:0;background:var(--ground);color:var(--ink);font:400 1.0625rem/1.6 var(--text);overflow-wrap:anywhere;font-kerning:normal}
h1,h2,h3{font-family:var(--display);font-weight:var(--display-weight);letter-spacing:var(--display-spacing);text-wrap:balance}
h1{font-size:var(--step-5);line-height:1.04}
h2{font-size:var(--step-3);line-height:1.14}
h3{font-size:var(--step-1);line-height:1.25;letter-spacing:0}
p{text-wrap:pretty}
picture{display:contents}
.icon{width:1.1em;height:1.1em;vertical-align:-.16em;flex:none}
.button .icon{margin-inline-end:.55em}
sup,sub{font-size:.72em;line-height:0}
.said{margin:1.4em 0;padding-inline-start:1.1em;border-inline-start:3px solid var(--accent)}
.said>:first-child{margin-top:0}.said>:last-child{margin-bottom:0!important}
.inset img{display:inline-block;width:auto!important;max-width:min(100%,12rem)!important;max-height:8rem;height:auto;vertical-align:middle;aspect-ratio:auto!important}
table{overflow-wrap:break-word}
a{color:var(--accent);text-underline-offset:.18em;text-decoration-thickness:.07em}
a:focus-visible{outline:3px solid var(--accent);outline-offset:3px}
.kicker{font-size:var(--small);font-weight:600;color:var(--accent);letter-spacing:.01em}
.lead{font-size:var(--step-1);line-height:1.5}
.lead p{margin:0 0 .6em}
.unseen{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap}
.button{display:inline-block;max-width:100%;padding:.85em 1.6em;background:var(--accent);color:var(--on-accent);border-radius:var(--corner);font-weight:600;text-decoration:none;line-height:1.2}
.button:hover{filter:brightness(1.08)}
.masthead{display:flex;align-items:center;justify-content:space-between;gap:1rem;padding:1.25rem max(var(--gutter),calc((100vw - var(--page))/2))}
.masthead a,.masthead span{font:var(--display-weight) 1.1875rem/1.2 var(--display);letter-spacing:var(--display-spacing);color:var(--ink);text-decoration:none}
.colophon{padding:2.5rem max(var(--gutter),calc((100vw - var(--page))/2)) 3rem;color:var(--quiet);font-size:var(--small);border-top:1px solid color-mix(in srgb,var(--ink) 14%,transparent)}
.colophon p{margin:0}
section:has(>.ask)+.colophon,main:has(>section:last-child>.ask)+.colophon{border-top:0}
main>section:first-child:last-child .opening.bare{min-height:70vh}
@media(prefers-reduced-motion:no-preference){html{scroll-behavior:smooth}}`;
