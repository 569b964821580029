import { readdirSync } from 'node:fs';
import { join } from 'node:path';

const FOLDER = join(__dirname, '..');
/** It puts all words in brackets, for good. */
const ALONE = 'words.spec.ts';

/** Every second test file in one: what they import is read once, and not once for each of them. */
export function loadTests(half: 0 | 1): void {
  readdirSync(FOLDER)
    .filter((name) => name.endsWith('.spec.ts') && name !== ALONE)
    .filter((_, index) => index % 2 === half)
    .forEach((name) => describe(name.replace('.spec.ts', ''), () => void require(join(FOLDER, name))));
}
