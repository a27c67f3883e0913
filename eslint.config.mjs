import angular from 'angular-eslint';
import globals from 'globals';
import tseslint from 'typescript-eslint';

const CODE = ['**/*.ts', '**/*.mjs', '**/*.js', '**/*.cjs'];
const inCore = [
  { object: 'Date', property: 'now', message: 'The core is given the time.' },
  { object: 'Math', property: 'random', message: 'The core is given its randomness.' },
];

/** Controls are PrimeNG's: a bare one in a template looks and behaves otherwise than all others. */
const CONTROLS = {
  button: ['pButton', 'fButton'],
  input: ['pInputText'],
  textarea: ['pTextarea'],
  select: [],
};
const house = {
  rules: {
    'no-bare-controls': {
      meta: { type: 'problem', schema: [] },
      create: (context) => ({
        'Element, Element$1'(node) {
          const wanted = CONTROLS[node.name];
          if (!wanted) return;
          const named = [...node.attributes, ...node.inputs];
          const isFile = named.some(({ name, value }) => name === 'type' && value === 'file');
          if (isFile || named.some(({ name }) => wanted.includes(name))) return;
          const [start, end] = [node.startSourceSpan.start, node.startSourceSpan.end];
          context.report({
            loc: {
              start: { line: start.line + 1, column: start.col },
              end: { line: end.line + 1, column: end.col },
            },
            message: `A bare <${node.name}>: use PrimeNG's (${wanted.join(' or ') || 'f-choice, p-select'}).`,
          });
        },
      }),
    },
  },
};

export default tseslint.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '**/.angular/**', 'data/**'] },
  { files: CODE, extends: [...tseslint.configs.recommended] },
  {
    files: CODE,
    languageOptions: { globals: { ...globals.node } },
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-empty-object-type': 'off',
      eqeqeq: 'error',
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      'no-console': 'error',
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: { 'no-restricted-properties': ['error', ...inCore] },
  },
  {
    files: ['apps/web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    languageOptions: { globals: { ...globals.browser } },
    rules: {
      '@angular-eslint/component-class-suffix': 'off',
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@angular-eslint/no-output-native': 'off',
      // The host's keys are listened to for the whole document on purpose.
      '@angular-eslint/no-host-metadata-property': 'off',
      'no-console': 'off',
    },
  },
  {
    files: ['apps/web/src/**/*.html'],
    ignores: ['**/*.spec.ts/**'],
    extends: [...angular.configs.templateRecommended],
    plugins: { house },
    rules: { 'house/no-bare-controls': 'error' },
  },
  { files: ['scripts/**', 'bench/**', 'e2e/**', '**/*.mjs'], rules: { 'no-console': 'off' } },
  { files: ['apps/web/public/**'], languageOptions: { globals: { ...globals.browser } }, rules: { 'no-var': 'off' } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
