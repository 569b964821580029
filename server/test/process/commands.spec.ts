import { spawnSync } from 'node:child_process';
import { createServer } from 'node:net';
import { describe, expect, it } from '@jest/globals';

const ROOT = new URL('../../../', import.meta.url).pathname;
const run = (path: string, environment: Record<string, string>, ...before: string[]) =>
  spawnSync(process.execPath, [...before, path], {
    cwd: ROOT,
    encoding: 'utf8',
    timeout: 60_000,
    env: { ...process.env, ...environment },
  });
const WRONG = { DOMATIUM_APP_PORT: 'eighty', DOMATIUM_EDGE_PORT: '99999', DATABASE_URL: 'mysql://x' };

describe('every command', () => {
  it.each([
    ['tools/demo.mjs'],
    ['tools/test.mjs'],
    ['server/src/main.ts', '--import', 'tsx'],
    ['server/src/worker.ts', '--import', 'tsx'],
    ['edge/src/main.ts', '--import', 'tsx'],
    ['replay/src/main.ts', '--import', 'tsx'],
  ])('%s refuses wrong settings at its start, all at once, by name', (path, ...before) => {
    const { status, stderr } = run(path, WRONG, ...before);
    expect(status).toBe(2);
    for (const name of Object.keys(WRONG)) expect(stderr).toContain(name);
  });
  it('says which port is taken where its own database can’t be started', async () => {
    const taken = createServer();
    await new Promise<void>((ready) => taken.listen(0, '127.0.0.1', ready));
    const { port } = taken.address() as { port: number };
    const script = `import('${ROOT}tools/postgres.mjs').then(({ startPostgres }) => startPostgres({ wanted: '/var/tmp/domatium-taken-${port}', port: ${port} })).catch((error) => { console.error(error.message); process.exit(3); })`;
    const { status, stderr } = spawnSync(process.execPath, ['-e', script], { encoding: 'utf8', timeout: 60_000 });
    spawnSync('rm', ['-rf', `/var/tmp/domatium-taken-${port}`]);
    taken.close();
    expect([status, stderr.includes(String(port)), stderr.includes('DOMATIUM_DB_PORT')]).toEqual([3, true, true]);
  });
});
