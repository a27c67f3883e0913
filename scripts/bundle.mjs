// Bundles the program and its threads; packages from the registry stay outside.
import { existsSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { build, context } from 'esbuild';

const folders = ['packages', 'apps'].flatMap((parent) => readdirSync(parent).map((name) => `${parent}/${name}`));
const manifests = [...folders, 'demo'].map((folder) => JSON.parse(readFileSync(`${folder}/package.json`, 'utf8')));
const external = [
  ...new Set(
    manifests
      .flatMap((manifest) => Object.keys(manifest.dependencies ?? {}))
      .filter((name) => !name.startsWith('@fuller/')),
  ),
].flatMap((name) => [name, `${name}/*`]);

for (const file of existsSync('dist') ? readdirSync('dist') : []) {
  if (/\.js(\.map)?$/.test(file)) rmSync(`dist/${file}`);
}

const options = {
  entryPoints: {
    fuller: 'apps/cli/src/main.ts',
    solver: 'apps/cli/src/commands/solve-thread.ts',
    worker: 'apps/server/src/jobs/worker.ts',
    reader: 'apps/server/src/readers/reader.ts',
    writer: 'apps/server/src/writers/writer.ts',
    'standin-traffic': 'apps/standins/traffic/main.ts',
    'standin-receiver': 'apps/standins/receiver/main.ts',
    'standin-playout': 'apps/standins/playout/main.ts',
    'standin-requests': 'apps/standins/requests/main.ts',
    'standin-stream': 'apps/standins/stream/main.ts',
  },
  outdir: 'dist',
  // What a command does not need is not loaded.
  splitting: true,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  external: external.filter((name) => !name.startsWith('valibot')),
  logLevel: 'warning',
};

if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
