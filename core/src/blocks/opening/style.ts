export const style = `
.opening{display:grid;gap:0}
.opening-words{padding:clamp(2.5rem,7vw,6rem) var(--gutter);align-self:center;max-width:44rem}
.opening h1{margin:0 0 1.25rem}
.opening .kicker{margin:0 0 1rem}
.opening .lead{max-width:34em}
.opening .button{margin-top:1.75rem}
.opening-picture img{display:block;width:100%;height:100%;object-fit:cover;aspect-ratio:3/2}
.opening.bare{background:var(--tint)}
.opening.bare .opening-words{max-width:calc(var(--measure) + 2*var(--gutter));width:100%;box-sizing:border-box;margin-inline:auto}
.opening.over{background:var(--deep);color:var(--on-deep)}
.opening.over:not(.bare){display:grid}
.opening.over>*{grid-area:1/1}
.opening.over .kicker{color:inherit}
.opening.over:not(.bare) .opening-words{position:relative;z-index:1;align-self:end;padding-top:clamp(9rem,24vw,20rem);max-width:none;background:linear-gradient(transparent 12%,color-mix(in srgb,var(--deep) 60%,transparent) 50%,color-mix(in srgb,var(--deep) 94%,transparent));width:100%;box-sizing:border-box}
.opening.over .opening-words>*{max-width:38rem}
.opening.over:not(.bare) .opening-picture{min-height:100%;position:relative}
.opening.over:not(.bare) .opening-picture img{position:absolute;inset:0;aspect-ratio:auto}
.opening.over.bare{background:var(--deep)}
.opening.over .button{background:var(--on-deep);color:var(--deep)}
@container(min-width:60rem){
.opening.side:not(.bare){grid-template-columns:minmax(0,1fr) minmax(0,1fr);min-height:min(76vh,42rem)}
.opening.side .opening-words{padding-inline-start:max(var(--gutter),calc((100cqi - var(--page))/2));padding-inline-end:clamp(2rem,5vw,5rem)}
.opening.side.bare .opening-words{padding-inline:var(--gutter)}
.opening.stacked:not(.bare) .opening-words,.opening.over .opening-words{padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}
.opening.stacked .opening-picture img{aspect-ratio:21/9}
}`;
