import { settingsOrExit } from '@domatium/storage';
import { startEdge } from './edge.js';

/** Answers visitors. */
const settings = settingsOrExit();
const edge = await startEdge(settings);
console.log(`ready: edge on port ${settings.edgePort}`);

const stop = () => void edge.stop().then(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
