import createPurifier from 'dompurify';

/*
 * Where the browser makes elements of a text, it takes only what one of these policies has let through (Trusted Types):
 * texts of data never become elements by mistake.
 */
interface Policy {
  createHTML(text: string): unknown;
}
interface Factory {
  createPolicy(
    name: string,
    rules: { createHTML?: (text: string) => string; createScriptURL?: (url: string) => string },
  ): Policy;
}

const factory = (globalThis as { trustedTypes?: Factory }).trustedTypes;
const same = (text: string) => text;
let page: Policy | null = null;

/** Markup for where no script runs: our renderer's pages in the sandboxed canvas, and texts that are only read as HTML. */
export function inertMarkup(text: string): string {
  page ??= factory?.createPolicy('domatium-inert', { createHTML: same }) ?? { createHTML: same };
  // Browsers without Trusted Types take texts; the others take this as one.
  return page.createHTML(text) as string;
}

/** Whatever else makes elements of texts, packages above all, gets them cleaned; scripts and workers are our own files alone. */
export function guardElements(): void {
  const purifier = createPurifier(window);
  factory?.createPolicy('default', {
    createHTML: (text) => (/[<&]/.test(text) ? purifier.sanitize(text, { RETURN_TRUSTED_TYPE: false }) : text),
    createScriptURL: (url) => {
      const { origin, protocol } = new URL(url, location.href);
      if (origin !== location.origin || !/^(https?|blob):$/.test(protocol)) throw new TypeError('Not a script of ours');
      return url;
    },
  });
}
