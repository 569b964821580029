import { join } from 'node:path';

/** Entry points of ours that are run as processes of their own. */
const SOURCES = { reader: 'platform/readers/child.ts', verify: 'features/verify/main.ts' };

/** How one is started: built, beside this file, or from its source through tsx. */
export function entryOf(name: keyof typeof SOURCES): { readonly path: string; readonly execArgv: readonly string[] } {
  const isBuilt = import.meta.filename.endsWith('.js');
  return isBuilt
    ? { path: join(import.meta.dirname, `${name}.js`), execArgv: [] }
    : { path: join(import.meta.dirname, SOURCES[name]), execArgv: ['--import', 'tsx'] };
}
