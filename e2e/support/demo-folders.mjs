// Makes the demo folders that every browser test copies, once a run: one without a past, one with a week of it.
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';

function make(folder, weeks) {
  return new Promise((resolve, reject) => {
    const args = ['dist/fuller.js', 'init', '--data', folder, '--demo', '--weeks', String(weeks)];
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'ignore', 'inherit'] });
    child.on('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`the demo data could not be made (${code})`)),
    );
  });
}

export default async function makeDemoFolders() {
  const root = mkdtempSync(path.join(os.tmpdir(), 'fuller-e2e-demo-'));
  process.env.FULLER_E2E_DEMO = root;
  await Promise.all([make(path.join(root, '0'), 0), make(path.join(root, '1'), 1)]);
}
