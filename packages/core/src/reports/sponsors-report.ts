import { holdsOn, type Sponsor } from '../sponsors/sponsor.js';
import { nameKey } from '../text/fold.js';
import type { ReportGround } from './ground.js';
import type { Report } from './report.js';
import { counted, sum } from './words.js';

interface Row {
  readonly name: string;
  /** A week's promise counts a seventh for each day. */
  readonly promised: number;
  planned: number;
  aired: number;
  /** Planned on days of which nothing is known. */
  unknown: number;
  /** Planned in the range before. */
  before: number;
}

/** Spots and messages of each sponsor: promised, planned and aired. */
export function sponsorsReport(ground: ReportGround): Report {
  const rows = new Map<string, Row>();
  for (const sponsor of ground.names.sponsors) {
    const promised = sum(ground.dates.map((date) => promisedOn(sponsor, date)));
    rows.set(nameKey(sponsor.name), { name: sponsor.name, promised, planned: 0, aired: 0, unknown: 0, before: 0 });
  }
  const rowOf = (name: string): Row => {
    const key = nameKey(name);
    let own = rows.get(key);
    if (!own) rows.set(key, (own = { name, promised: 0, planned: 0, aired: 0, unknown: 0, before: 0 }));
    return own;
  };
  for (const { before } of ground.stations)
    for (const { sponsors } of before) for (const { name, planned } of sponsors) rowOf(name).before += planned;
  for (const { days } of ground.stations)
    for (const { sponsors } of days)
      for (const { name, planned, aired } of sponsors) {
        const own = rowOf(name);
        own.planned += planned;
        if (aired === null) own.unknown += planned;
        else own.aired += aired;
      }
  const ranked = [...rows.values()]
    .map((row) => ({ ...row, promised: Math.round(row.promised) }))
    .filter(({ promised, planned, aired, before }) => promised + planned + aired + before > 0)
    .sort((a, b) => b.planned - a.planned || a.name.localeCompare(b.name));
  const shown = ranked.slice(0, 25);
  return {
    sentence: sentence(ranked),
    picture: {
      shape: 'bars',
      unit: 'count',
      labels: shown.map(({ name }) => name),
      series: [
        { name: 'Aired', colour: null, values: shown.map(({ aired }) => aired) },
        { name: 'Planned', colour: null, values: shown.map(({ planned }) => planned) },
        { name: 'Promised', colour: null, values: shown.map(({ promised }) => promised) },
      ],
      links: shown.map(({ name }) => ({ to: 'sponsor', id: name })),
    },
    columns: [
      { label: 'Sponsor', unit: 'text' },
      { label: 'Promised', unit: 'count' },
      { label: 'Planned', unit: 'count' },
      { label: 'Aired', unit: 'count' },
      { label: 'Planned, as-run not known', unit: 'count' },
      { label: 'Planned before', unit: 'count' },
    ],
    rows: ranked.map(({ name, promised, planned, aired, unknown, before }) => ({
      cells: [name, promised, planned, aired, unknown, before],
      link: { to: 'sponsor', id: name },
    })),
    empty: ranked.length === 0,
  };
}

/** What of an agreement falls on a date; a week's promise is shared out over its days. */
function promisedOn(sponsor: Sponsor, date: string): number {
  if (!holdsOn(sponsor, date)) return 0;
  return sum(sponsor.promises.map(({ count, per }) => (per === 'day' ? count : count / 7)));
}

function sentence(rows: readonly Row[]): string {
  if (rows.length === 0) return 'No sponsor had anything in this range.';
  const [planned, aired, unknown] = [
    sum(rows.map((row) => row.planned)),
    sum(rows.map((row) => row.aired)),
    sum(rows.map((row) => row.unknown)),
  ];
  const short = rows.filter(({ promised, planned: own }) => own < promised);
  const start = `${counted(planned, 'spot and message', 'spots and messages')} planned for ${counted(rows.length, 'sponsor')}, ${aired} known to have aired.`;
  const notKnown = unknown > 0 ? ` For ${unknown} there is no as-run.` : '';
  const missed =
    short.length > 0
      ? ` ${short
          .map(({ name }) => name)
          .slice(0, 3)
          .join(', ')} had fewer than promised.`
      : '';
  return `${start}${notKnown}${missed}`;
}
