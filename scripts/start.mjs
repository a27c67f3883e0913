// npm start: installs and builds what changed, then serves Fuller with the demo station.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { ensureBuilt, root } from './steps.mjs';

ensureBuilt();
const args = ['--enable-source-maps', path.join(root, 'dist/fuller.js'), 'serve', '--demo', ...process.argv.slice(2)];
const server = spawn(process.execPath, args, { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
