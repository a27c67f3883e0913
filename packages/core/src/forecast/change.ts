import type { ClockLine } from '../clocks/line.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';
import { DAY_MINUTES, paint, type WeekPlan } from '../week/week-plan.js';

/** Something of the set-up that a forecast changes to see what it does. */
export type ForecastChange =
  /** Songs stand in another category; null takes them out of rotation. */
  | { readonly kind: 'move'; readonly itemIds: readonly string[]; readonly categoryId: string | null }
  /** A rule asks for another amount, or rests. */
  | { readonly kind: 'rule'; readonly ruleId: string; readonly amount?: number; readonly resting?: boolean }
  /** A clock has other lines. */
  | { readonly kind: 'clock'; readonly clockId: string; readonly lines: readonly ClockLine[] }
  /** A category gets so many songs more, each of its average length and by an artist of its own. */
  | { readonly kind: 'add'; readonly categoryId: string; readonly songs: number }
  /** A category has so many songs less: those that have rested longest leave it. */
  | { readonly kind: 'fewer'; readonly categoryId: string; readonly songs: number }
  /** Another clock runs on some days of the week (0 Monday), between two minutes of the day. */
  | {
      readonly kind: 'week';
      readonly days: readonly number[];
      readonly from: number;
      readonly to: number;
      readonly clockId: string;
    };

/** The station with changes made to it; throws RangeError for one that names what is not there. */
export function withChanges(data: StationData, changes: readonly ForecastChange[]): StationData {
  return changes.reduce(withChange, data);
}

function withChange(data: StationData, change: ForecastChange): StationData {
  switch (change.kind) {
    case 'move':
      return moved(data, change);
    case 'rule':
      return ruled(data, change);
    case 'clock':
      return clocked(data, change);
    case 'add':
      return added(data, change);
    case 'fewer':
      return thinned(data, change);
    case 'week':
      return repainted(data, change);
  }
}

type Of<K extends ForecastChange['kind']> = Extract<ForecastChange, { readonly kind: K }>;

function moved(data: StationData, { itemIds, categoryId }: Of<'move'>): StationData {
  const known = new Set(data.items.map(({ id }) => id));
  const missing = itemIds.find((id) => !known.has(id));
  if (missing !== undefined) throw new RangeError(`There is no item “${missing}”.`);
  if (categoryId !== null) mustBeCategory(data, categoryId);
  const moving = new Set(itemIds);
  const categories = Object.fromEntries(
    Object.entries(data.categories).map(([id, items]) => {
      // A song leaves the music categories it is in; what else lists it stays.
      const left = data.musicCategories.includes(id) ? items.filter((item) => !moving.has(item)) : items;
      return [id, id === categoryId ? [...left.filter((item) => !moving.has(item)), ...itemIds] : left];
    }),
  );
  // What its old category or a person planned for a song is over.
  const placed = Object.fromEntries(Object.entries(data.placed ?? {}).filter(([id]) => !moving.has(id)));
  return { ...data, categories, placed };
}

function ruled(data: StationData, { ruleId, amount, resting }: Of<'rule'>): StationData {
  if (!data.rules.some(({ id }) => id === ruleId)) throw new RangeError(`There is no rule “${ruleId}”.`);
  const rules = data.rules.map((rule) =>
    rule.id === ruleId ? { ...rule, amount: amount ?? rule.amount, resting: resting ?? rule.resting } : rule,
  );
  return { ...data, rules };
}

function clocked(data: StationData, { clockId, lines }: Of<'clock'>): StationData {
  mustBeClock(data, clockId);
  const clocks = data.plan.clocks.map((clock) => (clock.id === clockId ? { ...clock, lines } : clock));
  return { ...data, plan: { ...data.plan, clocks } };
}

function added(data: StationData, { categoryId, songs }: Of<'add'>): StationData {
  const own = mustBeCategory(data, categoryId);
  const known = new Map(data.items.map((item) => [item.id, item]));
  const lengths = own.flatMap((id) => known.get(id)?.durationMs ?? []);
  const durationMs = lengths.length ? Math.round(lengths.reduce((sum, one) => sum + one, 0) / lengths.length) : 210_000;
  const first = data.items.filter(({ id }) => id.startsWith(MADE_UP)).length;
  const made = Array.from({ length: songs }, (_, n): ScheduledItem => {
    const name = `New song ${first + n + 1}`;
    return {
      id: `${MADE_UP}${first + n + 1}`,
      title: name,
      artist: name,
      album: name,
      artistIds: [`${MADE_UP}${first + n + 1}`],
      durationMs,
      segueMs: null,
      startDate: null,
      endDate: null,
      hours: null,
      pausedUntil: null,
      approved: true,
      weight: 1,
    };
  });
  return {
    ...data,
    items: [...data.items, ...made],
    categories: { ...data.categories, [categoryId]: [...own, ...made.map(({ id }) => id)] },
  };
}

const MADE_UP = 'forecast-song-';

function thinned(data: StationData, { categoryId, songs }: Of<'fewer'>): StationData {
  const own = mustBeCategory(data, categoryId);
  if (songs > own.length) throw new RangeError(`The category has ${own.length} songs, not ${songs} to leave out.`);
  const lastMs = new Map<string, number>();
  for (const { itemId, startMs } of data.history) lastMs.set(itemId, Math.max(startMs, lastMs.get(itemId) ?? 0));
  const left = new Set([...own].sort((a, b) => (lastMs.get(a) ?? 0) - (lastMs.get(b) ?? 0)).slice(0, songs));
  return { ...data, categories: { ...data.categories, [categoryId]: own.filter((id) => !left.has(id)) } };
}

function repainted(data: StationData, { days, from, to, clockId }: Of<'week'>): StationData {
  mustBeClock(data, clockId);
  const week = withClockOn(data.plan.week, { days, from, to, clockId });
  return { ...data, plan: { ...data.plan, week } };
}

/** The week with a clock on some of its days between two minutes of the day. */
export function withClockOn(week: WeekPlan, { days, from, to, clockId }: Omit<Of<'week'>, 'kind'>): WeekPlan {
  return days.reduce(
    (now, day) => paint(now, day * DAY_MINUTES + from, to - from, { runs: 'clock', id: clockId }),
    week,
  );
}

function mustBeClock(data: StationData, id: string): void {
  if (!data.plan.clocks.some((clock) => clock.id === id)) throw new RangeError(`There is no clock “${id}”.`);
}

function mustBeCategory(data: StationData, id: string): readonly string[] {
  if (!Object.hasOwn(data.categories, id)) throw new RangeError(`There is no category “${id}” that a clock asks for.`);
  return data.categories[id] ?? [];
}
