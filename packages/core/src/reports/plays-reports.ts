import { elementAt } from '../values/look-up.js';
import type { DayFigures } from './day-figures.js';
import { countPlays, type Counts, type CountedPlay, type ReportGround } from './ground.js';
import type { Report, ReportColumn, ReportLink } from './report.js';
import { comparedWith, counted, sum, withCommas } from './words.js';

/** A picture shows so many of the most played. */
const SHOWN = 25;
/** So many that did not air are listed. */
const MOST_SILENT = 2000;
const byName = new Intl.Collator('en').compare;

interface Subject {
  readonly one: string;
  readonly columns: readonly string[];
  readonly keysOf: (play: CountedPlay) => readonly string[];
  readonly labelOf: (key: string) => readonly string[];
  readonly linkOf: (key: string) => ReportLink | null;
  readonly colourOf?: (key: string) => string | null;
  /** What could have played and is counted with 0 where it did not. */
  readonly all?: readonly string[];
}

const COUNTS: readonly ReportColumn[] = [
  { label: 'Planned', unit: 'count' },
  { label: 'Aired', unit: 'count' },
  { label: 'Before', unit: 'count' },
  { label: 'Difference', unit: 'count' },
];

/** Plays of each song, planned and aired. */
export function songsReport(ground: ReportGround): Report {
  const { items } = ground.names;
  return playsReport(ground, {
    one: 'song',
    columns: ['Title', 'Artist'],
    keysOf: ({ itemId }) => (isMusic(ground, itemId) ? [itemId] : []),
    labelOf: (id) => [items.get(id)?.title ?? 'Deleted song', items.get(id)?.artist ?? ''],
    linkOf: (id) => (items.has(id) ? { to: 'item', id } : null),
    all: [...items].flatMap(([id, { kind }]) => (kind === 'song' ? [id] : [])),
  });
}

/** Plays of each artist; a song of two counts for both. */
export function artistsReport(ground: ReportGround): Report {
  const { items } = ground.names;
  const nameOf = new Map<string, string>();
  for (const { artists } of items.values()) for (const { id, name } of artists) nameOf.set(id, name);
  const creditedOn = new Map([...items].map(([id, { artists }]) => [id, artists.map((artist) => artist.id)]));
  return playsReport(ground, {
    one: 'artist',
    columns: ['Artist'],
    keysOf: ({ itemId }) => (isMusic(ground, itemId) ? (creditedOn.get(itemId) ?? []) : []),
    labelOf: (id) => [nameOf.get(id) ?? 'Deleted artist'],
    linkOf: (id) => ({ to: 'artist', id: nameOf.get(id) ?? '' }),
  });
}

const NO_CATEGORY = '';

/** Plays of each category, as each play was picked. */
export function categoriesReport(ground: ReportGround): Report {
  const { categories } = ground.names;
  return playsReport(ground, {
    one: 'category',
    columns: ['Category'],
    keysOf: ({ categoryId }) => [categoryId ?? NO_CATEGORY],
    labelOf: (id) => [id === NO_CATEGORY ? 'No category' : (categories.get(id)?.name ?? 'Deleted category')],
    linkOf: (id) => (categories.has(id) ? { to: 'category', id } : null),
    colourOf: (id) => categories.get(id)?.colour ?? null,
  });
}

/** A song, or something that was deleted since and stood in a music category. */
function isMusic({ names }: ReportGround, itemId: string): boolean {
  return (names.items.get(itemId)?.kind ?? 'song') === 'song';
}

function playsReport(ground: ReportGround, subject: Subject): Report {
  const counts = countPlays(ground, subject.keysOf);
  const nothing: Counts = { planned: 0, aired: 0, before: 0 };
  for (const key of subject.all ?? []) if (!counts.has(key)) counts.set(key, nothing);
  const ranked = [...counts].sort(
    ([a, one], [b, other]) =>
      other.aired - one.aired ||
      other.planned - one.planned ||
      other.before - one.before ||
      byName(elementAt(subject.labelOf(a), 0), elementAt(subject.labelOf(b), 0)),
  );
  const heard = ranked.filter(([, { aired, planned }]) => aired + planned > 0);
  const shown = heard.slice(0, SHOWN);
  const known = ranked.filter(([, { planned, aired, before }]) => planned + aired + before > 0).length;
  const listed = known + MOST_SILENT;
  const blank = subject.columns.slice(1).map(() => '');
  const days = ground.stations.flatMap((station) => station.days);
  const logs = days.filter(({ hasLog }) => hasLog).length;
  const labelOf = (key: string): string => subject.labelOf(key).filter(Boolean).join(' · ');
  return {
    sentence: sentence(subject, ranked, labelOf) + plannedWords(logs, days),
    picture: {
      shape: 'bars',
      unit: 'count',
      labels: shown.map(([key]) => labelOf(key)),
      series: [
        { name: 'Aired', colour: null, values: shown.map(([, { aired }]) => aired) },
        ...(logs * 2 > days.length
          ? [{ name: 'Planned', colour: null, values: shown.map(([, { planned }]) => planned) }]
          : []),
        { name: 'Before', colour: null, values: shown.map(([, { before }]) => before) },
      ],
      links: shown.map(([key]) => subject.linkOf(key)),
    },
    columns: [...subject.columns.map((label): ReportColumn => ({ label, unit: 'text' })), ...COUNTS],
    rows: [
      ...ranked.slice(0, listed).map(([key, { planned, aired, before }]) => ({
        cells: [...subject.labelOf(key), planned, aired, before, aired - before],
        link: subject.linkOf(key),
      })),
      ...(listed < ranked.length
        ? [{ cells: [`${withCommas(ranked.length - listed)} more did not air`, ...blank, 0, 0, 0, 0], link: null }]
        : []),
    ],
    empty: ranked.every(([, { planned, aired, before }]) => planned + aired + before === 0),
  };
}

/** Days brought in without a log, or before Fuller, have nothing planned. */
function plannedWords(logs: number, days: readonly DayFigures[]): string {
  if (logs === 0 || logs === days.length) return '';
  return ` Planned counts ${counted(logs, 'day')} of ${days.length}, those that have a log.`;
}

function sentence(
  { one, all }: Subject,
  ranked: readonly (readonly [string, Counts])[],
  labelOf: (key: string) => string,
): string {
  const [first] = ranked;
  const total = sum(ranked.map(([, { aired }]) => aired));
  const many = one === 'category' ? 'categories' : `${one}s`;
  if (!first || total === 0) {
    const planned = sum(ranked.map(([, counts]) => counts.planned));
    return planned > 0 ? `Nothing has aired yet; ${counted(planned, 'play')} planned.` : 'Nothing aired in this range.';
  }
  const [key, { aired, before }] = first;
  const silent = ranked.filter((row) => row[1].aired === 0).length;
  const heard = `${counted(ranked.length - silent, one, many)} aired ${counted(total, 'time')}.`;
  const most = `${labelOf(key)} aired most: ${counted(aired, 'time')}, ${comparedWith(aired, before)}.`;
  const rest = all && silent > 0 ? ` ${withCommas(silent)} did not air.` : '';
  return `${heard} ${most}${rest}`;
}
