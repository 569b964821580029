import { log, nameProcess, settingsOrExit } from '@domatium/storage';
import { startEdge } from './edge.js';
import { tellEdgeFigures } from './telling.js';

/** Answers visitors. */
const settings = settingsOrExit();
nameProcess('edge');
const edge = await startEdge(settings);
log.info(`ready: edge on port ${settings.edgePort}`);
await tellEdgeFigures(settings, edge);

const stop = () => void edge.stop().then(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
