import { categorySpread, hourSpread } from '../rotation/hour-spread.js';
import { hourAt, type DayFigures } from '../reports/day-figures.js';
import { counted, inWords, sum } from '../reports/words.js';
import { daysBetween } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';

/** A number under today’s set-up and under the changed one; null where there is none. */
export interface Beside<T = number> {
  readonly today: T;
  readonly changed: T;
}

export interface SongBeside {
  readonly itemId: string;
  readonly plays: Beside;
  /** Mean seconds between two plays. */
  readonly rest: Beside<number | null>;
}

export interface CategoryBeside {
  readonly categoryId: string;
  readonly songs: Beside;
  readonly plays: Beside;
  /** Mean seconds between two plays of one of its songs. */
  readonly rest: Beside<number | null>;
  /** As `categorySpread`. */
  readonly spread: Beside<number | null>;
  readonly open: Beside;
}

/** Two forecasts side by side. */
export interface ForecastComparison {
  /** What differs, the most telling first. */
  readonly sentences: readonly string[];
  readonly slots: Beside;
  readonly open: Beside;
  readonly strains: readonly { readonly ruleId: string; readonly count: Beside }[];
  /** Hours that end within five seconds of their mark, and all of them. */
  readonly onTime: Beside;
  readonly hours: Beside;
  readonly categories: readonly CategoryBeside[];
  readonly songs: readonly SongBeside[];
}

/** How what is compared is called. */
export interface ForecastNames {
  readonly category: (id: string) => string;
  readonly rule: (id: string) => string;
  readonly isMusic: (categoryId: string) => boolean;
}

const ON_TIME = 5;
const DAY = 86_400;
/** A rest that moves by less is the same to a listener. */
const NOTABLE = 0.05;

/** Sets what weeks come to under a changed set-up beside what they come to today. */
export function compareForecasts(
  today: readonly DayFigures[],
  changed: readonly DayFigures[],
  names: ForecastNames,
): ForecastComparison {
  const [was, is] = [summed(today), summed(changed)];
  const both = <T>(of: (one: Summed) => T): Beside<T> => ({ today: of(was), changed: of(is) });
  const keys = (of: (one: Summed) => Iterable<string>): string[] => [...new Set([...of(was), ...of(is)])].sort();
  const categories = keys((one) => one.byCategory.keys())
    .filter(names.isMusic)
    .map((categoryId): CategoryBeside => {
      const own = <T>(of: (one: OfCategory) => T, none: T): Beside<T> =>
        both((one) => {
          const found = one.byCategory.get(categoryId);
          return found ? of(found) : none;
        });
      return {
        categoryId,
        songs: own(({ items }) => items.size, 0),
        plays: own(({ plays }) => plays, 0),
        rest: own(({ rests }) => mean(rests), null),
        spread: both((one) => one.spreadOf(categoryId)),
        open: both((one) => one.open.get(categoryId) ?? 0),
      };
    });
  const strains = keys((one) => one.strains.keys()).map((ruleId) => ({
    ruleId,
    count: both((one) => one.strains.get(ruleId) ?? 0),
  }));
  const compared = {
    slots: both(({ slots }) => slots),
    open: both((one) => sum([...one.open.values()])),
    strains,
    onTime: both(({ onTime }) => onTime),
    hours: both(({ hours }) => hours),
    categories,
    songs: keys((one) => one.byItem.keys()).map((itemId): SongBeside => ({
      itemId,
      plays: both((one) => one.byItem.get(itemId)?.length ?? 0),
      rest: both((one) => mean(gaps(one.byItem.get(itemId) ?? []))),
    })),
  };
  return { ...compared, sentences: sentencesOf(compared, names) };
}

interface OfCategory {
  plays: number;
  readonly items: Set<string>;
  readonly rests: number[];
}

interface Summed {
  readonly slots: number;
  readonly open: ReadonlyMap<string, number>;
  readonly strains: ReadonlyMap<string, number>;
  readonly onTime: number;
  readonly hours: number;
  /** When each item plays, seconds from the first day. */
  readonly byItem: ReadonlyMap<string, readonly number[]>;
  readonly byCategory: ReadonlyMap<string, OfCategory>;
  readonly spreadOf: (categoryId: string) => number | null;
}

