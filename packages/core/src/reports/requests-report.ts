import { REQUEST_STATES, type RequestState } from '../requests/request.js';
import { elementAt } from '../values/look-up.js';
import type { ReportGround } from './ground.js';
import type { Report } from './report.js';
import { comparedWith, counted, percent, sum } from './words.js';

const NAMES: Readonly<Record<RequestState, string>> = {
  aired: 'Aired',
  placed: 'Placed',
  waiting: 'Waiting',
  refused: 'Refused',
  'given up': 'Given up',
};

/** What listeners asked for, by what became of it, day by day. */
export function requestsReport(ground: ReportGround): Report {
  const at = new Map(ground.dates.map((date, n) => [date, n]));
  const counts = REQUEST_STATES.map(() => ground.dates.map(() => 0));
  let before = 0;
  for (const station of ground.stations) {
    for (const [date, requests] of station.requests) {
      const place = at.get(date);
      if (place === undefined) before += sum(Object.values(requests));
      else
        REQUEST_STATES.forEach((state, n) => {
          const row = elementAt(counts, n);
          row[place] = elementAt(row, place) + (requests[state] ?? 0);
        });
    }
  }
  const totals = counts.map(sum);
  const all = sum(totals);
  const aired = elementAt(totals, REQUEST_STATES.indexOf('aired'));
  return {
    sentence:
      all === 0
        ? 'Nobody asked for anything in this range.'
        : `${counted(all, 'request')}, ${comparedWith(all, before)}. ${aired} aired (${percent(aired, all)}).`,
    picture: {
      shape: 'stack',
      unit: 'count',
      labels: ground.dates,
      series: REQUEST_STATES.map((state, n) => ({ name: NAMES[state], colour: null, values: elementAt(counts, n) })),
      links: ground.dates.map((id) => ({ to: 'requests', id })),
    },
    columns: [
      { label: 'Date', unit: 'text' },
      ...REQUEST_STATES.map((state) => ({ label: NAMES[state], unit: 'count' as const })),
      { label: 'All', unit: 'count' },
    ],
    rows: ground.dates.map((id, n) => {
      const row = counts.map((own) => elementAt(own, n));
      return { cells: [id, ...row, sum(row)], link: { to: 'requests', id } };
    }),
    empty: all === 0,
  };
}
