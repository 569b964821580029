import presets from 'jest-preset-angular/presets/index.js';

const { transform, ...preset } = presets.createCjsPreset({ tsconfig: '<rootDir>/tsconfig.spec.json' });
const swc = [
  '@swc/jest',
  { jsc: { target: 'es2022', parser: { syntax: 'typescript' } }, module: { type: 'commonjs' } },
];

export default {
  ...preset,
  displayName: 'web',
  rootDir: import.meta.dirname,
  testMatch: ['<rootDir>/test/**/*.spec.ts'],
  setupFilesAfterEnv: ['<rootDir>/test/setup.ts'],
  testEnvironmentOptions: { customExportConditions: ['node', 'require', 'default'] },
  transform: { '/(core|contracts)/src/.*\\.ts$': swc, ...transform },
  transformIgnorePatterns: [
    '/node_modules/(?!(@domatium|.*\\.mjs$|@tiptap|ngx-tiptap|transliteration|isbot|luxon|tldts|culori|tinykeys|parse5|entities))',
  ],
  moduleNameMapper: {
    '^@domatium/core/words/answers/(.*)$': '<rootDir>/../core/src/words/answers/$1.ts',
    '^@domatium/core/words/(.*)$': '<rootDir>/../core/src/words/screens/$1.ts',
    '^@domatium/core/(.*)$': '<rootDir>/../core/src/$1/index.ts',
    '^@domatium/contracts$': '<rootDir>/../contracts/src/index.ts',
    // In the browser it is a module; here the same code as Node loads it.
    '^csv-parse/browser/esm/sync$': 'csv-parse/sync',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
};
