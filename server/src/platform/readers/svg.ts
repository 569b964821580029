import createPurifier from 'dompurify';
import { JSDOM } from 'jsdom';

let purifier: ReturnType<typeof createPurifier> | null = null;

/** A drawing without anything that runs, loads or leads elsewhere; `null` where it is no drawing, or a broken one. */
export function cleanSvg(text: string): string | null {
  const { window } = new JSDOM('');
  const drawing = new window.DOMParser().parseFromString(text, 'image/svg+xml');
  if (drawing.documentElement.localName !== 'svg' || drawing.querySelector('parsererror')) return null;
  if (!purifier) {
    purifier = createPurifier(window);
    purifier.addHook('uponSanitizeAttribute', (_node, attribute) => {
      // Within the drawing itself is the only place it may point to.
      const isReference = /^(xlink:)?href$|^src$/i.test(attribute.attrName);
      if (isReference && !/^\s*(#|data:image\/(png|jpeg|webp);)/i.test(attribute.attrValue)) attribute.keepAttr = false;
      if (/url\(\s*["']?(?!#)/i.test(attribute.attrValue)) attribute.keepAttr = false;
    });
    purifier.addHook('uponSanitizeElement', (node) => {
      if (node.nodeName.toLowerCase() === 'style' && /@import|url\(\s*["']?(?!#)/i.test(node.textContent ?? ''))
        node.textContent = '';
    });
  }
  const kept = purifier.sanitize(drawing.documentElement.outerHTML, {
    USE_PROFILES: { svg: true, svgFilters: true },
    ADD_TAGS: ['use'],
    FORBID_TAGS: ['a', 'foreignObject', 'script'],
    RETURN_DOM: true,
  }) as unknown as Element;
  const svg = kept.querySelector('svg');
  return svg && new window.XMLSerializer().serializeToString(svg);
}
