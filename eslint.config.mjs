import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

/** Every string is text: nothing makes elements of one but the policies of trusted.ts. */
const textStaysText = {
  'no-restricted-syntax': [
    'error',
    {
      selector:
        "Property[key.name=/^(cellRenderer|innerRenderer)$/]:not([value.type='CallExpression'][value.callee.name='drawn']):not([value.type='Identifier'][value.name=/^[A-Z]\\w+Cell$/])",
      message:
        'The grid takes a renderer’s text for HTML: wrap it in drawn(), or make it a class …Cell, which gives elements.',
    },
    {
      selector:
        "AssignmentExpression[left.property.name=/^(innerHTML|outerHTML|srcdoc)$/]:not([right.callee.name='inertMarkup'])",
      message: 'Use textContent or elements; for pages of our renderer inertMarkup().',
    },
    {
      selector:
        'CallExpression[callee.property.name=/^(insertAdjacentHTML|createContextualFragment|setHTMLUnsafe|bypassSecurityTrustHtml|bypassSecurityTrustScript)$/]',
      message: 'Use textContent or elements.',
    },
  ],
};

/** An error that is gone on after is written and counted: swallowed(), absent() or warn() of storage. */
const nothingIsSwallowed = {
  'no-empty': ['error', { allowEmptyCatch: false }],
  'no-restricted-syntax': [
    'error',
    {
      selector:
        "CallExpression[callee.property.name='catch'] > ArrowFunctionExpression[params.length=0]:matches([body.type='Identifier'], [body.type='Literal'], [body.type='ArrayExpression'], [body.type='ObjectExpression'])",
      message: 'Say what was swallowed: swallowed(where), or absent(where) for a file that may be missing.',
    },
    { selector: 'CatchClause > BlockStatement[body.length=0]', message: 'Say what was swallowed.' },
    {
      selector: "CallExpression[callee.object.name='console']",
      message: 'Write to the log of storage; a command writes with process.stdout or is named in the exceptions.',
    },
  ],
};

const noAnyNoBang = {
  '@typescript-eslint/no-explicit-any': 'error',
  '@typescript-eslint/no-non-null-assertion': 'error',
  '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
  '@typescript-eslint/consistent-type-imports': 'off',
  // Rows of raw SQL are `any` by nature; their types are asserted where they are read, in one place each.
  '@typescript-eslint/no-unnecessary-type-assertion': 'off',
};

export default tseslint.config(
  { ignores: ['node_modules', '.domatium', 'web/dist', '{server,edge}/dist', 'web/.angular', '**/*.d.mts', 'docs'] },
  {
    files: ['{core,contracts,storage,server,edge,demo,replay,standins,e2e,bench}/**/*.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked, prettier],
    languageOptions: { parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname } },
    rules: noAnyNoBang,
  },
  {
    files: ['{storage,server,edge}/src/**/*.ts'],
    // A command speaks to whoever runs it.
    ignores: ['server/src/features/{verify,backup}/main.ts'],
    rules: nothingIsSwallowed,
  },
  {
    files: ['web/src/**/*.ts'],
    ignores: ['web/src/**/*.worker.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked, ...angular.configs.tsRecommended, prettier],
    processor: angular.processInlineTemplates,
    languageOptions: { parserOptions: { project: './web/tsconfig.app.json', tsconfigRootDir: import.meta.dirname } },
    rules: {
      ...noAnyNoBang,
      '@angular-eslint/component-class-suffix': 'off',
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'dm', style: 'kebab-case' }],
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      ...textStaysText,
    },
  },
  {
    files: ['web/src/**/*.worker.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked, prettier],
    languageOptions: { parserOptions: { project: './web/tsconfig.worker.json', tsconfigRootDir: import.meta.dirname } },
    rules: noAnyNoBang,
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/no-any': 'off',
      'no-restricted-syntax': [
        'error',
        { selector: 'BoundAttribute[name=/^(innerHTML|outerHTML|srcdoc)$/]', message: 'Show data as text.' },
      ],
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
    },
  },
);
