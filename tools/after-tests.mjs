// After the process tests of a run: what its worlds began with is removed.
import { readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export default function removeTemplates() {
  const run = `domatium-template_${process.env.DOMATIUM_TEST_RUN}_`;
  for (const name of readdirSync(tmpdir()))
    if (name.startsWith(run)) rmSync(join(tmpdir(), name), { recursive: true, force: true });
}
