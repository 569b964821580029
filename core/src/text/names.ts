/** A name between { } in a text: it stands for a value that many texts share. */
const PLACE = /\{([^{}\n]{1,60})\}/g;

/** A name as it is compared: no case, single spaces. */
export const nameKey = (name: string) => name.trim().toLowerCase().replace(/\s+/g, ' ');

/** A text with the names between { } replaced by what they hold; names that nobody knows stay as they are. */
export function fillText(text: string, values: ReadonlyMap<string, string>): string {
  return text.includes('{') ? text.replace(PLACE, (whole, name: string) => values.get(nameKey(name)) ?? whole) : text;
}

/** The names a text asks for, each once. */
export function namesIn(text: string): string[] {
  return text.includes('{') ? [...new Set([...text.matchAll(PLACE)].map(([, name = '']) => nameKey(name)))] : [];
}
