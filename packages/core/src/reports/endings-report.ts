import { elementAt } from '../values/look-up.js';
import { isAsked, type ReportGround } from './ground.js';
import type { Report } from './report.js';
import { counted, inWords, median, percent } from './words.js';

const MINUTE = 60;
/** An hour that ends within so many seconds of its mark is on time. */
const ON_TIME = 5;
/** Upper bounds of the classes, seconds after the mark; negative before it. */
const BOUNDS = [-300, -120, -60, -30, -5, 5, 30, 60, 120, 300];

/** How far hours end from their mark, as their logs plan it. */
export function endingsReport(ground: ReportGround): Report {
  const counts = [...BOUNDS, Infinity].map(() => 0);
  const all: number[] = [];
  const before: number[] = [];
  const furthest = [...BOUNDS, Infinity].map((): { date: string; over: number } | null => null);
  const worst: { date: string; hour: number; over: number; station: string }[] = [];
  for (const station of ground.stations)
    for (const day of station.before)
      day.endings.forEach((over, hour) => isAsked(ground, day, hour) && before.push(over));
  for (const { days, name } of ground.stations)
    for (const day of days)
      day.endings.forEach((over, hour) => {
        if (!isAsked(ground, day, hour)) return;
        all.push(over);
        const found = BOUNDS.findIndex((bound) => (bound < 0 ? over < bound : over <= bound));
        const at = found < 0 ? BOUNDS.length : found;
        counts[at] = elementAt(counts, at) + 1;
        if (Math.abs(over) > Math.abs(furthest[at]?.over ?? 0)) furthest[at] = { date: day.date, over };
        if (Math.abs(over) > ON_TIME)
          worst.push({ date: day.date, hour: elementAt(day.localHours, hour), over, station: name });
      });
  worst.sort((a, b) => Math.abs(b.over) - Math.abs(a.over));
  const labels = classNames();
  const punctual = (hours: readonly number[]): number => hours.filter((over) => Math.abs(over) <= ON_TIME).length;
  const onTime = punctual(all);
  const several = ground.stations.length > 1;
  return {
    sentence:
      sentence(all, onTime, worst[0]) +
      (before.length && all.length ? ` In the range before it was ${percent(punctual(before), before.length)}.` : ''),
    picture: {
      shape: 'bars',
      unit: 'count',
      labels,
      series: [{ name: 'Hours', colour: null, values: counts }],
      links: furthest.map((one) => one && { to: 'log', id: one.date }),
    },
    columns: [
      { label: 'Date', unit: 'text' },
      { label: 'Hour', unit: 'text' },
      ...(several ? [{ label: 'Station', unit: 'text' as const }] : []),
      { label: 'After its mark', unit: 'seconds' },
    ],
    rows: worst.map(({ date, hour, over, station }) => ({
      cells: [date, `${String(hour).padStart(2, '0')}:00`, ...(several ? [station] : []), over],
      link: { to: 'log', id: date },
    })),
    empty: all.length === 0,
  };
}

function classNames(): string[] {
  const shown = (seconds: number): string => {
    const size = Math.abs(seconds);
    return size < MINUTE ? `${size} s` : `${size / MINUTE} min`;
  };
  return [
    ...BOUNDS.map((bound, n) => {
      if (n === 0) return `over ${shown(bound)} early`;
      if (bound === ON_TIME) return 'on time';
      const before = elementAt(BOUNDS, n - 1);
      return bound < 0 || before < 0
        ? `${shown(bound)} to ${shown(before)} early`
        : `${shown(before)} to ${shown(bound)} late`;
    }),
    `over ${shown(elementAt(BOUNDS, BOUNDS.length - 1))} late`,
  ];
}

function sentence(
  all: readonly number[],
  onTime: number,
  worst: { readonly date: string; readonly hour: number; readonly over: number } | undefined,
): string {
  if (all.length === 0) return 'No day of this range has a log.';
  const start = `${counted(onTime, 'hour')} of ${all.length} end within ${ON_TIME} s of their mark (${percent(onTime, all.length)}); the median is ${inWords(median(all.map(Math.abs)))} off.`;
  if (!worst) return start;
  const hour = `${String(worst.hour).padStart(2, '0')}:00`;
  return `${start} Furthest off: ${hour} on ${worst.date}, ${inWords(worst.over)} ${worst.over > 0 ? 'late' : 'early'}.`;
}
