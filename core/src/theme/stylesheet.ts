import { BLOCK_TYPES, blockTypes } from '../blocks/registry.js';
import { FONTS, type FontFamily, type Theme } from './themes.js';

/** Custom properties, base rules and the style of every block: one stylesheet a theme. `fontHref` finds a font file. */
export function stylesheetOf(theme: Theme, fontHref: (file: string) => string): string {
  const families = [...new Set<FontFamily>([theme.display, theme.text])];
  const faces = families.map((key) => {
    const { family, file } = FONTS[key];
    return `@font-face{font-family:"${family}";src:url("${fontHref(file)}") format("woff2");font-weight:100 900;font-display:swap}`;
  });
  return [...faces, propertiesOf(theme), BASE, ...BLOCK_TYPES.map((type) => blockTypes[type].style)]
    .join('\n')
    .replace(/\n+/g, '\n');
}

function propertiesOf({ colours, scale, corner, display, text, displayWeight, displaySpacing }: Theme): string {
  const step = (power: number, floor: number) => {
    const large = 1.0625 * scale ** power;
    const small = 1.0625 * (1 + (scale - 1) * 0.62) ** power;
    return `clamp(${Math.max(floor, small).toFixed(3)}rem,${(small * 0.72).toFixed(3)}rem + ${((large - small) * 1.9 + 0.55).toFixed(2)}vw,${large.toFixed(3)}rem)`;
  };
  const family = (key: FontFamily) => `"${FONTS[key].family}",${FONTS[key].fallback}`;
  return `:root{--ground:${colours.ground};--ink:${colours.ink};--quiet:${colours.quiet};--tint:${colours.tint};--accent:${colours.accent};--on-accent:${colours.onAccent};--deep:${colours.deep};--on-deep:${colours.onDeep};
--display:${family(display)};--text:${family(text)};--display-weight:${displayWeight};--quote-weight:${Math.min(displayWeight, 520)};--display-spacing:${displaySpacing};
--small:.9375rem;--step-1:${step(1, 1.2)};--step-2:${step(2.2, 1.45)};--step-3:${step(2.9, 1.6)};--step-5:${step(5.1, 2.3)};
--corner:${corner};--measure:39rem;--page:76rem;--gutter:clamp(1.25rem,4vw,3rem);--section:clamp(3.5rem,8vw,7rem)}`;
}

const BASE = `
*,::before,::after{box-sizing:border-box}
html{-webkit-text-size-adjust:100%;text-size-adjust:100%}
body{margin:0;background:var(--ground);color:var(--ink);font:400 1.0625rem/1.6 var(--text);overflow-wrap:break-word;font-kerning:normal}
h1,h2,h3{font-family:var(--display);font-weight:var(--display-weight);letter-spacing:var(--display-spacing);text-wrap:balance}
h1{font-size:var(--step-5);line-height:1.04}
h2{font-size:var(--step-3);line-height:1.14}
h3{font-size:var(--step-1);line-height:1.25;letter-spacing:0}
p{text-wrap:pretty}
a{color:var(--accent);text-underline-offset:.18em;text-decoration-thickness:.07em}
a:focus-visible{outline:3px solid var(--accent);outline-offset:3px}
.kicker{font-size:var(--small);font-weight:600;color:var(--accent);letter-spacing:.01em}
.lead{font-size:var(--step-1);line-height:1.5}
.lead p{margin:0 0 .6em}
.unseen{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap}
.button{display:inline-block;padding:.85em 1.6em;background:var(--accent);color:var(--on-accent);border-radius:var(--corner);font-weight:600;text-decoration:none;line-height:1.2}
.button:hover{filter:brightness(1.08)}
.masthead{display:flex;align-items:center;justify-content:space-between;gap:1rem;padding:1.25rem max(var(--gutter),calc((100vw - var(--page))/2))}
.masthead a,.masthead span{font:var(--display-weight) 1.1875rem/1.2 var(--display);letter-spacing:var(--display-spacing);color:var(--ink);text-decoration:none}
.colophon{padding:2.5rem max(var(--gutter),calc((100vw - var(--page))/2)) 3rem;color:var(--quiet);font-size:var(--small);border-top:1px solid color-mix(in srgb,var(--ink) 14%,transparent)}
.colophon p{margin:0}
section:has(>.ask)+.colophon,main:has(>section:last-child>.ask)+.colophon{border-top:0}
main>section:first-child:last-child .opening.bare{min-height:70vh}
@media(prefers-reduced-motion:no-preference){html{scroll-behavior:smooth}}`;
