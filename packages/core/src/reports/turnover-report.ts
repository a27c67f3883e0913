import { eachAired, eachAiredBefore, type ReportGround } from './ground.js';
import type { Report } from './report.js';
import { inWords, percent } from './words.js';

const DAY = 86_400;

/** How long each music category took to be heard once through, beside what its clocks and its size promise. */
export function turnoverReport(ground: ReportGround): Report {
  const plays = new Map<string, { count: number; items: Set<string> }>();
  eachAired(ground, ({ itemId, categoryId }) => {
    if (categoryId === null) return;
    let own = plays.get(categoryId);
    if (!own) plays.set(categoryId, (own = { count: 0, items: new Set() }));
    own.count++;
    own.items.add(itemId);
  });
  const playsBefore = new Map<string, number>();
  eachAiredBefore(ground, ({ categoryId }) => {
    if (categoryId !== null) playsBefore.set(categoryId, (playsBefore.get(categoryId) ?? 0) + 1);
  });
  const daysWithPlays = (range: 'days' | 'before'): number =>
    ground.stations.reduce((all, own) => all + own[range].filter((day) => day.plays.length > 0).length, 0);
  const [stationDays, stationDaysBefore] = [daysWithPlays('days'), daysWithPlays('before')];
  const rows = [...ground.names.categories]
    .filter(([, { music }]) => music)
    .map(([id, { name, expected }]) => {
      const own = plays.get(id);
      const size = Math.max(expected?.items ?? 0, own?.items.size ?? 0);
      return {
        id,
        name,
        size,
        expected,
        count: own?.count ?? 0,
        heard: own?.items.size ?? 0,
        real: own ? (size * stationDays * DAY) / own.count : null,
        before: playsBefore.has(id) ? (size * stationDaysBefore * DAY) / (playsBefore.get(id) ?? 1) : null,
      };
    })
    .filter(({ expected, count }) => expected !== null || count > 0);
  const days = (seconds: number | null): number | null =>
    seconds === null ? null : Math.round((seconds / DAY) * 100) / 100;
  const planned = ({ expected }: (typeof rows)[number]): number | null => expected && expected.restMs / 1000;
  return {
    sentence: sentence(rows.map((row) => ({ ...row, planned: planned(row) }))),
    picture: {
      shape: 'bars',
      unit: 'days',
      labels: rows.map(({ name }) => name),
      series: [
        { name: 'Real', colour: null, values: rows.map(({ real }) => days(real)) },
        { name: 'By the week plan', colour: null, values: rows.map((row) => days(planned(row))) },
      ],
      links: rows.map(({ id }) => ({ to: 'category', id })),
    },
    columns: [
      { label: 'Category', unit: 'text' },
      { label: 'Songs', unit: 'count' },
      { label: 'Heard', unit: 'count' },
      { label: 'Plays', unit: 'count' },
      { label: 'Turnover by plan', unit: 'days' },
      { label: 'Real turnover', unit: 'days' },
      { label: 'Before', unit: 'days' },
    ],
    rows: rows.map((row) => ({
      cells: [row.name, row.size, row.heard, row.count, days(planned(row)), days(row.real), days(row.before)],
      link: { to: 'category', id: row.id },
    })),
    empty: rows.every(({ count }) => count === 0),
  };
}

function sentence(
  rows: readonly {
    readonly name: string;
    readonly size: number;
    readonly heard: number;
    readonly count: number;
    readonly real: number | null;
    readonly planned: number | null;
  }[],
): string {
  const played = rows.filter(({ count }) => count > 0);
  if (played.length === 0) return 'Nothing aired in this range.';
  const [songs, heard] = [rows.reduce((all, { size }) => all + size, 0), rows.reduce((all, row) => all + row.heard, 0)];
  const known = played.flatMap(({ name, real, planned }) =>
    real !== null && planned !== null ? [{ name, real, planned }] : [],
  );
  const start = `${heard} of ${songs} songs were heard (${percent(heard, songs)}).`;
  if (known.length === 0) return start;
  const off = known.reduce((a, b) =>
    Math.abs(Math.log(a.real / a.planned)) >= Math.abs(Math.log(b.real / b.planned)) ? a : b,
  );
  return `${start} ${off.name} is furthest from its plan: once through in ${inWords(off.real)}, ${inWords(off.planned)} by the week plan.`;
}
