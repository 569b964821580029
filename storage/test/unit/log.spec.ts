import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';

/** What a process writes that runs these lines, as its log has it. */
function logOf(lines: string): Record<string, unknown>[] {
  const script = `import { log, logging, nameProcess, swallowed, warn, figures } from '${join(import.meta.dirname, '../../src/index.ts')}';
    import { openDatabase } from '${join(import.meta.dirname, '../../src/index.ts')}';
    nameProcess('server');
    ${lines}`;
  const environment = { ...process.env, DOMATIUM_LOG_LEVEL: 'info' };
  const said = execFileSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script], {
    encoding: 'utf8',
    env: environment,
  });
  return said
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);
}

it('says what a line belongs to, also after waiting, and what went wrong in one line, without what people wrote', () => {
  const [plain, inside, wrong] = logOf(`
    log.info('one');
    await logging({ request: 'r1' }, () => logging({ portfolio: 2 }, async () => {
      await new Promise((done) => setTimeout(done, 5));
      log.info('two');
      warn('saving', Object.assign(new Error('insert into x\\n  values ($1) - broken\\n    at here (file)'), { detail: 'Key (email)=(ada@one.example)' }));
    }));`);
  expect(plain).toMatchObject({ level: 30, process: 'server', msg: 'one' });
  expect(inside).toMatchObject({ msg: 'two', request: 'r1', portfolio: 2 });
  expect(wrong).toMatchObject({ level: 40, msg: 'saving: insert into x values ($1) - broken', request: 'r1' });
  expect(JSON.stringify(wrong)).not.toContain('ada@');
});
it('writes a warning that comes by the thousand once, counts every one, and says how many there were', () => {
  const lines = logOf(`
    const now = Date.now;
    for (let n = 0; n < 1000; n++) await Promise.reject(new Error('away')).catch(swallowed('following'));
    await Promise.reject(new Error('other')).catch(swallowed('following'));
    Date.now = () => now() + 60_000;
    await Promise.reject(new Error('away')).catch(swallowed('following'));
    log.info({ counted: (await figures.getSingleMetric('domatium_swallowed_errors_total').get()).values }, 'figures');`);
  expect(lines.map(({ msg, more }) => [msg, more])).toEqual([
    ['following: away', undefined],
    ['following: other', undefined],
    ['following: away', 999],
    ['figures', undefined],
  ]);
  expect(lines[3]).toMatchObject({ counted: [{ labels: { where: 'following' }, value: 1002 }] });
});
it('has no value of a statement that fails', () => {
  const [line] = logOf(`
    const database = openDatabase('postgres://nobody@127.0.0.1:1/none');
    await database('account').where({ email: 'ada@one.example' }).catch((error) => warn('asking', error));
    await database.destroy();`).filter(({ where }) => where === 'asking');
  expect(line?.['msg']).toMatch(/ECONNREFUSED|^asking/);
  expect(JSON.stringify(line)).not.toContain('ada@');
});
