import { addDays, weekdayOf } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { familyName } from '../library/filter/parse-filter.js';
import { eachAired, eachAiredBefore, type CountedPlay, type ReportFamily, type ReportGround } from './ground.js';
import { HOUR_NAMES } from './hours-report.js';
import type { Report, ReportLink } from './report.js';
import { percent, sum } from './words.js';

const NO_VALUE = 'Not set';

/** How the values of a tag family share the songs of each hour of the day. */
export function mixOverDayReport(ground: ReportGround, family: ReportFamily): Report {
  return mixReport(ground, family, {
    first: 'Hour',
    labels: HOUR_NAMES,
    placeOf: ({ day, hour }) => elementAt(day.localHours, hour),
    linkOf: () => null,
  });
}

/** How the values of a tag family share the songs of each week, from Monday on. */
export function mixOverWeeksReport(ground: ReportGround, family: ReportFamily): Report {
  const mondays = [...new Set(ground.dates.map(mondayOf))];
  // By date, since a year has a quarter of a million plays.
  const at = new Map(ground.dates.map((date) => [date, mondays.indexOf(mondayOf(date))]));
  return mixReport(ground, family, {
    first: 'Week from',
    labels: mondays,
    placeOf: ({ day }) => at.get(day.date) ?? 0,
    linkOf: (place) => ({ to: 'log', id: elementAt(mondays, place) }),
  });
}

export function mondayOf(date: string): string {
  return addDays(date, -weekdayOf(date));
}

interface Places {
  readonly first: string;
  readonly labels: readonly string[];
  readonly placeOf: (play: CountedPlay) => number;
  readonly linkOf: (place: number) => ReportLink | null;
}

function mixReport(ground: ReportGround, family: ReportFamily, places: Places): Report {
  const values = [...family.values, NO_VALUE];
  const at = new Map(values.map((value, n) => [value, n]));
  const counts = places.labels.map(() => values.map(() => 0));
  const before = values.map(() => 0);
  const songs = places.labels.map(() => 0);
  const count = (row: number[], tags: readonly string[]): void => {
    for (const value of tags.length ? tags : [NO_VALUE]) {
      const n = at.get(value);
      if (n !== undefined) row[n] = elementAt(row, n) + 1;
    }
  };
  eachAired(ground, (play) => {
    const item = ground.names.items.get(play.itemId);
    if (item?.kind !== 'song') return;
    const place = places.placeOf(play);
    songs[place] = elementAt(songs, place) + 1;
    count(elementAt(counts, place), item.tags[family.name] ?? []);
  });
  let songsBefore = 0;
  eachAiredBefore(ground, ({ itemId }) => {
    const item = ground.names.items.get(itemId);
    if (item?.kind !== 'song') return;
    songsBefore++;
    count(before, item.tags[family.name] ?? []);
  });
  // A song with two values counts for both, so shares are of all values counted.
  const shareIn = (row: readonly number[], n: number): number | null =>
    sum(row) === 0 ? null : Math.round((1000 * elementAt(row, n)) / sum(row)) / 10;
  const shareOf = (place: number, n: number): number | null => shareIn(elementAt(counts, place), n);
  const used = values.map((_, n) => n).filter((n) => counts.some((row) => elementAt(row, n) > 0));
  const asked = places.labels.map((_, place) => place).filter((place) => elementAt(songs, place) > 0);
  return {
    sentence: sentence(family, values, counts, before),
    picture: {
      shape: 'stack',
      unit: 'percent',
      labels: asked.map((place) => elementAt(places.labels, place)),
      series: used.map((n) => ({
        name: elementAt(values, n),
        colour: null,
        ...(n < family.values.length ? { link: filterFor(family.name, elementAt(values, n)) } : {}),
        values: asked.map((place) => shareOf(place, n)),
      })),
      links: asked.map((place) => places.linkOf(place)),
    },
    columns: [
      { label: places.first, unit: 'text' },
      { label: 'Songs', unit: 'count' },
      ...used.map((n) => ({ label: elementAt(values, n), unit: 'percent' as const })),
    ],
    rows: [
      ...asked.map((place) => ({
        cells: [elementAt(places.labels, place), elementAt(songs, place), ...used.map((n) => shareOf(place, n))],
        link: places.linkOf(place),
      })),
      ...(songsBefore > 0 && asked.length > 0
        ? [{ cells: ['Range before', songsBefore, ...used.map((n) => shareIn(before, n))], link: null }]
        : []),
    ],
    empty: asked.length === 0,
  };
}

/** The items that have a value of a family, as a search of the library. */
function filterFor(family: string, value: string): ReportLink {
  const plain = /^[\p{L}\p{N}]+$/u.test(value) ? value : `"${value.replaceAll('"', '')}"`;
  return { to: 'filter', id: `${familyName(family)}:${plain}` };
}

function sentence(
  { name }: ReportFamily,
  values: readonly string[],
  counts: readonly (readonly number[])[],
  before: readonly number[],
): string {
  const totals = values.map((_, n) => sum(counts.map((row) => elementAt(row, n))));
  const all = sum(totals);
  if (all === 0) return 'No song aired in this range.';
  const ranked = totals
    .map((total, n) => ({ total, n, value: elementAt(values, n) }))
    .sort((a, b) => b.total - a.total);
  const shares = ranked
    .filter(({ total }) => total > 0)
    .slice(0, 3)
    .map(({ total, value, n }) => {
      const was = sum(before) > 0 ? ` (${percent(elementAt(before, n), sum(before))} before)` : '';
      return `${value} ${percent(total, all)}${was}`;
    });
  return `${name.charAt(0).toUpperCase()}${name.slice(1)} of the songs that aired: ${shares.join(', ')}.`;
}
