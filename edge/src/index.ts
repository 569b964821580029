export { startEdge, type Edge } from './edge.js';
export { visitorHandler, type HandlerParts } from './handler.js';
export { Visits } from './visits.js';
export { Ahead } from './ahead.js';
export { Artifacts } from './artifacts.js';
export { Follower } from './follower.js';
export { Frames } from './frames.js';
export { EdgeClock } from './clock.js';
