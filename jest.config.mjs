import { fileURLToPath } from 'node:url';
import presets from 'jest-preset-angular/presets/index.js';

const root = fileURLToPath(new URL('.', import.meta.url)).replace(/\/$/, '');
const swc = [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' }, sourceMaps: 'inline' },
];

function nodeProject(displayName, folder, more = {}) {
  return {
    displayName,
    rootDir: root,
    roots: [`<rootDir>/${folder}`],
    testEnvironment: 'node',
    testMatch: ['**/*.spec.ts'],
    extensionsToTreatAsEsm: ['.ts'],
    transform: { '^.+\\.ts$': swc },
    moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
    modulePathIgnorePatterns: ['<rootDir>/dist/', '<rootDir>/data/'],
    ...more,
  };
}

/** What reads and writes most kinds of things, on PostgreSQL too where the test command has started it. */
const ON_POSTGRES = [
  'shared-database',
  'search-alike',
  'move-data',
  'store',
  'schema',
  'filters',
  'library',
  'lives',
  'tidy',
  'rotation',
  'insight',
  'import',
  'versions',
  'traffic',
  'hand-over',
];

const seeded = { setupFilesAfterEnv: ['<rootDir>/packages/core/src/testing/seed.ts'] };
const webPreset = presets.createEsmPreset({ tsconfig: '<rootDir>/apps/web/tsconfig.spec.json' });

export default {
  testTimeout: 300_000,
  projects: [
    nodeProject('core', 'packages/core', seeded),
    nodeProject('contracts', 'packages/contracts'),
    nodeProject('server', 'apps/server', seeded),
    ...(process.env.FULLER_TEST_POSTGRES
      ? [
          nodeProject('postgres', 'apps/server', {
            ...seeded,
            setupFiles: ['<rootDir>/apps/server/src/testing/on-postgres.mjs'],
            testMatch: process.env.FULLER_TEST_ALL ? ['**/*.spec.ts'] : ON_POSTGRES.map((name) => `**/${name}.spec.ts`),
          }),
        ]
      : []),
    nodeProject('demo', 'demo'),
    nodeProject('cli', 'apps/cli'),
    nodeProject('standins', 'apps/standins', seeded),
    {
      ...webPreset,
      displayName: 'web',
      rootDir: root,
      roots: ['<rootDir>/apps/web/src'],
      testMatch: ['**/*.spec.ts'],
      setupFilesAfterEnv: ['<rootDir>/apps/web/src/test-setup.ts'],
      moduleNameMapper: { ...webPreset.moduleNameMapper, '^(\\.{1,2}/.*)\\.js$': '$1' },
      transformIgnorePatterns: ['node_modules/(?!.*\\.mjs$|(@fuller|lucide-angular|d3-.*|internmap|luxon)/)'],
      modulePathIgnorePatterns: ['<rootDir>/dist/', '<rootDir>/data/'],
    },
    nodeProject('e2e', 'e2e', {
      globalSetup: '<rootDir>/e2e/support/demo-folders.mjs',
      globalTeardown: '<rootDir>/e2e/support/remove-demo-folders.mjs',
    }),
  ],
};
