import { elementAt } from '../values/look-up.js';
import { AIR_USES, type AirUse } from './day-figures.js';
import { isAsked, type ReportGround, type StationDays } from './ground.js';
import type { Report } from './report.js';
import { counted, inWords, percent, sum } from './words.js';

const HOUR = 3600;
const NAMES: Readonly<Record<AirUse, string>> = {
  music: 'Music',
  speech: 'Speech',
  imaging: 'Imaging',
  commercials: 'Commercials',
};

/** The time on air given to music, speech, imaging and commercials, day by day. */
export function timeReport(ground: ReportGround): Report {
  const ofDays = (days: StationDays['days']): number[][] =>
    days.map((day) =>
      AIR_USES.map((_, use) => sum(day.time.map((hour, n) => (isAsked(ground, day, n) ? elementAt(hour, use) : 0)))),
    );
  const byDate = new Map(ground.dates.map((date) => [date, AIR_USES.map(() => 0)]));
  for (const { days } of ground.stations)
    ofDays(days).forEach((uses, n) => {
      const row = byDate.get(elementAt(days, n).date);
      uses.forEach((seconds, use) => row && (row[use] = elementAt(row, use) + seconds));
    });
  const before = ground.stations.flatMap((station) => ofDays(station.before));
  const totals = AIR_USES.map((_, use) => sum([...byDate.values()].map((row) => elementAt(row, use))));
  const inHours = (seconds: number): number => Math.round((seconds / HOUR) * 100) / 100;
  return {
    sentence:
      sentence(
        totals,
        AIR_USES.map((_, use) => sum(before.map((row) => elementAt(row, use)))),
      ) + unknownWords(ground),
    picture: {
      shape: 'stack',
      unit: 'hours',
      labels: [...byDate.keys()],
      series: AIR_USES.map((use, n) => ({
        name: NAMES[use],
        colour: null,
        values: [...byDate.values()].map((row) => inHours(elementAt(row, n))),
      })),
      links: [...byDate.keys()].map((id) => ({ to: 'log', id })),
    },
    columns: [
      { label: 'Date', unit: 'text' },
      ...AIR_USES.map((use) => ({ label: NAMES[use], unit: 'seconds' as const })),
      { label: 'All', unit: 'seconds' },
    ],
    rows: [...byDate].map(([id, row]) => ({ cells: [id, ...row, sum(row)], link: { to: 'log', id } })),
    empty: sum(totals) === 0,
  };
}

/** Of a day that has only its plays, spots of traffic and silence are not known. */
function unknownWords({ stations }: ReportGround): string {
  const bare = stations.flatMap(({ days }) =>
    days.filter(({ hasLog, hasAsRun, plays }) => !hasLog && !hasAsRun && plays.length > 0),
  );
  return bare.length === 0
    ? ''
    : ` ${counted(bare.length, 'day')} without a log count items of the library alone, no spots.`;
}

function sentence(totals: readonly number[], before: readonly number[]): string {
  const all = sum(totals);
  if (all === 0) return 'Nothing aired in this range.';
  const shares = AIR_USES.map((use, n) => `${use} ${percent(elementAt(totals, n), all)}`).join(', ');
  const [music, musicBefore] = [elementAt(totals, 0) / all, elementAt(before, 0) / (sum(before) || 1)];
  const points = Math.round(100 * (music - musicBefore));
  const change =
    sum(before) === 0
      ? ''
      : points === 0
        ? ' The share of music is what it was in the range before.'
        : ` The share of music is ${counted(Math.abs(points), 'point')} ${points > 0 ? 'higher' : 'lower'} than in the range before.`;
  return `${inWords(all)} on air: ${shares}.${change}`;
}
