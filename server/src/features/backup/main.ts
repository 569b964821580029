import { resolve } from 'node:path';
import { settingsOrExit } from '@domatium/storage';
import { backup, BackupError, restore } from './backup.js';

/** npm run backup and npm run restore. Exit 1 where it can't be done, 2 where it is called wrongly. */
const [what, folder, ...more] = process.argv.slice(2);
const WORK = { backup, restore };
if ((what !== 'backup' && what !== 'restore') || !folder || more.length) {
  console.error('Say which folder: npm run backup -- /backups/2026-11-28, or npm run restore -- /backups/2026-11-28');
  process.exit(2);
}
const settings = settingsOrExit();
const began = Date.now();
try {
  const { files, at } = await WORK[what](settings, resolve(folder));
  const megabytes = files.reduce((sum, { bytes }) => sum + bytes, 0) / 1e6;
  const seconds = ((Date.now() - began) / 1000).toFixed(1);
  console.log(
    `${what === 'backup' ? 'Backed up' : 'Restored'} ${files.length.toLocaleString('en')} files, ${megabytes.toFixed(1)} MB, as of ${at}, in ${seconds} s.`,
  );
} catch (error) {
  console.error(error instanceof BackupError ? error.message : error);
  process.exit(1);
}
