import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { readInstance, solve, type Instance } from '@fuller/core';
import { ms, table } from '../table.js';

/** Least open slots and soft breaks by rank, proven by an exact solver; ranks that are not named are 0. */
interface Optimum {
  readonly open: number;
  readonly soft: Readonly<Record<string, number>>;
}

/** What the engine of before conflict learning ended with, seed 1. */
const BEFORE: Readonly<Record<string, string>> = {
  'compliance-small': 'optimum, ranks not proven',
  'flow-medium': '6:3 8:2 9:1 10:6 11:5 12:3 13:25',
  'flow-small': '2:3 6:2 7:3 9:6 11:1 12:19',
  'tight-medium': 'optimum, ranks not proven',
  'tight-small': 'optimum, ranks not proven',
};
const SEEDS = [1, 2, 3, 4, 5];

function read(name: string): unknown {
  return JSON.parse(gunzipSync(readFileSync(new URL(`examples/${name}.json.gz`, import.meta.url))).toString());
}

function instanceOf(name: string): Instance {
  const found = readInstance(read(name));
  if (!found.ok) throw new Error(`${name}: ${found.path} ${found.why}`);
  return found.instance;
}

/** The nine instances with known optima, on five seeds. */
export function examples(): string {
  const optima = JSON.parse(readFileSync(new URL('examples/optima.json', import.meta.url), 'utf8')) as Record<
    string,
    Optimum
  >;
  const rows = Object.entries(optima).map(([name, optimum]) => {
    const instance = instanceOf(name);
    const runs = SEEDS.map((seed) => {
      const startedAt = performance.now();
      const { score, bound, stats } = solve(instance, { seed, explain: 'none' });
      const time = performance.now() - startedAt;
      const isOptimal =
        score.open === optimum.open &&
        Object.entries(score.soft).every(([rank, breaks]) => breaks === (optimum.soft[rank] ?? 0));
      const isProven =
        bound.open === score.open && Object.entries(score.soft).every(([rank, n]) => bound.soft[rank] === n);
      return { score, stats, time, isOptimal, isProven };
    });
    const median = (of: (run: (typeof runs)[number]) => number): number => runs.map(of).sort((a, b) => a - b)[2]!;
    return [
      name,
      instance.slots.length,
      runs.filter(({ isOptimal }) => isOptimal).length,
      runs.filter(({ isProven }) => isProven).length,
      median(({ stats }) => stats.conflicts),
      median(({ stats }) => stats.evaluations),
      median(({ score }) => score.spread).toFixed(1),
      median(({ score }) => score.rest).toFixed(2),
      ms(median(({ time }) => time)),
      BEFORE[name] ?? 'optimum',
    ];
  });
  return table(
    'Nine instances with known optima, five seeds each (medians)',
    ['instance', 'slots', 'optimal', 'proven', 'conflicts', 'evaluations', 'spread', 'rest', 'time', 'before learning'],
    rows,
  );
}
