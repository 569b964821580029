export * from './findings.js';
export * from './mends.js';
export * from './release-faults.js';
