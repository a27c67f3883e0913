// npm test: everything that must hold, on a machine that may have nothing installed yet.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { printCoverage } from './coverage.mjs';
import { postgresPrograms, startPostgres } from './postgres.mjs';
import { fail, npx, root, say } from './steps.mjs';

const asksCoverage = process.argv.includes('--core-coverage');
const only = process.argv.slice(2).filter((word) => word !== '--core-coverage');

const CHECKS = [
  [npx('eslint'), '.'],
  [npx('prettier'), '--check', '--log-level', 'warn', '.'],
  [npx('depcruise'), '--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo', 'e2e', 'bench'],
  [process.execPath, 'scripts/third-party.mjs', '--check'],
  [npx('tsc'), '-p', 'tsconfig.json'],
  [npx('tsc'), '-p', 'apps/web/tsconfig.spec.json', '--noEmit'],
];
// The types of the interface and its templates are checked by its build.
const BUILD = [[process.execPath, 'scripts/build.mjs']];

// Both fetch more than they compute, so they wait side by side.
await Promise.all([ensureInstalledMeanwhile(), ensureDebian()]);
if (only.length > 0 || asksCoverage) await inOrder(BUILD);
else {
  say('Linting, checking types and dependency rules; building meanwhile');
  await Promise.all([inOrder(CHECKS), inOrder(BUILD)]);
}
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
const postgres = await startPostgres();
if (!postgres) say('There is no PostgreSQL here, so nothing is tested on it. Install Debian’s package “postgresql”.');
const workers = `--maxWorkers=${Math.max(2, os.cpus().length - 1)}`;
const jest = spawnSync(npx('jest'), asksCoverage ? measured : [workers, ...only], {
  cwd: root,
  stdio: 'inherit',
  env: {
    ...process.env,
    NODE_OPTIONS: '--experimental-vm-modules --no-warnings',
    ...(postgres ? { FULLER_TEST_POSTGRES: postgres.url } : {}),
  },
});
await postgres?.stop();
if (existsSync(path.join(coverage, 'coverage-summary.json'))) printCoverage(coverage, root);
rmSync(coverage, { recursive: true, force: true });
process.exit(jest.status ?? 1);

/** Runs commands one after the other, each telling what it has to say when it ends; one that fails ends this program. */
async function inOrder(commands) {
  for (const [command, ...args] of commands) {
    const { status, text } = await output(command, args);
    if (text.trim()) say(text.trimEnd());
    if (status !== 0) fail(`“${path.basename(command)} ${args.join(' ')}” failed.`, status);
  }
}

function output(command, args) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (text += part));
    child.on('error', (error) => resolve({ status: 1, text: error.message }));
    child.on('close', (code) => resolve({ status: code ?? 1, text }));
  });
}

/** Installs the packages in a process of its own, so that something else may be fetched meanwhile. */
async function ensureInstalledMeanwhile() {
  const { status, text } = await output(process.execPath, ['scripts/install.mjs']);
  if (text.trim()) say(text.trimEnd());
  if (status !== 0) fail('The packages could not be installed.', status);
}

/** The browser tests drive Debian's Chromium; Debian's mpd opens players' files and its PostgreSQL holds data, where they may be installed. */
async function ensureDebian() {
  const browsers = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'];
  const isThere = (files) => files.some((file) => file && existsSync(file));
  const wanted = [
    ...(isThere(browsers) ? [] : ['chromium']),
    ...(isThere(['/usr/bin/mpd', '/usr/local/bin/mpd']) ? [] : ['mpd']),
    ...(postgresPrograms() ? [] : ['postgresql']),
  ];
  if (wanted.length === 0) return;
  const apt = (...args) =>
    new Promise((resolve) => {
      const child = spawn('apt-get', args, {
        stdio: ['ignore', 2, 2],
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      });
      child.on('error', () => resolve(false));
      child.on('close', (code) => resolve(code === 0));
    });
  if (process.getuid?.() === 0 && (await apt('update', '-qq')))
    for (const name of wanted) {
      say(`Installing ${name}`);
      await apt('install', '-y', '-qq', ...(name === 'chromium' ? [] : ['--no-install-recommends']), name);
    }
  if (!isThere(browsers))
    fail(
      'The browser tests need Chromium. Install Debian’s package “chromium” (as root: apt-get install chromium), or set CHROMIUM to its path.',
    );
}
