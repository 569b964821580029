import web from './web/jest.config.mjs';

// Faults are made on purpose by the hundred: what is written of them is asserted where it matters.
process.env.DOMATIUM_LOG_LEVEL ??= 'silent';
// One run makes its template of a database once, whichever worker comes first.
process.env.DOMATIUM_TEST_RUN ??= `${Date.now()}_${process.pid}`;

const node = (name, match) => ({
  displayName: name,
  testEnvironment: 'node',
  testMatch: match,
  extensionsToTreatAsEsm: ['.ts'],
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
  transform: {
    '^.+\\.ts$': [
      '@swc/jest',
      { jsc: { target: 'es2022', parser: { syntax: 'typescript' }, experimental: { keepImportAttributes: true } } },
    ],
  },
  transformIgnorePatterns: ['/node_modules/(?!@domatium/)'],
});

/** `unit` needs nothing; `process` needs the database that `npm test` starts. */
export default {
  // Real processes and a real database on a small machine; nothing waits for a time-out to pass.
  testTimeout: 120_000,
  globalTeardown: '<rootDir>/tools/after-tests.mjs',
  projects: [
    node('unit', ['<rootDir>/{core,contracts,storage,edge,server,demo,standins}/test/unit/**/*.spec.ts']),
    node('process', ['<rootDir>/{server,edge}/test/process/**/*.spec.ts']),
    '<rootDir>/web/jest.config.mjs',
    // The same tests in three files: reading Angular takes longer than most of them.
    {
      ...web,
      displayName: 'web-together',
      testMatch: ['<rootDir>/test/together/{first,second}.ts', '<rootDir>/test/words.spec.ts'],
    },
  ],
};
