// npm run dev: serves Fuller and rebuilds what changes.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { buildPrograms, ensureInstalled, npx, root, say } from './steps.mjs';

ensureInstalled();
buildPrograms();
const children = [];
const start = (command, args, env = {}) => {
  const child = spawn(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  children.push(child);
  return child;
};
start(process.execPath, ['scripts/guide.mjs']);
start(process.execPath, ['scripts/bundle.mjs', '--watch']);
start(npx('ng'), ['build', 'web', '--configuration', 'development', '--watch'], { NG_CLI_ANALYTICS: 'false' });
say('Waiting for the first build of the interface');
const waiting = setInterval(() => {
  if (!existsSync(path.join(root, 'dist/web/browser/index.html'))) return;
  clearInterval(waiting);
  // Node starts the server again whenever its bundle has changed.
  start(process.execPath, ['--watch', '--enable-source-maps', 'dist/fuller.js', 'serve', '--demo'], {
    FULLER_CHECK_ANSWERS: 'yes',
  });
}, 500);
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, () => {
    clearInterval(waiting);
    for (const child of children) child.kill(signal);
  });
}
