export * from './compose.js';
export * from './routes.js';
export * from './lines.js';
export * from './nav.js';
