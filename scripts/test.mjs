// npm test: everything that must hold, on a machine that may have nothing installed yet.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { printCoverage } from './coverage.mjs';
import { ensureBuilt, ensureInstalled, fail, npx, root, run, say } from './steps.mjs';

const asksCoverage = process.argv.includes('--core-coverage');
const only = process.argv.slice(2).filter((word) => word !== '--core-coverage');

ensureInstalled();
ensureChromium();
if (only.length === 0 && !asksCoverage) {
  say('Linting');
  run(npx('eslint'), ['.']);
  run(npx('prettier'), ['--check', '--log-level', 'warn', '.']);
  say('Checking dependency rules');
  run(npx('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo', 'e2e', 'bench']);
  run(process.execPath, ['scripts/third-party.mjs', '--check']);
  say('Checking types');
  run(npx('tsc'), ['-p', 'tsconfig.json']);
  run(npx('ngc'), ['-p', 'apps/web/tsconfig.app.json', '--noEmit']);
}
ensureBuilt();
say('Testing');
const coverage = mkdtempSync(path.join(os.tmpdir(), 'fuller-coverage-'));
// Measuring costs some seconds a file, so it is a run of core alone.
const measured = [
  '--selectProjects=core',
  '--coverage',
  '--coverageProvider=v8',
  '--coverageReporters=json-summary',
  `--coverageDirectory=${coverage}`,
  '--collectCoverageFrom=packages/core/src/**/*.ts',
  '--collectCoverageFrom=!**/*.spec.ts',
  '--collectCoverageFrom=!**/testing/**',
];
const jest = spawnSync(npx('jest'), asksCoverage ? measured : ['--forceExit', ...only], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, NODE_OPTIONS: '--experimental-vm-modules --no-warnings' },
});
if (existsSync(path.join(coverage, 'coverage-summary.json'))) printCoverage(coverage, root);
rmSync(coverage, { recursive: true, force: true });
process.exit(jest.status ?? 1);

/** The browser tests drive Debian's Chromium. */
function ensureChromium() {
  const places = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'];
  if (places.some((file) => file && existsSync(file))) return;
  say('Installing chromium');
  const apt = (...args) =>
    spawnSync('apt-get', args, { stdio: ['ignore', 2, 2], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
      .status === 0;
  if (process.getuid?.() === 0 && apt('update', '-qq') && apt('install', '-y', '-qq', 'chromium')) return;
  fail(
    'The browser tests need Chromium. Install Debian’s package “chromium” (as root: apt-get install chromium), or set CHROMIUM to its path.',
  );
}
