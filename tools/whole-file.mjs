// Writes small files whole. Built-ins only.
import { renameSync, writeFileSync } from 'node:fs';

/** Writes a file such that whoever reads it, or finds it after a kill, has the old text or the new one, never a part. */
export function writeWhole(path, text) {
  const temporary = `${path}.${process.pid}.tmp`;
  writeFileSync(temporary, text);
  renameSync(temporary, path);
}
