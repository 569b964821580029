/** A host name in ASCII (IDNA through the platform's own URL parser), or an empty text where it is not one. */
export function domainToASCII(name: string): string {
  if (!name || /[\s/\\?#@:%[\]]/.test(name)) return '';
  try {
    return new URL(`http://${name}`).hostname.toLowerCase();
  } catch {
    return '';
  }
}
