// The steps that starting, testing and building share. Plain Node: nothing is installed yet when it runs.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
const marks = path.join(root, '.fuller');
/** Made by the build itself. */
const madeGuide = path.join(root, 'apps/web/public/guide');
export const npx = (tool) => path.join(root, 'node_modules', '.bin', tool);

/** Runs a command in the repository; ends this program when it fails. Its output goes to standard error. */
export function run(command, args, env = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2], env: { ...process.env, ...env } });
  if (done.error) fail(`${command} cannot be started: ${done.error.message}`);
  if (done.status !== 0) fail(`“${command} ${args.join(' ')}” failed.`, done.status ?? 1);
}

export function say(text) {
  process.stderr.write(`${text}\n`);
}

export function fail(text, status = 1) {
  say(text);
  process.exit(status);
}

/** A fingerprint of files and of everything below folders. */
function fingerprint(places) {
  const hash = createHash('sha256');
  const add = (place) => {
    const stats = statSync(place);
    if (stats.isDirectory()) {
      for (const name of readdirSync(place).sort()) {
        if (name !== 'node_modules' && name !== 'dist' && name !== '.angular' && path.join(place, name) !== madeGuide)
          add(path.join(place, name));
      }
    } else if (!place.endsWith('.spec.ts'))
      hash.update(path.relative(root, place)).update('\0').update(readFileSync(place));
  };
  for (const place of places) if (existsSync(path.join(root, place))) add(path.join(root, place));
  return hash.digest('hex');
}

/** Does the work unless it was done for the same inputs before and its result is still there. */
function unlessDone(name, places, result, work) {
  const mark = path.join(marks, name);
  const now = fingerprint(places);
  if (existsSync(path.join(root, result)) && existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  rmSync(mark, { force: true });
  work();
  mkdirSync(marks, { recursive: true });
  writeFileSync(mark, now);
}

export function ensureInstalled() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 11))
    fail(`Fuller needs Node.js 20.11 or newer; this is ${process.versions.node}.`);
  unlessDone('installed', ['package.json', 'package-lock.json'], 'node_modules/.package-lock.json', () => {
    say('Installing packages');
    run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  });
}

export function buildPrograms() {
  run(process.execPath, ['scripts/bundle.mjs']);
}

export function ensureBuilt() {
  ensureInstalled();
  const shared = ['packages', 'package-lock.json', 'tsconfig.base.json'];
  unlessDone(
    'programs',
    [...shared, 'apps/server', 'apps/cli', 'apps/standins', 'demo', 'scripts/bundle.mjs'],
    'dist/fuller.js',
    () => {
      say('Building the server');
      buildPrograms();
    },
  );
  unlessDone('web', [...shared, 'apps/web', 'docs', 'scripts/guide.mjs'], 'dist/web/browser/index.html', () => {
    say('Building the interface; this takes a minute');
    run(process.execPath, ['scripts/guide.mjs']);
    // Fewer, larger chunks: a first screen asks for half as many files.
    run(npx('ng'), ['build', 'web'], { NG_CLI_ANALYTICS: 'false', NG_BUILD_OPTIMIZE_CHUNKS: '1' });
  });
}
