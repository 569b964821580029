import { AsyncLocalStorage } from 'node:async_hooks';
import { pino, stdTimeFunctions } from 'pino';
import { swallowedErrors } from './figures.js';

/** What a line of the log belongs to; never what people wrote. */
export interface LogContext {
  readonly request?: string;
  readonly portfolio?: number;
  readonly job?: string;
  readonly release?: number;
}

/** The same trouble is written again only after so long, in milliseconds: a database that is away fails thousands of times. */
const AGAIN = 30_000;
const MOST_REMEMBERED = 500;
const MOST_WORDS = 300;

const running = new AsyncLocalStorage<LogContext>();
let processName = 'command';

/** JSON lines to standard output, each with its process and with what it belongs to. */
export const log = pino({
  level: process.env['DOMATIUM_LOG_LEVEL'] ?? 'info',
  base: {},
  timestamp: stdTimeFunctions.isoTime,
  mixin: () => ({ process: processName, ...running.getStore() }),
  serializers: { err: describeError },
});

/** Says which process writes. */
export function nameProcess(name: string): void {
  processName = name;
}

/** Everything that is written while `work` runs says what it belongs to. */
export function logging<T>(context: LogContext, work: () => T): T {
  return running.run({ ...running.getStore(), ...context }, work);
}

/** What lines that are written now belong to. */
export const logContext = (): LogContext => running.getStore() ?? {};

/** Kind, message, code and way of an error. Details of the database stay out: they repeat what people wrote. */
function describeError(error: unknown): object {
  const { name, message, code, stack } = (error ?? {}) as Partial<Error & { code: unknown }>;
  if (message === undefined) return { message: String(error) };
  return { type: name, message, ...(code === undefined ? {} : { code }), stack };
}

const written = new Map<string, { at: number; more: number }>();

/** Packages put a statement before what went wrong, and a whole stack after it. */
const oneLine = (text: string) =>
  text
    .split(/\n\s+at /, 1)[0]
    ?.replace(/\s+/g, ' ')
    .slice(-MOST_WORDS) ?? '';

/** Writes a warning, the same one again only after a while, with how often it was left out meanwhile. */
export function warn(where: string, error: unknown): void {
  const words = oneLine(error instanceof Error ? error.message : String(error));
  const key = `${where} ${words}`;
  const last = written.get(key);
  if (last && Date.now() - last.at < AGAIN) {
    last.more++;
    return;
  }
  if (written.size >= MOST_REMEMBERED) written.clear();
  written.set(key, { at: Date.now(), more: 0 });
  log.warn({ err: error, where, ...(last?.more ? { more: last.more } : {}) }, `${where}: ${words}`);
}

/** For an error that is gone on after: it is counted and written, and `instead` is given. */
export function swallowed(where: string): (error: unknown) => undefined;
export function swallowed<T>(where: string, instead: T): (error: unknown) => T;
export function swallowed(where: string, instead?: unknown) {
  return (error: unknown) => {
    swallowedErrors.inc({ where });
    warn(where, error);
    return instead;
  };
}

/** Gives `instead` for a file that is not there; every other error is swallowed with a word. */
export function absent<T>(where: string, instead: T): (error: unknown) => T {
  return (error) => ((error as { code?: string }).code === 'ENOENT' ? instead : swallowed(where, instead)(error));
}
