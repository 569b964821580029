export * from './findings.js';
export * from './given.js';
export * from './mends.js';
export * from './release-faults.js';
export * from './summaries.js';
