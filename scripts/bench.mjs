// npm run bench: measures, prints tables and writes docs/performance.md. `npm run bench -- NAME` runs one.
import { ensureBuilt, npx, root } from './steps.mjs';
import { spawnSync } from 'node:child_process';

ensureBuilt();
const done = spawnSync(npx('tsx'), ['bench/main.ts', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
process.exit(done.status ?? 1);
