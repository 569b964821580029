const INSIDE = 'max(var(--gutter),calc((100vw - var(--page))/2))';

/** What headers, footers and bands look like; blocks in them take no room of their own. */
export const FRAME_STYLE = `
.part{display:flex;flex-wrap:wrap;align-items:center;gap:.75rem 1.75rem;padding:.9rem ${INSIDE}}
.in-part{min-width:0}
.in-part>:is(.button-row,.prose,.contact,.link-list,.logos,.countdown,.divider,.apart){padding:0;margin:0;max-width:none;background:none}
.in-part>.countdown .count{margin-top:0!important}.band .in-part>.countdown{display:flex;flex-wrap:wrap;gap:.25rem 1.25rem;align-items:center;justify-content:center}.band .count b{font:inherit;font-weight:700;display:inline}.in-part h2{font-size:1rem;margin:0 0 .5rem}.band h2{margin:0}
.in-part p{margin:0 0 .5em}.in-part p:last-child{margin-bottom:0}
.site-header{position:relative;z-index:2}
.site-header.as-row .part>:first-child,.site-header.as-over .part>:first-child{margin-inline-end:auto}
.site-header.as-rows .part>:first-child{flex-basis:100%}
.site-header.as-centred .part{flex-direction:column;text-align:center}.site-header.as-centred .menu.as-row>ul{justify-content:center}
.site-header.as-over:has(+main>section:first-child .opening.over){position:absolute;inset-inline:0;--ink:var(--on-deep);--quiet:var(--on-deep);--ground:var(--deep);--accent:var(--on-deep);color:var(--on-deep)}
.site-footer{border-top:1px solid color-mix(in srgb,var(--ink) 14%,transparent);font-size:var(--small)}
.site-footer .part{padding-block:2.5rem 3rem;align-items:flex-start}
.site-footer.as-columns .part{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(100%,12rem),1fr));gap:2rem 2.5rem}
.site-footer.as-columns .in-part:is(.of-legalLine,.of-linkColumns,.of-divider,.of-piece){grid-column:1/-1}.site-footer.as-row .in-part:is(.of-linkColumns,.of-piece){flex:1 1 24rem}
.site-footer.as-row .part>:last-child{margin-inline-start:auto}
.site-footer.as-centred .part{flex-direction:column;align-items:center;text-align:center}
.band{font-size:var(--small);background:var(--tint);color:var(--ink)}
.band .part{padding-block:.6rem;justify-content:center;text-align:center}
.band.as-warning{box-shadow:inset 0 3px 0 var(--accent)}
.band.as-urgent{background:var(--deep);color:var(--on-deep);--ink:var(--on-deep);--quiet:var(--on-deep);--accent:var(--on-deep);--ground:var(--deep)}
.band{position:relative}
.band-closed{position:absolute;inset-block-start:50%;inset-inline-end:.75rem;width:2rem;height:2rem;margin:-1rem 0 0;appearance:none;cursor:pointer;color:inherit;background:linear-gradient(currentColor,currentColor) center/1rem 2px no-repeat,linear-gradient(currentColor,currentColor) center/2px 1rem no-repeat;transform:rotate(45deg)}
.band:has(.band-closed) .part{padding-inline-end:max(3.25rem,calc((100vw - var(--page))/2))}
.band:has(.band-closed:checked){display:none}
.stays{position:sticky;top:0;z-index:4;background:var(--ground)}
.stays-below{position:sticky;bottom:0;z-index:3;background:var(--ground)}
.stays .site-header:not(.as-over){box-shadow:0 1px 0 color-mix(in srgb,var(--ink) 14%,transparent)}
.stays.lower{top:-1rem}.stays.lower .site-header .part{padding-block:1.7rem .7rem}
.stays .site-header.as-over{position:static;background:var(--deep);--ink:var(--on-deep);--quiet:var(--on-deep);--ground:var(--deep);--accent:var(--on-deep);color:var(--on-deep)}
html:has(.stays){scroll-padding-top:calc(var(--room-above,6rem) + .5rem)}
html:has(.stays-below){scroll-padding-bottom:calc(var(--room-below,6rem) + .5rem)}
@media(prefers-reduced-motion:no-preference){.stays.returns{transition:transform .2s}}
.stays.returns.away{transform:translateY(-100%)}
@media(max-height:26rem){.stays,.stays-below{position:static}}
@media(max-width:47.99rem){:is(.site-header,.site-footer,.band,.in-part,.in-part section).only-wide{display:none}}
@media(min-width:48rem){:is(.site-header,.site-footer,.band,.in-part,.in-part section).only-narrow{display:none}}

.choices{position:fixed;z-index:6;inset:auto 0 0;margin:0 auto;box-sizing:border-box;width:min(100%,44rem);max-height:90vh;overflow-y:auto;padding:1.25rem var(--gutter) 1.4rem;background:var(--ground);color:var(--ink);border:1px solid color-mix(in srgb,var(--ink) 30%,transparent);border-bottom:0;border-radius:var(--corner) var(--corner) 0 0;box-shadow:0 -.5rem 2rem -.5rem rgb(0 0 0/30%);font-size:var(--small);text-align:start}
.choices[hidden],.choices-again[hidden]{display:none}.choices h2{font-size:1.0625rem;margin:0 0 .4rem}.choices p,.choices ul{margin:0 0 .6rem}.choices ul{padding-inline-start:1.2em}.choices ul:has(input){list-style:none;padding:0}.choices label{display:flex;gap:.6em;align-items:center;min-height:1.75rem}.choices input{width:1.15rem;height:1.15rem;margin:0;accent-color:var(--accent)}
.choices div{display:flex;flex-wrap:wrap;gap:.6rem;margin-top:.9rem}.choices button{flex:1 1 11rem;min-height:2.75rem;padding:.5rem .9rem;font:inherit;font-weight:600;color:var(--on-accent);background:var(--accent);border:0;border-radius:var(--corner);cursor:pointer}
.choices-again{margin:0;padding:.5rem var(--gutter);text-align:center;font-size:var(--small)}.choices-again button{font:inherit;color:inherit;background:none;border:0;padding:.4rem;text-decoration:underline;cursor:pointer;min-height:1.75rem}
@media print{.choices,.choices-again{display:none}.stays,.stays-below{position:static}.band-closed{display:none}.site-header .menu,.band{display:none}}`;
