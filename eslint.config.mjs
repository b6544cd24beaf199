import boundaries from 'eslint-plugin-boundaries';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** Core's folders in the order data flows: an import runs only from a later one to an earlier one. */
const FLOW = [
  'quantity',
  'cell',
  'pack',
  'fastener',
  'logbook',
  'formats',
  'coherence',
  'condition',
  'rules',
  'storage',
  'shipping',
  'recycling',
  'ruling',
  'place',
  'projection',
  'care',
  'dispatch',
  'match',
  'job',
  'practice',
  'confirm',
  'cases',
  'batch',
  'plan',
  'consignment',
  'discharge',
  'read-label',
];
const core = FLOW.map((f) => ({ type: `core-${f}`, pattern: `packages/core/src/${f}/**`, mode: 'full' }));
const others = [
  {
    type: 'core-index',
    pattern: [
      'packages/core/src/index.ts',
      'packages/core/src/batch/index.ts',
      'packages/core/src/plan/index.ts',
      'packages/core/src/consignment/index.ts',
      'packages/core/src/discharge/index.ts',
      'packages/core/src/read-label/index.ts',
      'packages/core/src/practice/index.ts',
      'packages/core/src/cases/index.ts',
      'packages/core/src/dispatch/index.ts',
      'packages/core/src/care/index.ts',
      'packages/core/src/place/index.ts',
      'packages/core/src/job/index.ts',
      'packages/core/src/confirm/index.ts',
    ],
    mode: 'full',
  },
  { type: 'contract', pattern: 'packages/contract/src/**', mode: 'full' },
  { type: 'server', pattern: 'apps/server/src/**', mode: 'full' },
  { type: 'app-feature', pattern: 'apps/bench/src/features/*/**', mode: 'full', capture: ['feature'] },
  { type: 'app-shell', pattern: ['apps/bench/src/shell/**', 'apps/bench/app/**', 'apps/bench/*'], mode: 'full' },
  { type: 'tools', pattern: 'tools/**', mode: 'full' },
  { type: 'tests', pattern: 'tests/**', mode: 'full' },
];
/** The app's inner layers in the order data flows: an import runs only from a later one to an earlier one. */
const LAYERS = ['reader', 'device', 'state', 'theme', 'ui', 'paper', 'stock', 'routes', 'entry'];
const app = LAYERS.map((f) => ({ type: `app-${f}`, pattern: `apps/bench/src/${f}/**`, mode: 'full' }));
const anyLayer = LAYERS.map((f) => `app-${f}`);
const anyCore = FLOW.map((f) => `core-${f}`);

export default tseslint.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '**/.expo/**', 'var/**', '**/*.d.ts'] },
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...tseslint.configs.recommended],
    plugins: { boundaries },
    languageOptions: { globals: { ...globals.es2022 } },
    settings: {
      'boundaries/elements': [...app, ...others, ...core],
      'import/resolver': { typescript: { alwaysTryTypes: true, noWarnOnMultipleProjects: true } },
    },
    rules: {
      'boundaries/element-types': [
        'error',
        {
          default: 'disallow',
          rules: [
            ...FLOW.map((f, i) => ({ from: `core-${f}`, allow: FLOW.slice(0, i + 1).map((g) => `core-${g}`) })),
            { from: 'core-index', allow: anyCore },
            { from: 'contract', allow: ['contract', 'core-index'] },
            { from: 'server', allow: ['server', 'contract', 'core-index'] },
            ...LAYERS.map((f, i) => ({
              from: `app-${f}`,
              allow: [...LAYERS.slice(0, i + 1).map((g) => `app-${g}`), 'contract', 'core-index'],
            })),
            // No feature knows of another one.
            {
              from: 'app-feature',
              allow: [['app-feature', { feature: '${from.feature}' }], ...anyLayer, 'contract', 'core-index'],
            },
            { from: 'app-shell', allow: ['app-shell', 'app-feature', ...anyLayer, 'contract', 'core-index'] },
            { from: 'tools', allow: ['*'] },
            { from: 'tests', allow: ['*'] },
          ],
        },
      ],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'error',
    },
  },
  {
    // What does not fit on two screens is several things.
    files: ['packages/**/*.{ts,tsx}', 'apps/**/*.{ts,tsx}', 'tools/**/*.ts'],
    rules: { 'max-lines-per-function': ['error', { max: 100 }] },
  },
  {
    // A test may look anywhere to check its own subject, and a suite of tests is a list.
    files: ['**/*.test.{ts,tsx}'],
    rules: { 'boundaries/element-types': 'off', 'max-lines-per-function': 'off' },
  },
  {
    // The computation has no clock, no random source and no way out of its own: they are passed in.
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'fetch', 'localStorage', 'setTimeout'],
      'no-restricted-syntax': [
        'error',
        { selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']", message: 'the clock is passed in' },
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'the clock is passed in' },
        {
          selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
          message: 'randomness is passed in',
        },
      ],
    },
  },
);
