const INSIDE = 'max(var(--gutter),calc((100vw - var(--page))/2))';

/** What headers, footers and bands look like; blocks in them take no room of their own. */
export const FRAME_STYLE = `
.part{display:flex;flex-wrap:wrap;align-items:center;gap:.75rem 1.75rem;padding:.9rem ${INSIDE}}
.in-part{min-width:0}
.in-part>:is(.button-row,.text,.contact,.link-list,.logos,.count,.divider){padding:0;margin:0;max-width:none}
.in-part p{margin:0 0 .5em}.in-part p:last-child{margin-bottom:0}
.site-header{position:relative;z-index:2}
.site-header.as-row .part>:first-child,.site-header.as-over .part>:first-child{margin-inline-end:auto}
.site-header.as-rows .part>:first-child{flex-basis:100%}
.site-header.as-centred .part{flex-direction:column;text-align:center}.site-header.as-centred .menu.as-row>ul{justify-content:center}
.site-header.as-over:has(+main>section:first-child .opening.over){position:absolute;inset-inline:0;--ink:var(--on-deep);--ground:var(--deep);--accent:var(--on-deep);color:var(--on-deep)}
.site-footer{border-top:1px solid color-mix(in srgb,var(--ink) 14%,transparent);font-size:var(--small)}
.site-footer .part{padding-block:2.5rem 3rem;align-items:flex-start}
.site-footer.as-columns .part{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(100%,12rem),1fr));gap:2rem 2.5rem}
.site-footer.as-columns .in-part:is(.of-legalLine,.of-divider){grid-column:1/-1}
.site-footer.as-row .part>:last-child{margin-inline-start:auto}
.site-footer.as-centred .part{flex-direction:column;align-items:center;text-align:center}
.band{font-size:var(--small);background:var(--tint);color:var(--ink)}
.band .part{padding-block:.6rem;justify-content:center;text-align:center}
.band.as-warning{box-shadow:inset 0 3px 0 var(--accent)}
.band.as-urgent{background:var(--deep);color:var(--on-deep);--ink:var(--on-deep);--accent:var(--on-deep);--ground:var(--deep)}
@media print{.site-header .menu,.band{display:none}}`;
