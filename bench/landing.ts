import {
  addDays,
  applyEdit,
  asPlanned,
  bookedBreaks,
  bookSpots,
  generateDay,
  landAfterBooking,
  lastOf,
  LogInspector,
  matchSpots,
  openSlots,
  proposeLayout,
  readTextLog,
  StationModel,
  type DailyLog,
  type MarkTiming,
} from '@fuller/core';
import { demoContract, VALE } from '@fuller/demo';
import type { Services } from '@fuller/server';
import { trafficFile } from '@fuller/standins/traffic';
import { table } from './table.js';

const DAYS = 28;
/** A mark is met when what comes before it ends this near, milliseconds. */
const MET_MS = 5000;
const TOLERANCE_MS = 300_000;

const KINDS: readonly { readonly name: string; readonly is: (mark: MarkTiming) => boolean }[] = [
  { name: 'exact ends', is: ({ exactMs }) => exactMs !== undefined },
  { name: 'hard starts', is: ({ hard }) => hard },
  { name: 'hours', is: ({ hard, exactMs, late }) => !hard && exactMs === undefined && !late },
  { name: 'soft moments (not before their time)', is: ({ late }) => late === true },
];

/**
 * How near the marks of a demo month are met, day after day, each knowing what the one before it plays; without its
 * commercials, and with those a trade desk sells that knows the breaks of the day.
 */
export async function landing({ logs }: Services, today: string): Promise<string> {
  const from = addDays(today, 20);
  const data = { ...(await logs.stationData(VALE, from)), nextLog: null };
  const marks: MarkTiming[] = [];
  const booked: MarkTiming[] = [];
  let [spots, inTray] = [0, 0];
  let history = [...data.history];
  let [open, strains] = [0, 0];
  for (let day = 0; day < DAYS; day++) {
    const input = { ...data, history };
    const date = addDays(from, day);
    const { log } = generateDay(input, { date, seed: day, previous: null, only: 'all' });
    const model = new StationModel(input);
    marks.push(...model.timing(log).marks);
    const merged = withSpots(model, log, trafficFile(demoContract([log], log.timeZone), date));
    booked.push(...model.timing(merged.log).marks);
    spots += merged.placed;
    inTray += merged.inTray;
    open += openSlots(log).length;
    strains += new LogInspector(model, log).strains().length;
    history = [...history, ...model.plays(log)];
  }
  const heads = ['marks', 'count', 'within 1 s', 'within 3 s', 'within 5 s', 'furthest off', 'songs cut'];
  return [
    table(`Landing on marks: ${DAYS} days of the demo station`, heads, rowsOf(marks)),
    `\nIn these days ${open} slots stay open and ${strains} musts are broken.\n`,
    table('The same days with their commercials', heads, rowsOf(booked)),
    `\n${spots} spots are placed and ${inTray} are in the tray.\n`,
  ].join('\n');
}

function rowsOf(marks: readonly MarkTiming[]): (string | number)[][] {
  return KINDS.map(({ name, is }) => {
    const own = marks.filter(is);
    // A soft moment may come late; what counts is that there is no silence before it.
    const off = own.map(({ overMs, late }) => Math.abs(late ? Math.min(0, overMs) : overMs)).sort((a, b) => a - b);
    const within = (ms: number): string =>
      `${((100 * off.filter((one) => one <= ms).length) / off.length).toFixed(1)} %`;
    const cut = own.filter(({ hard, overMs }) => hard && overMs > 0).length;
    return [name, own.length, within(1000), within(3000), within(MET_MS), `${(lastOf(off) / 1000).toFixed(1)} s`, cut];
  });
}

/** A log with the spots of a traffic log in its breaks, landed again. */
function withSpots(
  model: StationModel,
  log: DailyLog,
  text: string,
): { readonly log: DailyLog; readonly placed: number; readonly inTray: number } {
  const layout = proposeLayout(text, 'Trade desk');
  if (!layout) throw new Error('the traffic log proposes no layout');
  const { spots } = readTextLog(text, layout);
  const timing = model.timing(asPlanned(log));
  const matched = matchSpots(log, timing, spots, TOLERANCE_MS);
  const { edits, tray } = bookSpots(log, bookedBreaks(log, timing), matched, { aired: new Set(), stamp: 'bench' });
  const after = applyEdit(log, { type: 'batch', edits });
  if (!after.ok) throw new Error('the spots cannot be booked');
  return {
    log: landAfterBooking(model, after.log, new Set()),
    placed: spots.length - tray.length,
    inTray: tray.length,
  };
}
