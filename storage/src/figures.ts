import { createServer, type Server } from 'node:http';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';

/** Every figure of this process, in the text format of Prometheus (OpenMetrics 1.0). */
export const figures = new Registry();
collectDefaultMetrics({ register: figures, prefix: 'domatium_' });

const SECONDS = [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];

/** Errors after which it is gone on, by where. */
export const swallowedErrors = new Counter({
  name: 'domatium_swallowed_errors_total',
  help: 'Errors after which the process went on, by where they were swallowed.',
  labelNames: ['where'],
  registers: [figures],
});

/** A duration in seconds, by labels. */
export const durations = <L extends string>(name: string, help: string, labelNames: readonly L[] = []) =>
  new Histogram({ name, help, labelNames: [...labelNames], buckets: SECONDS, registers: [figures] });

/** What only grows. */
export const counter = <L extends string>(name: string, help: string, labelNames: readonly L[] = []) =>
  new Counter({ name, help, labelNames: [...labelNames], registers: [figures] });

/** What only grows and is counted too often for labels: plain numbers by the values of `label`, told when somebody asks. */
export function tally<V extends string>(
  name: string,
  help: string,
  label: string,
  values: readonly V[],
): Record<V, number> {
  const counts = Object.fromEntries(values.map((value) => [value, 0])) as Record<V, number>;
  new Counter({
    name,
    help,
    labelNames: [label],
    registers: [figures],
    collect() {
      this.reset();
      for (const value of values) this.inc({ [label]: value }, counts[value]);
    },
  });
  return counts;
}

/** What is looked at when somebody asks. A look that fails leaves the figure out, so that nobody reads an old one. */
export function gauge<L extends string>(
  name: string,
  help: string,
  labelNames: readonly L[],
  look: () => Promise<readonly (readonly [Partial<Record<L, string>>, number])[]>,
): void {
  new Gauge({
    name,
    help,
    labelNames: [...labelNames],
    registers: [figures],
    async collect() {
      this.reset();
      try {
        for (const [labels, value] of await look()) this.set(labels as Record<L, string>, value);
      } catch {
        swallowedErrors.inc({ where: name });
      }
    },
  });
}

/** Health as it is told: without what is `missing` nothing works; what is degraded works less well. */
export interface Told {
  readonly ok: boolean;
  readonly missing: string | null;
  readonly degraded: readonly string[];
}

/** Tells figures at `/metrics` and health at `/healthz` on a private port; resolves when it listens, rejects where it can't. */
export async function tellFigures(
  { port, bind }: { readonly port: number; readonly bind: string },
  health: () => Promise<Told>,
): Promise<Server> {
  const server = createServer((request, response) => {
    const answer = async () => {
      if (request.url === '/metrics') {
        response.writeHead(200, { 'Content-Type': figures.contentType }).end(await figures.metrics());
      } else if (request.url === '/healthz') {
        const told = await health();
        response.writeHead(told.ok ? 200 : 503, { 'Content-Type': 'application/json' }).end(JSON.stringify(told));
      } else response.writeHead(404, { 'Content-Type': 'text/plain' }).end('Ask for /metrics or /healthz.');
    };
    answer().catch((error: unknown) => response.destroy(error as Error));
  });
  server.headersTimeout = server.requestTimeout = 10_000;
  await new Promise<void>((ready, fail) => server.once('error', fail).listen(port, bind, ready));
  return server;
}
