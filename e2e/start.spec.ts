import { spawn, type ChildProcess } from 'node:child_process';
import { cp, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { expect, test } from '@playwright/test';
import { PASSWORD, PEOPLE } from './world.js';

const ROOT = join(import.meta.dirname, '..');
/** What a clone does not have. */
const MADE_HERE = new Set(['node_modules', '.domatium', '.angular', 'dist', '.git']);
const PORTS = {
  DOMATIUM_APP_PORT: '4900',
  DOMATIUM_EDGE_PORT: '4980',
  DOMATIUM_DB_PORT: '4932',
  DOMATIUM_STANDINS_PORT: '4990',
  DOMATIUM_MAIL_PORT: '4992',
};
const APP = `http://localhost:${PORTS.DOMATIUM_APP_PORT}`;

/** `npm run demo` in a folder, and what it has said so far. */
class Demo {
  output = '';
  private readonly child: ChildProcess;
  private hasEnded = false;
  private readonly ended: Promise<void>;
  constructor(private readonly folder: string) {
    const { DOMATIUM_DATA: _data, DATABASE_URL: _url, ...environment } = process.env;
    this.child = spawn('npm', ['run', 'demo'], { cwd: folder, env: { ...environment, ...PORTS }, detached: true });
    for (const stream of [this.child.stdout, this.child.stderr])
      stream?.setEncoding('utf8').on('data', (text: string) => (this.output += text));
    // Closed, not exited: npm may go before the demo under it, which still has the pipes and says what it stops.
    this.ended = new Promise((done) => {
      this.child.once('close', () => {
        this.hasEnded = true;
        done();
      });
    });
  }
  async says(words: RegExp, patience: number): Promise<void> {
    await expect.poll(() => this.output, { timeout: patience, intervals: [200] }).toMatch(words);
  }
  async processes(): Promise<{ main: number; children: Record<string, number> }> {
    const run = JSON.parse(await readFile(join(this.folder, '.domatium/run.json'), 'utf8')) as {
      main: number;
      children: [string, number][];
    };
    return { main: run.main, children: Object.fromEntries(run.children) };
  }
  /** What Ctrl+C does: the signal goes to the whole group of the terminal. */
  async interrupt(): Promise<void> {
    process.kill(-(this.child.pid as number), 'SIGINT');
    await this.ended;
  }
  /** Ends what a failed test left, its database too; by force only where it does not end by itself. */
  async end(): Promise<void> {
    if (this.hasEnded) return;
    const force = setTimeout(() => process.kill(-(this.child.pid as number), 'SIGKILL'), 30_000);
    await this.interrupt();
    clearTimeout(force);
  }
}

test('step 1: from a fresh copy to the running demo with one command', async ({ browser }) => {
  test.setTimeout(900_000);
  const folder = await mkdtemp(join(tmpdir(), 'domatium-start-'));
  await cp(ROOT, folder, { recursive: true, filter: (path) => !MADE_HERE.has(basename(path)) });
  let demo = new Demo(folder);
  try {
    await demo.says(/Ctrl\+C stops everything/, 600_000);
    for (const step of ['Packages', 'Database', 'Demo data', 'Web application', 'Server, worker, edge', 'Ready'])
      expect(demo.output).toMatch(new RegExp(`\\[\\d/6\\] ${step}`));
    expect(demo.output).toMatch(/Marrowick Coast: .*\d+ of \d+/);
    for (const [role, email] of Object.entries(PEOPLE)) expect(demo.output).toMatch(new RegExp(`${role}\\s+${email}`));

    const page = await (await browser.newContext()).newPage();
    await page.goto(APP);
    await page.getByLabel('E-mail address').fill(PEOPLE.owner);
    await page.getByLabel('Password').fill(PASSWORD);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByText(/\d{3} · \d+ live now/).first()).toBeVisible();

    const before = await demo.processes();
    for (const name of ['server', 'worker', 'edge', 'standins'])
      process.kill(before.children[name] as number, 'SIGKILL');
    await expect
      .poll(
        async () => {
          const { children } = await demo.processes();
          const isUp = await fetch(`${APP}/healthz`).then(
            ({ ok }) => ok,
            () => false,
          );
          return isUp && Object.entries(children).every(([name, pid]) => pid !== before.children[name]);
        },
        { timeout: 120_000 },
      )
      .toBe(true);

    await demo.interrupt();
    const order = ['server', 'worker', 'edge', 'standins', 'database'].map((name) =>
      demo.output.indexOf(`${name} stopped`),
    );
    expect(order.every((at) => at > 0)).toBe(true);
    expect(order).toEqual([...order].sort((a, b) => a - b));
    await expect(fetch(`${APP}/healthz`)).rejects.toThrow();

    demo = new Demo(folder);
    await demo.says(/Ctrl\+C stops everything/, 120_000);
    // What makes a second start quick: nothing is made twice.
    expect(demo.output).toMatch(/Packages \(.*\n\s+unchanged/);
    expect(demo.output).toMatch(/Demo data \(.*\n\s+there/);
    expect(demo.output).toMatch(/Web application \(.*\n\s+unchanged/);
    expect(demo.output).not.toMatch(/days of visits|bundle generation/);
    await demo.interrupt();
  } finally {
    await demo.end();
    await rm(folder, { recursive: true, force: true });
  }
});
