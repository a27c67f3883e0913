import { lastOf, addDays, generateDay, LogInspector, openSlots, StationModel, type MarkTiming } from '@fuller/core';
import { VALE } from '@fuller/demo';
import type { Services } from '@fuller/server';
import { table } from './table.js';

const DAYS = 28;
/** A mark is met when what comes before it ends this near, milliseconds. */
const MET_MS = 5000;

const KINDS: readonly { readonly name: string; readonly is: (mark: MarkTiming) => boolean }[] = [
  { name: 'exact ends', is: ({ exactMs }) => exactMs !== undefined },
  { name: 'hard starts', is: ({ hard }) => hard },
  { name: 'hours', is: ({ hard, exactMs, late }) => !hard && exactMs === undefined && !late },
  { name: 'soft moments (not before their time)', is: ({ late }) => late === true },
];

/** How near the marks of a demo month are met, day after day, each knowing what the one before it plays. */
export async function landing({ logs }: Services, today: string): Promise<string> {
  const from = addDays(today, 20);
  const data = { ...(await logs.stationData(VALE, from)), nextLog: null };
  const marks: MarkTiming[] = [];
  let history = [...data.history];
  let [open, strains] = [0, 0];
  for (let day = 0; day < DAYS; day++) {
    const input = { ...data, history };
    const date = addDays(from, day);
    const { log } = generateDay(input, { date, seed: day, previous: null, only: 'all' });
    const model = new StationModel(input);
    marks.push(...model.timing(log).marks);
    open += openSlots(log).length;
    strains += new LogInspector(model, log).strains().length;
    history = [...history, ...model.plays(log)];
  }
  const rows = KINDS.map(({ name, is }) => {
    const own = marks.filter(is);
    // A soft moment may come late; what counts is that there is no silence before it.
    const off = own.map(({ overMs, late }) => Math.abs(late ? Math.min(0, overMs) : overMs)).sort((a, b) => a - b);
    const within = (ms: number): string =>
      `${((100 * off.filter((one) => one <= ms).length) / off.length).toFixed(1)} %`;
    const cut = own.filter(({ hard, overMs }) => hard && overMs > 0).length;
    return [name, own.length, within(1000), within(3000), within(MET_MS), `${(lastOf(off) / 1000).toFixed(1)} s`, cut];
  });
  return (
    table(
      `Landing on marks: ${DAYS} days of the demo station`,
      ['marks', 'count', 'within 1 s', 'within 3 s', 'within 5 s', 'furthest off', 'songs cut'],
      rows,
    ) + `\nIn these days ${open} slots stay open and ${strains} musts are broken.\n`
  );
}
