// Installs npm packages and builds the web application, each only where its sources changed. Built-ins only.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT } from './processes.mjs';
import { writeWhole } from './whole-file.mjs';

const digest = (paths) => {
  const hash = createHash('sha256');
  for (const path of paths) hash.update(path).update(readFileSync(join(ROOT, path)));
  return hash.digest('hex');
};

const filesBelow = (folder) =>
  readdirSync(join(ROOT, folder), { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (['node_modules', 'dist', '.angular', 'test'].includes(entry.name)) return [];
    return entry.isDirectory() ? filesBelow(path) : [path];
  });

function unlessDone(stamp, current, work) {
  const path = join(ROOT, stamp);
  if (existsSync(path) && readFileSync(path, 'utf8') === current) return false;
  work();
  mkdirSync(dirname(path), { recursive: true });
  writeWhole(path, current);
  return true;
}

function run(command, args, what) {
  const result = spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'] });
  if (result.status !== 0) throw new Error(`${what} failed (${result.status ?? result.signal})`);
}

/** Installs the packages of the lock file; gives whether anything was done. */
export function installPackages() {
  const manifests = [
    'package-lock.json',
    'package.json',
    ...readdirSync(ROOT)
      .filter((name) => existsSync(join(ROOT, name, 'package.json')) && name !== 'node_modules')
      .map((name) => join(name, 'package.json')),
  ];
  return unlessDone('node_modules/.domatium', digest(manifests), () =>
    run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], 'npm ci'),
  );
}

/** Builds the web application; gives whether anything was done. */
export function buildWeb() {
  const sources = ['package-lock.json', ...['web', 'core/src', 'contracts/src'].flatMap(filesBelow)].filter((path) =>
    statSync(join(ROOT, path)).isFile(),
  );
  return unlessDone('web/dist/.domatium', digest(sources), () =>
    run(
      process.execPath,
      ['node_modules/@angular/cli/bin/ng.js', 'build', '--progress=false'],
      'building the web application',
    ),
  );
}
