import { addDays, daysBetween } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { eachPlay, isAsked, type ReportGround, type StationDays } from './ground.js';
import { hourAt, type DayFigures } from './day-figures.js';
import type { Report } from './report.js';
import { inWords, median, sum } from './words.js';

const HOUR = 3600;

/** How long songs of each music category rested between two plays, beside what its turnover promises. */
export function restReport(ground: ReportGround): Report {
  const { categories } = ground.names;
  const rests = restsByCategory(ground, 'days');
  const restsBefore = restsByCategory(ground, 'before');
  const rows = [...categories]
    .filter(([, { music }]) => music)
    .map(([id, { name, expected }]) => {
      const own = rests.get(id) ?? [];
      const mean = own.length ? sum(own) / own.length : null;
      const was = restsBefore.get(id) ?? [];
      const before = was.length ? sum(was) / was.length : null;
      return { id, name, expected: expected ? expected.restMs / 1000 : null, own, mean, before };
    })
    .filter(({ expected, own }) => expected !== null || own.length > 0);
  const inHours = (seconds: number | null): number | null =>
    seconds === null ? null : Math.round((seconds / HOUR) * 10) / 10;
  return {
    sentence: sentence(rows),
    picture: {
      shape: 'bars',
      unit: 'hours',
      labels: rows.map(({ name }) => name),
      series: [
        { name: 'Real', colour: null, values: rows.map(({ mean }) => inHours(mean)) },
        { name: 'Expected', colour: null, values: rows.map(({ expected }) => inHours(expected)) },
        {
          name: 'Shortest',
          colour: null,
          values: rows.map(({ own }) => (own.length ? inHours(own.reduce((a, b) => Math.min(a, b))) : null)),
        },
      ],
      links: rows.map(({ id }) => ({ to: 'category', id })),
    },
    columns: [
      { label: 'Category', unit: 'text' },
      { label: 'Expected rest', unit: 'hours' },
      { label: 'Mean rest', unit: 'hours' },
      { label: 'Mean before', unit: 'hours' },
      { label: 'Median', unit: 'hours' },
      { label: 'Shortest', unit: 'hours' },
      { label: 'Longest', unit: 'hours' },
      { label: 'Rests counted', unit: 'count' },
    ],
    rows: rows.map(({ id, name, expected, own, mean, before }) => ({
      cells: [
        name,
        inHours(expected),
        inHours(mean),
        inHours(before),
        own.length ? inHours(median(own)) : null,
        own.length ? inHours(own.reduce((a, b) => Math.min(a, b))) : null,
        own.length ? inHours(own.reduce((a, b) => Math.max(a, b))) : null,
        own.length,
      ],
      link: { to: 'category', id },
    })),
    empty: rows.every(({ own }) => own.length === 0),
  };
}

/** Seconds between plays of an item whose second one lies in a range and the hours asked for, by its category then. */
function restsByCategory(ground: ReportGround, range: 'days' | 'before'): Map<string, number[]> {
  const found = new Map<string, number[]>();
  for (const station of ground.stations)
    for (const plays of playsInOrder(ground, station, range).values())
      plays.forEach(({ at, categoryId, counts }, n) => {
        const before = plays[n - 1];
        if (!counts || !before || categoryId === null) return;
        const own = found.get(categoryId);
        if (own) own.push(at - before.at);
        else found.set(categoryId, [at - before.at]);
      });
  return found;
}

interface TimedPlay {
  /** Seconds since the first date; a day counts 24 hours unless clocks change in it. */
  readonly at: number;
  readonly categoryId: string | null;
  readonly counts: boolean;
}

function playsInOrder(ground: ReportGround, station: StationDays, range: 'days' | 'before'): Map<string, TimedPlay[]> {
  const byItem = new Map<string, TimedPlay[]>();
  const days = [...station.before, ...station.days];
  const starts = dayStarts(days);
  const asked = new Set(station[range]);
  eachPlay({ hours: null }, days, 'aired', station.airedUntil, ({ itemId, categoryId, day, at }) => {
    const counts = asked.has(day) && isAsked(ground, day, hourAt(day, at));
    const play = { at: (starts.get(day) ?? 0) + at, categoryId, counts };
    const own = byItem.get(itemId);
    if (own) own.push(play);
    else byItem.set(itemId, [play]);
  });
  for (const plays of byItem.values()) plays.sort((a, b) => a.at - b.at);
  return byItem;
}

/** When each day begins, seconds since the first; days between them that have no figures count 24 hours. */
function dayStarts(days: readonly DayFigures[]): Map<DayFigures, number> {
  const starts = new Map<DayFigures, number>();
  let [at, next] = [0, days[0]?.date ?? ''];
  for (const day of days) {
    at += daysBetween(next, day.date) * 24 * HOUR;
    starts.set(day, at);
    // A day of 23 hours has its hours where they are, so its last one tells how long it is.
    at += Math.round((elementAt(day.hourStarts, day.hourStarts.length - 1) + HOUR) / HOUR) * HOUR;
    next = addDays(day.date, 1);
  }
  return starts;
}

function sentence(
  rows: readonly { readonly name: string; readonly expected: number | null; readonly mean: number | null }[],
): string {
  const known = rows.flatMap(({ name, expected, mean }) =>
    expected !== null && mean !== null ? [{ name, expected, mean, share: mean / expected }] : [],
  );
  if (known.length === 0) return 'No song aired twice in this range.';
  const off = known.reduce((a, b) => (Math.abs(Math.log(a.share)) >= Math.abs(Math.log(b.share)) ? a : b));
  const within = known.filter(({ share }) => share > 0.9 && share < 1.1).length;
  const most =
    `${off.name} is furthest off: ${inWords(off.mean)} between plays on average, ` +
    `${inWords(off.expected)} expected by this week’s clocks.`;
  return `${within} of ${known.length} categories rest within a tenth of what their turnover promises. ${most}`;
}
