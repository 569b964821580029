export * from './compose.js';
export * from './routes.js';
