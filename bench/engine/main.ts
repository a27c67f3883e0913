import { elementAt, solve, type Instance } from '@fuller/core';
import { ms, table, timed } from '../table.js';
import { examples } from './examples.js';
import { solveExactly } from './exact.js';
import { FAMILIES, makeInstance, type FamilySize } from './families.js';

/** What an exact solver may take for one instance. */
const EXACT_SECONDS = 60;

const DAY: FamilySize = { hours: 24, slotsPerHour: 15, items: 10_000, historyDays: 28 };
const SMALL: FamilySize = { hours: 2, slotsPerHour: 13, items: 90, historyDays: 3 };
const MEDIUM: FamilySize = { hours: 5, slotsPerHour: 15, items: 110, historyDays: 3 };

/** What the engine of before conflict learning ended with: open slots, soft breaks, time. */
const BEFORE: Readonly<Record<string, string>> = {
  'loose, five hours': '0 open, 5:6, 892 ms',
  'tight, five hours': '3 open, 5:25, 1131 ms',
  'starved, five hours': '2 open, 5:7, 731 ms',
  'flow, five hours': '0 open, 6:3 7:3 8:4 9:1 10:31 12:1, 943 ms',
  'compliance, five hours': '3 open, 1:24 2:18 3:1 4:3 6:1 7:25 8:1 9:1, 2421 ms',
  'planted, five hours': '2 open, 5:14, 1056 ms',
  'loose, a day': '0 open, none, 353 ms',
  'tight, a day': '0 open, none, 230 ms',
  'starved, a day': '9 open, none, 702 ms',
  'flow, a day': '0 open, none, 553 ms',
  'compliance, a day': '0 open, none, 269 ms',
  'planted, a day': '0 open, none, 250 ms',
  'flow, a week': '0 open, 6:1 7:15 8:13 9:26 11:5 12:13, 3414 ms',
};

function softText(soft: Readonly<Record<string, number>>): string {
  const broken = Object.entries(soft).filter(([, breaks]) => breaks > 0);
  return broken.length === 0 ? 'none' : broken.map(([rank, breaks]) => `${rank}:${breaks}`).join(' ');
}

/** Quality and speed of the engine over families and sizes of instances. */
export async function engine(): Promise<string> {
  return [examples(), await againstExact(), days(), await growth()].join('\n');
}

async function againstExact(): Promise<string> {
  const rows = [];
  for (const family of FAMILIES) {
    const instance = makeInstance(family, SMALL, 3);
    const exact = await solveExactly(instance, EXACT_SECONDS);
    let ours = solve(instance);
    const time = await timed(3, () => (ours = solve(instance)));
    const levels = [
      ours.score.open,
      ...Object.entries(ours.score.soft)
        .sort(([a], [b]) => Number(a) - Number(b))
        .map(([, n]) => n),
    ];
    const worse = exact.levels.findIndex((best, level) => levels[level] !== best);
    rows.push([
      family,
      instance.slots.length,
      ours.score.open,
      softText(ours.score.soft),
      ours.bound.open,
      exact.complete ? exact.levels.join(' ') : `${exact.levels.join(' ')} …`,
      worse < 0
        ? 'equal'
        : elementAt(levels, worse) < elementAt(exact.levels, worse)
          ? 'better'
          : `worse at level ${worse}`,
      ms(time),
      `${exact.seconds.toFixed(1)} s`,
      `${Math.round((exact.seconds * 1000) / time)} x`,
    ]);
  }
  return table(
    'The engine against an exact solver (mixed integer programming, level by level; … where its time ran out)',
    ['family', 'slots', 'open', 'soft', 'bound', 'exact levels', 'as far as proven', 'engine', 'exact', 'ratio'],
    rows,
  );
}

function days(): string {
  const rows = [];
  for (const family of FAMILIES) {
    for (const [name, size] of [
      ['five hours', MEDIUM],
      ['a day', DAY],
      ...(family === 'flow' ? [['a week', { ...DAY, hours: 168 }] as const] : []),
    ] as const) {
      const instance = makeInstance(family, size, 5);
      rows.push([family, name, ...measured(instance), BEFORE[`${family}, ${name}`] ?? '']);
    }
  }
  return table(
    'Families',
    [
      'family',
      'size',
      'slots',
      'items',
      'open',
      'bound',
      'soft',
      'bound of soft',
      'conflicts',
      'evaluations',
      'time',
      'before learning',
    ],
    rows,
  );
}

function measured(instance: Instance): (string | number)[] {
  const startedAt = performance.now();
  const { score, bound, stats } = solve(instance);
  const time = performance.now() - startedAt;
  return [
    instance.slots.length,
    instance.items.length,
    score.open,
    bound.open,
    softText(score.soft),
    softText(bound.soft ?? {}),
    stats.conflicts,
    stats.evaluations,
    ms(time),
  ];
}

async function growth(): Promise<string> {
  const rows: (string | number)[][] = [];
  const of = async (what: string, size: FamilySize): Promise<void> => {
    const instance = makeInstance('loose', size, 5);
    const time = await timed(1, () => solve(instance));
    const memory = `${Math.round(process.memoryUsage().heapUsed / 1_048_576)} MB`;
    rows.push([
      what,
      instance.slots.length,
      instance.items.length,
      ms(time),
      `${(time / instance.slots.length).toFixed(2)} ms`,
      memory,
    ]);
  };
  for (const days of [1, 2, 4, 7, 14, 28]) await of(`${days} days`, { ...DAY, hours: 24 * days });
  for (const items of [1000, 10_000, 100_000]) await of('a day', { ...DAY, items });
  return table(
    'Growth with slots and with items (family loose)',
    ['what', 'slots', 'items', 'time', 'a slot', 'heap'],
    rows,
  );
}
