// Starts our processes and keeps them alive. Built-ins only.
import { spawn } from 'node:child_process';
import { get } from 'node:http';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** Our processes, in the order in which they are started and stopped. */
export const PROCESSES = {
  server: 'server/src/main.ts',
  worker: 'server/src/worker.ts',
  edge: 'edge/src/main.ts',
  standins: 'standins/src/main.ts',
};

const WARNING = 40;

/** A line of a process's log as people read it: its words, and of an error what it says; `null` for what need not be read. */
export function readable(line) {
  if (!line.startsWith('{')) return line;
  try {
    const { msg = '', err, where, level } = JSON.parse(line);
    if (level < WARNING && !/^(ready|first):/.test(msg)) return null;
    const more = err?.message && !String(msg).includes(err.message) ? ` (${err.message})` : '';
    return `${msg || where || line}${more}`;
  } catch {
    return line;
  }
}

/** Starts one TypeScript entry point; node itself is the child, so that a signal reaches it. `onLine` gets what it writes, readable unless it is wanted raw; `entry` starts what is built. */
export function startProcess(
  name,
  environment,
  onLine,
  { isRaw = false, entry = ['--import', 'tsx', PROCESSES[name]] } = {},
) {
  const child = spawn(process.execPath, entry, {
    cwd: ROOT,
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  for (const stream of [child.stdout, child.stderr]) {
    let rest = '';
    stream.setEncoding('utf8').on('data', (text) => {
      const lines = (rest + text).split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) {
        const words = isRaw ? line : readable(line);
        if (words !== null) onLine(words);
      }
    });
  }
  return child;
}

/** Asks a child to end; kills it where it does not within `patience` milliseconds. */
export async function endProcess(child, patience = 6000) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((done) => child.once('exit', done));
  child.kill('SIGTERM');
  const timer = setTimeout(() => child.kill('SIGKILL'), patience);
  await ended;
  clearTimeout(timer);
}

/** Keeps a process alive: one that ends unasked is started again after a breath. */
export class Kept {
  constructor(name, environment, say, options = {}) {
    Object.assign(this, { name, environment, say, options, isStopping: false, failures: 0 });
    this.start();
  }
  start() {
    const began = Date.now();
    this.child = startProcess(
      this.name,
      this.environment,
      (line) => this.say(this.options.isRaw ? line : `${this.name}: ${line}`),
      this.options,
    );
    this.child.once('exit', (code, signal) => {
      if (this.isStopping) return;
      this.failures = Date.now() - began > 30_000 ? 0 : this.failures + 1;
      const wait = Math.min(10_000, 250 * 2 ** this.failures);
      this.say(`${this.name}: ended (${signal ?? code}); starting it again`);
      this.timer = setTimeout(() => this.start(), wait);
    });
  }
  async stop() {
    this.isStopping = true;
    clearTimeout(this.timer);
    await endProcess(this.child);
  }
}

/** Whether `/healthz` on a port answers 200. */
export function isHealthy(port) {
  return new Promise((done) => {
    const request = get({ host: '127.0.0.1', port, path: '/healthz', timeout: 2000 }, (response) => {
      response.resume();
      done(response.statusCode === 200);
    });
    request.on('error', () => done(false)).on('timeout', () => request.destroy());
  });
}

/** Waits until a claim holds; throws after `patience` milliseconds. */
export async function until(claim, what, patience = 60_000) {
  const began = Date.now();
  while (!(await claim())) {
    if (Date.now() - began > patience) throw new Error(`${what}: not within ${patience / 1000} s`);
    await new Promise((done) => setTimeout(done, 100));
  }
}
