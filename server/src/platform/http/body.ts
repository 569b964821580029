import type { IncomingMessage } from 'node:http';
import { Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/http';

const KILOBYTE = 1024;
/** How much JSON a request may hold: bytes, and values of any kind. */
export interface BodyLimit {
  readonly bytes: number;
  readonly values: number;
}
/** Whoever is not known yet has little to say; a draft is the longest: two megabytes of text pasted are some times that as JSON. */
export const LIMITS = {
  unknown: { bytes: 64 * KILOBYTE, values: 1_000 },
  known: { bytes: 2_048 * KILOBYTE, values: 200_000 },
  long: { bytes: 16_384 * KILOBYTE, values: 1_000_000 },
} as const satisfies Record<string, BodyLimit>;
/** Whoever sends a request of JSON slower than this has gone. */
const PATIENCE = 60_000;
const MAX_DEPTH = 60;

/** Reads a request's body as JSON: nothing is inflated, and its size, depth and number of values are looked at before it is parsed. */
export async function readJson(request: IncomingMessage, { bytes: limit, values: most }: BodyLimit): Promise<unknown> {
  const {
    'content-encoding': encoding = 'identity',
    'content-length': length,
    'transfer-encoding': chunks,
  } = request.headers;
  if (encoding.toLowerCase() !== 'identity') throw new Refused('not-supported', say.sendTheRequestAsItIs);
  if (length === undefined && chunks === undefined) return {};
  if (Number(length ?? 0) > limit) throw tooLarge(limit);
  const parts: Buffer[] = [];
  const timer = setTimeout(() => request.destroy(), PATIENCE);
  let bytes = 0;
  try {
    for await (const part of request as AsyncIterable<Buffer>) {
      bytes += part.length;
      if (bytes > limit) throw tooLarge(limit);
      parts.push(part);
    }
  } finally {
    clearTimeout(timer);
  }
  const body = Buffer.concat(parts);
  if (!body.length) return {};
  await refuseExcess(body, most);
  try {
    return JSON.parse(body.toString('utf8')) as unknown;
  } catch {
    throw new Refused('unreadable', say.theRequestCantBeReadIt);
  }
}

const tooLarge = (limit: number) =>
  new Refused(
    'too-large',
    say.thatIsMoreThanCanBe(limit >= 1_048_576 ? say.mb(limit / 1_048_576) : say.kB(limit / KILOBYTE)),
  );

const [QUOTE, BACKSLASH, COMMA, OPEN, CLOSE, BRACE, BRACE_END] = [34, 92, 44, 91, 93, 123, 125];

/** So many bytes are looked through before others get their turn. */
const PIECE = 256 * KILOBYTE;

/** Counts values and depth of a text of JSON byte by byte, without making anything of it. */
async function refuseExcess(body: Buffer, most: number): Promise<void> {
  let [depth, values, isText] = [0, 1, false];
  for (let at = 0; at < body.length; at++) {
    const byte = body[at];
    if (at % PIECE === 0) await new Promise((done) => setImmediate(done));
    if (isText) {
      if (byte === BACKSLASH) at++;
      else if (byte === QUOTE) isText = false;
    } else if (byte === QUOTE) isText = true;
    else if (byte === COMMA) values++;
    else if (byte === OPEN || byte === BRACE) {
      values++;
      if (++depth > MAX_DEPTH) throw new Refused('too-deep', say.theRequestIsNestedMoreThan(MAX_DEPTH));
    } else if (byte === CLOSE || byte === BRACE_END) depth--;
    if (values > most)
      throw new Refused('too-many-values', say.theRequestHoldsMoreThanValues(most.toLocaleString('en')));
  }
}
