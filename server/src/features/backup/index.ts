export { backup, BackupError, restore, type Installation } from './backup.js';
