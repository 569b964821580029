/** Text of a file's bytes, and the encoding it was taken to have. */
export interface DecodedText {
  readonly text: string;
  readonly encoding: 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
}

/**
 * Decodes a text file: by its byte order mark where it has one (Unicode 15, section 23.8), UTF-16 where every other byte
 * at its start is zero, UTF-8 where it is that, and Windows-1252 otherwise. Line ends become `\n`.
 */
export function decodeText(bytes: Uint8Array): DecodedText {
  const encoding = encodingOf(bytes);
  const text = new TextDecoder(encoding).decode(bytes);
  return { encoding, text: text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n') };
}

function encodingOf(bytes: Uint8Array): DecodedText['encoding'] {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  const head = bytes.subarray(0, 64);
  if (head.length >= 4) {
    if (head.every((byte, index) => index % 2 === 0 || byte === 0)) return 'utf-16le';
    if (head.every((byte, index) => index % 2 === 1 || byte === 0)) return 'utf-16be';
  }
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** What separates the cells of a table in a text: the most frequent of comma, semicolon and tab in its first line, outside quotes. */
export function delimiterOf(text: string): ',' | ';' | '\t' {
  const head = (text.split('\n', 1)[0] ?? '').replace(/"[^"]*"/g, '');
  const counts = ([',', ';', '\t'] as const).map((one) => [one, head.split(one).length] as const);
  return counts.reduce((best, next) => (next[1] > best[1] ? next : best))[0];
}
