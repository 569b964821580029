export const style = `
.ask.deep{background:var(--deep);color:var(--on-deep)}.ask.tint{background:var(--tint)}
.ask.framed{padding:calc(var(--section)*.5) var(--gutter)}.ask.framed .ask-inner{max-width:var(--page);border:2px solid var(--ink);border-radius:calc(2*var(--corner));padding:clamp(1.75rem,5vw,3.5rem)}
.ask-inner{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:calc(var(--section)*.9) var(--gutter);display:flex;flex-wrap:wrap;gap:2rem 4rem;align-items:center;justify-content:space-between}
.ask h2{margin:0 0 .5rem;max-width:18em}
.ask p{margin:0;max-width:36em}
.ask.deep .button{background:var(--on-deep);color:var(--deep)}
.form{display:flex;flex-wrap:wrap;gap:.75rem;align-items:end;flex:1 1 22rem;max-width:34rem}
.form label{display:grid;gap:.4rem;font-size:var(--small);flex:1 1 14rem}
.form input{font:inherit;font-size:1.0625rem;line-height:1.2;padding:.85em 1em;border:1px solid currentColor;border-radius:var(--corner);background:transparent;color:inherit;min-width:0}
.form input:focus-visible,.form .button:focus-visible{outline:3px solid currentColor;outline-offset:3px}
.form .button{font:inherit;font-weight:600;line-height:1.2;border:1px solid transparent;cursor:pointer}`;
