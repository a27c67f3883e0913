import { weekdayOf } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { eachAired, eachAiredBefore, type CountedPlay, type ReportGround } from './ground.js';
import type { Report, ReportLink } from './report.js';
import { comparedWith, counted, sum } from './words.js';

export const DAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
export const HOUR_NAMES = Array.from({ length: 24 }, (_, hour) => `${String(hour).padStart(2, '0')}:00`);

/** Plays by hour of the day and day of the week, of every song or of a category. */
export function hoursReport(ground: ReportGround, categoryId: string | null): Report {
  const cells = DAY_NAMES.map(() => HOUR_NAMES.map(() => 0));
  const before = HOUR_NAMES.map(() => 0);
  const isCounted = (play: CountedPlay): boolean =>
    categoryId === null ? ground.names.items.get(play.itemId)?.kind === 'song' : play.categoryId === categoryId;
  const countIn = (row: number[], { day, hour }: CountedPlay): void => {
    const local = elementAt(day.localHours, hour);
    row[local] = elementAt(row, local) + 1;
  };
  eachAired(ground, (play) => {
    if (isCounted(play)) countIn(elementAt(cells, weekdayOf(play.day.date)), play);
  });
  eachAiredBefore(ground, (play) => {
    if (isCounted(play)) countIn(before, play);
  });
  const linkOf = linksByDay(ground);
  const total = sum(cells.flat());
  return {
    sentence: sentence(cells, total, sum(before)),
    picture: {
      shape: 'heat',
      unit: 'count',
      rows: DAY_NAMES,
      columns: HOUR_NAMES,
      values: cells,
      links: cells.map((row, day) => row.map(() => elementAt(linkOf, day))),
    },
    columns: [
      { label: 'Hour', unit: 'text' },
      ...DAY_NAMES.map((label) => ({ label, unit: 'count' as const })),
      { label: 'All days', unit: 'count' },
      { label: 'Before', unit: 'count' },
    ],
    rows: HOUR_NAMES.map((name, hour) => {
      const row = cells.map((day) => elementAt(day, hour));
      return { cells: [name, ...row, sum(row), elementAt(before, hour)], link: null };
    }),
    empty: total === 0,
  };
}

/** The latest date of the range that is each day of the week. */
function linksByDay({ dates }: ReportGround): (ReportLink | null)[] {
  return DAY_NAMES.map((_, day) => {
    const date = dates.findLast((one) => weekdayOf(one) === day);
    return date === undefined ? null : { to: 'log', id: date };
  });
}

function sentence(cells: readonly (readonly number[])[], total: number, before: number): string {
  if (total === 0) return 'Nothing aired in this range.';
  let best = { day: 0, hour: 0, plays: -1 };
  cells.forEach((row, day) =>
    row.forEach((plays, hour) => {
      if (plays > best.plays) best = { day, hour, plays };
    }),
  );
  const busiest = `${elementAt(DAY_NAMES, best.day)} ${elementAt(HOUR_NAMES, best.hour)} had most: ${best.plays}.`;
  const silent = cells.flat().filter((plays) => plays === 0).length;
  return `${counted(total, 'play')}, ${comparedWith(total, before)}. ${busiest}${silent > 0 ? ` ${counted(silent, 'hour')} of the week had none.` : ''}`;
}
