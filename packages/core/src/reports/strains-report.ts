import { elementAt } from '../values/look-up.js';
import type { ReportGround } from './ground.js';
import type { Report } from './report.js';
import { comparedWith, counted, percent, sum } from './words.js';

const OPEN = 'open';
/** Rules that are drawn with a colour of their own; the rest are one. */
const DRAWN = 6;

/** Strains by rule and open slots, day by day, as each log was when it last changed. */
export function strainsReport(ground: ReportGround): Report {
  const { dates, names } = ground;
  const at = new Map(dates.map((date, n) => [date, n]));
  const counts = new Map<string, { byDate: number[]; before: number }>();
  const entryOf = (key: string): { byDate: number[]; before: number } => {
    let own = counts.get(key);
    if (!own) counts.set(key, (own = { byDate: dates.map(() => 0), before: 0 }));
    return own;
  };
  let [slots, logs] = [0, 0];
  for (const { days, before } of ground.stations) {
    for (const day of days) {
      slots += day.slots;
      logs += day.hasLog ? 1 : 0;
      for (const [key, count] of [...Object.entries(day.strains), [OPEN, sum(Object.values(day.open))] as const]) {
        const { byDate } = entryOf(key);
        const n = at.get(day.date) ?? 0;
        byDate[n] = elementAt(byDate, n) + count;
      }
    }
    for (const day of before) {
      for (const [key, count] of Object.entries(day.strains)) entryOf(key).before += count;
      entryOf(OPEN).before += sum(Object.values(day.open));
    }
  }
  const nameOf = (key: string): string => (key === OPEN ? 'Open slots' : (names.rules.get(key) ?? 'Deleted rule'));
  const ranked = [...counts]
    .map(([key, own]) => ({ key, ...own, total: sum(own.byDate) }))
    .sort((a, b) => b.total - a.total || nameOf(a.key).localeCompare(nameOf(b.key)));
  const some = ranked.filter(({ total }) => total > 0);
  const drawn = some.slice(0, DRAWN);
  const others = some.slice(DRAWN);
  const rest = dates.map((_, n) => sum(others.map(({ byDate }) => elementAt(byDate, n))));
  return {
    sentence: sentence(ranked, nameOf, slots, logs),
    picture: {
      shape: 'lines',
      unit: 'count',
      labels: dates,
      series: [
        ...drawn.map(({ key, byDate }) => ({ name: nameOf(key), colour: null, values: byDate })),
        ...(others.length ? [{ name: 'Other rules', colour: null, values: rest }] : []),
      ],
      links: dates.map((id) => ({ to: 'log', id })),
    },
    columns: [
      { label: 'Rule', unit: 'text' },
      { label: 'Strains', unit: 'count' },
      { label: 'Before', unit: 'count' },
      { label: 'Difference', unit: 'count' },
      { label: 'Worst date', unit: 'text' },
      { label: 'On that date', unit: 'count' },
    ],
    rows: ranked.map(({ key, byDate, total, before }) => {
      const worst = byDate.reduce((most, count, n) => (count > elementAt(byDate, most) ? n : most), 0);
      return {
        cells: [
          nameOf(key),
          total,
          before,
          total - before,
          total > 0 ? elementAt(dates, worst) : null,
          total > 0 ? elementAt(byDate, worst) : null,
        ],
        link: key === OPEN || !names.rules.has(key) ? null : { to: 'rule', id: key },
      };
    }),
    empty: logs === 0,
  };
}

function sentence(
  ranked: readonly { readonly key: string; readonly total: number; readonly before: number }[],
  nameOf: (key: string) => string,
  slots: number,
  logs: number,
): string {
  if (logs === 0) return 'No day of this range has a log.';
  const rules = ranked.filter(({ key }) => key !== OPEN);
  const total = sum(rules.map(({ total: own }) => own));
  const open = ranked.find(({ key }) => key === OPEN)?.total ?? 0;
  const compared = comparedWith(total, sum(rules.map(({ before }) => before)));
  const [most] = rules;
  const worst = most && most.total > 0 ? ` Most under “${nameOf(most.key)}”: ${most.total}.` : '';
  const slotWords = `${counted(open, 'slot')} open of ${counted(slots, 'slot')} (${percent(open, slots)})`;
  return `${counted(total, 'strain')} in ${counted(logs, 'log')}, ${compared}.${worst} ${slotWords}.`;
}
