export * from './findings.js';
export * from './mends.js';
