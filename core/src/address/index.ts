export * from './path.js';
export * from './slug.js';
export * from './typed-path.js';
export * from './host.js';
export * from './outside.js';
