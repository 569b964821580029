// Bundles each process: our own rooms in, npm packages left where they are installed.
import { existsSync, rmSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { ROOT } from './processes.mjs';

/** Each lies in its own room, beside the packages that room was installed with. */
export const BUNDLES = {
  server: 'server/dist/server.js',
  worker: 'server/dist/worker.js',
  edge: 'edge/dist/edge.js',
};
const ENTRIES = {
  'server/dist': {
    server: 'server/src/main.ts',
    worker: 'server/src/worker.ts',
    reader: 'server/src/platform/readers/child.ts',
    verify: 'server/src/features/verify/main.ts',
  },
  'edge/dist': { edge: 'edge/src/main.ts' },
};

export const isBundled = () => Object.values(BUNDLES).every((path) => existsSync(join(ROOT, path)));

export async function bundle() {
  for (const [folder, entryPoints] of Object.entries(ENTRIES)) {
    rmSync(join(ROOT, folder), { recursive: true, force: true });
    await bundleInto(folder, entryPoints);
  }
}

/** Bundles files into the folder of a room, for the packages of that room. */
export async function bundleInto(folder, entryPoints) {
  // Only here: whoever runs what is built needs no compiler.
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: ROOT,
    entryPoints,
    outdir: folder,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    splitting: true,
    chunkNames: 'part-[hash]',
    logLevel: 'warning',
    plugins: [ownRoomsOnly(dirname(folder))],
  });
}

/**
 * Packages stay outside, as they are installed for the room the bundle lies in. Rooms of ours, which are named like
 * packages, come in, and with them packages of which another room has a version of its own.
 */
const ownRoomsOnly = (room) => ({
  name: 'own-rooms-only',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, ({ path, kind, resolveDir }) => {
      if (kind === 'entry-point' || path.startsWith('@domatium/')) return undefined;
      const [from] = relative(ROOT, resolveDir).split(sep);
      const name = path
        .split('/')
        .slice(0, path.startsWith('@') ? 2 : 1)
        .join('/');
      const hasOwn = from !== room && existsSync(join(ROOT, from, 'node_modules', name));
      return hasOwn ? undefined : { path, external: true };
    });
  },
});