function summed(days: readonly DayFigures[]): Summed {
  const byItem = new Map<string, number[]>();
  const hoursOf = new Map<string, number[]>();
  const byCategory = new Map<string, OfCategory>();
  const [open, strains] = [new Map<string, number>(), new Map<string, number>()];
  const slotsByHour = new Map<string, number[]>();
  const add = (counts: Map<string, number>, of: Readonly<Record<string, number>>): void => {
    for (const [key, count] of Object.entries(of)) counts.set(key, (counts.get(key) ?? 0) + count);
  };
  for (const day of days) {
    add(open, day.open);
    add(strains, day.strains);
    const start = daysBetween(days[0]?.date ?? day.date, day.date) * DAY;
    for (const { itemId, categoryId, airedAt } of day.plays) {
      if (airedAt === null) continue;
      listIn(byItem, itemId).push(start + airedAt);
      const hour = elementAt(day.localHours, hourAt(day, airedAt));
      listIn(hoursOf, itemId).push(hour);
      if (categoryId === null) continue;
      let own = byCategory.get(categoryId);
      if (!own) byCategory.set(categoryId, (own = { plays: 0, items: new Set(), rests: [] }));
      own.plays++;
      own.items.add(itemId);
      let slots = slotsByHour.get(categoryId);
      if (!slots) slotsByHour.set(categoryId, (slots = Array.from({ length: 24 }, () => 0)));
      slots[hour] = elementAt(slots, hour) + 1;
    }
  }
  for (const own of byCategory.values())
    for (const id of own.items) for (const gap of gaps(byItem.get(id) ?? [])) own.rests.push(gap);
  const endings = days.flatMap((day) => day.endings);
  return {
    slots: sum(days.map(({ slots }) => slots)),
    open,
    strains,
    onTime: endings.filter((over) => Math.abs(over) <= ON_TIME).length,
    hours: endings.length,
    byItem,
    byCategory,
    spreadOf: (categoryId) => {
      const items = [...(byCategory.get(categoryId)?.items ?? [])];
      const slots = slotsByHour.get(categoryId) ?? [];
      return categorySpread(items.map((id) => hourSpread(hoursOf.get(id) ?? [], slots)));
    },
  };
}

function listIn(lists: Map<string, number[]>, key: string): number[] {
  let list = lists.get(key);
  if (!list) lists.set(key, (list = []));
  return list;
}

function gaps(at: readonly number[]): number[] {
  const sorted = [...at].sort((a, b) => a - b);
  return sorted.slice(1).map((second, n) => second - elementAt(sorted, n));
}

function mean(values: readonly number[]): number | null {
  return values.length === 0 ? null : sum(values) / values.length;
}

function sentencesOf(
  { open, strains, onTime, hours, categories }: Omit<ForecastComparison, 'sentences' | 'songs'>,
  names: ForecastNames,
): string[] {
  const said: string[] = [];
  if (open.today !== open.changed) said.push(`Open slots: ${open.changed}, ${open.today} today.`);
  const moved = categories
    .flatMap(({ categoryId, rest: { today, changed } }) =>
      today !== null && changed !== null && Math.abs(changed / today - 1) >= NOTABLE
        ? [{ categoryId, today, changed }]
        : [],
    )
    .sort((a, b) => Math.abs(Math.log(b.changed / b.today)) - Math.abs(Math.log(a.changed / a.today)));
  for (const { categoryId, today, changed } of moved)
    said.push(
      `Songs of ${names.category(categoryId)} rest ${inWords(changed)} on average, ${changed > today ? 'longer' : 'shorter'} than the ${inWords(today)} of today.`,
    );
  for (const { categoryId, songs } of categories)
    if (songs.today !== songs.changed)
      said.push(`${counted(songs.changed, 'song')} of ${names.category(categoryId)} are heard, ${songs.today} today.`);
  const different = strains
    .filter(({ count }) => count.today !== count.changed)
    .sort((a, b) => Math.abs(b.count.changed - b.count.today) - Math.abs(a.count.changed - a.count.today));
  for (const { ruleId, count } of different)
    said.push(`“${names.rule(ruleId)}” is broken ${counted(count.changed, 'time')}, ${count.today} today.`);
  if (onTime.today !== onTime.changed || hours.today !== hours.changed)
    said.push(`${onTime.changed} of ${hours.changed} hours end on time, ${onTime.today} of ${hours.today} today.`);
  return said.length > 0 ? said : ['Nothing differs that a listener would notice.'];
}
