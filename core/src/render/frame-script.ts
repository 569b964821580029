/**
 * What a frame needs a script for, and is right without: the room that parts in view take, so that nothing one jumps to
 * is behind them; a header that goes on the way down; and bands that this visitor has closed, kept in their browser only.
 * Runs before the page is painted, so that no closed band is seen.
 */
export const frameScript = `{const d=document,k="closed-bands",g=()=>{try{return JSON.parse(localStorage[k]||"[]")}catch{return[]}},h=g().filter(x=>/^[\\da-f]{8}$/.test(x));if(h.length){const s=new CSSStyleSheet;s.replaceSync(h.map(x=>'[data-band="'+x+'"]{display:none}').join(""));d.adoptedStyleSheets=[...d.adoptedStyleSheets,s]}d.addEventListener("change",({target:t})=>{if(t.matches(".band-closed"))try{localStorage[k]=JSON.stringify([t.closest("[data-band]").dataset.band,...g()].slice(0,20))}catch{}});d.addEventListener("DOMContentLoaded",()=>{const r=d.documentElement,q=s=>[...d.querySelectorAll(s)],o=new ResizeObserver(()=>{for(const[s,n]of[[".stays","above"],[".stays-below","below"]])r.style.setProperty("--room-"+n,q(s).reduce((a,e)=>a+e.offsetHeight,0)+"px")});for(const e of q(".stays,.stays-below"))o.observe(e);const a=d.querySelector(".stays.returns");if(a){let y=scrollY;addEventListener("scroll",()=>{const n=scrollY;if(Math.abs(n-y)>8){a.classList.toggle("away",n>y&&n>a.offsetHeight&&!a.contains(d.activeElement));y=n}},{passive:!0});a.addEventListener("focusin",()=>a.classList.remove("away"))}})}`;

/** What one part needs it for. */
export const needsScript = ({ stays, isClosable }: { readonly stays?: string; readonly isClosable?: true }): boolean =>
  stays !== undefined || isClosable === true;
