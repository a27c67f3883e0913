import type { ClockLine } from '../clocks/line.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';

/** Something of the set-up that a forecast changes to see what it does. */
export type ForecastChange =
  /** Songs stand in another category; null takes them out of rotation. */
  | { readonly kind: 'move'; readonly itemIds: readonly string[]; readonly categoryId: string | null }
  /** A rule asks for another amount, or rests. */
  | { readonly kind: 'rule'; readonly ruleId: string; readonly amount?: number; readonly resting?: boolean }
  /** A clock has other lines. */
  | { readonly kind: 'clock'; readonly clockId: string; readonly lines: readonly ClockLine[] }
  /** A category gets so many songs more, each of its average length and by an artist of its own. */
  | { readonly kind: 'add'; readonly categoryId: string; readonly songs: number };

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
  return { ...data, categories };
}

function ruled(data: StationData, { ruleId, amount, resting }: Of<'rule'>): StationData {
  if (!data.rules.some(({ id }) => id === ruleId)) throw new RangeError(`There is no rule “${ruleId}”.`);
  const rules = data.rules.map((rule) =>
    rule.id === ruleId ? { ...rule, amount: amount ?? rule.amount, resting: resting ?? rule.resting } : rule,
  );
  return { ...data, rules };
}

function clocked(data: StationData, { clockId, lines }: Of<'clock'>): StationData {
  if (!data.plan.clocks.some(({ id }) => id === clockId)) throw new RangeError(`There is no clock “${clockId}”.`);
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

function mustBeCategory(data: StationData, id: string): readonly string[] {
  if (!Object.hasOwn(data.categories, id)) throw new RangeError(`There is no category “${id}” that a clock asks for.`);
  return data.categories[id] ?? [];
}
