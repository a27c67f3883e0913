import { writeFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { localTimeOf } from '@fuller/core';
import { makeData } from '@fuller/demo';
import { inlineCompute, openServices } from '@fuller/server';
import { engine } from './engine/main.js';
import { forecast } from './forecast.js';
import { generation } from './generation.js';
import { insight } from './insight.js';
import { landing } from './landing.js';
import { library } from './library.js';
import { load } from './load.js';
import { people } from './people.js';
import { rolling } from './rolling.js';
import { rotation } from './rotation.js';
import { rules } from './rules.js';
import { servers } from './servers.js';
import { start } from './start.js';
import { storm } from './storm.js';
import { table } from './table.js';
import { tidy } from './tidy.js';

const only = process.argv[2];
const wanted = (name: string): boolean => only === undefined || only === name;
if (only === 'engine') {
  console.log(await engine());
  process.exit(0);
}
if (only === 'rolling') {
  console.log(rolling());
  process.exit(0);
}
const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-bench-'));
const dataDir = path.join(folder, 'data');
const startedAt = performance.now();
await makeData({ dataDir, nowMs: Date.now(), demo: true });
const parts = [
  table(
    'The demo station',
    ['what', 'measured'],
    [['made with thirteen weeks of history in', `${((performance.now() - startedAt) / 1000).toFixed(0)} s`]],
  ),
];

if (wanted('tidy')) parts.push(await tidy());
if (wanted('start')) parts.push(await start(dataDir));
if (wanted('load')) parts.push(await load(dataDir));
if (wanted('insight')) parts.push(await insight(dataDir));
if (wanted('forecast')) parts.push(await forecast(dataDir));
if (wanted('people')) parts.push(await people(dataDir));
// These take a quarter of an hour each, so only when asked for.
if (only === 'servers') parts.push(await servers(dataDir, Number(process.argv[3] ?? 30)));
if (only === 'storm') parts.push(await storm(dataDir, Number(process.argv[3] ?? 4600)));
if (wanted('engine')) parts.push(await engine());
if (wanted('rolling')) parts.push(rolling());
const services = await openServices({ dataDir, compute: inlineCompute });
if (wanted('generation')) parts.push(await generation(services, localTimeOf(Date.now(), 'Europe/Dublin').date));
if (wanted('landing')) parts.push(await landing(services, localTimeOf(Date.now(), 'Europe/Dublin').date));
if (wanted('rotation')) parts.push(await rotation(services, localTimeOf(Date.now(), 'Europe/Dublin').date));
if (wanted('rules')) parts.push(await rules(services, localTimeOf(Date.now(), 'Europe/Dublin').date));
if (wanted('library')) parts.push(await library(services));
await services.close();
await rm(folder, { recursive: true });
parts.push(
  table(
    'Memory',
    ['what', 'measured'],
    [['largest resident set of the bench', `${Math.round(process.resourceUsage().maxRSS / 1024)} MB`]],
  ),
);

const text = parts.join('\n');
console.log(text);
if (only === undefined) {
  const cores = os.cpus().length;
  writeFileSync(
    'docs/performance.md',
    `# Performance\n\nWritten by \`npm run bench\`; medians, on ${cores} cores with Node.js ${process.versions.node}.\n\n${text}`,
  );
}
