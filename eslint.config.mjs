import angular from 'angular-eslint';
import globals from 'globals';
import tseslint from 'typescript-eslint';

const CODE = ['**/*.ts', '**/*.mjs', '**/*.js', '**/*.cjs'];
const inCore = [
  { object: 'Date', property: 'now', message: 'The core is given the time.' },
  { object: 'Math', property: 'random', message: 'The core is given its randomness.' },
];

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
      'max-lines': ['error', { max: 400 }],
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
    extends: [...angular.configs.templateRecommended],
  },
  { files: ['scripts/**', 'bench/**', 'e2e/**', '**/*.mjs'], rules: { 'no-console': 'off' } },
  { files: ['apps/web/public/**'], languageOptions: { globals: { ...globals.browser } }, rules: { 'no-var': 'off' } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
