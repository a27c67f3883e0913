import { elementAt, lookUp, lookUpIn } from '../values/look-up.js';
import type { Draw } from '../clocks/line.js';
import type { LengthLookup } from '../clocks/expected-starts.js';
import { coolingUntil } from '../rotation/cool-off.js';
import type { TurnOrder } from '../rotation/category.js';
import { unavailabilityOnDate, type Unavailability } from '../library/availability.js';
import { hoursOfDay, localTimeOf } from '../time/local-day.js';
import { airTimes, type LogTiming } from '../log/air-times.js';
import type { InstanceItem } from '../sequence/parts.js';
import { allEntries, itemOf, type DailyLog, type PickEntry } from '../log/daily-log.js';
import { TEASED, teaseBook, type TeaseBook } from '../bound/tease-book.js';
import { playsBefore } from './even-history.js';
import { tagsOf, withStationTags } from './rule-tags.js';
import type { ScheduledItem, StationData, StationPlay } from './station-data.js';

type WorkedOut = Pick<StationModel, 'known' | 'instanceItems' | 'songOf' | 'tagsOfItem'>;

/** Models of the same history share when each item played. */
const pastOf = new WeakMap<
  readonly StationPlay[],
  { readonly dayStartMs: number; readonly plays: ReadonlyMap<string, readonly number[]> }
>();

/** Models of the same items share which of them some tease announces, by id. */
const teasedIds = new WeakMap<readonly ScheduledItem[], ReadonlySet<string>>();
const teasedOf = new WeakMap<readonly InstanceItem[], readonly InstanceItem[]>();

/** Models of the same items share what is worked out from these. */
const workedOut = new WeakMap<readonly ScheduledItem[], WorkedOut>();

/** An item stays the same object as long as it is not changed, whatever else the library has by then. */
const instanceItemOf = new WeakMap<ScheduledItem, InstanceItem>();

function toInstanceItem(item: ScheduledItem): InstanceItem {
  let made = instanceItemOf.get(item);
  if (!made) {
    made = { id: item.id, duration: Math.round(item.durationMs / 1000), tags: tagsOf(item) };
    instanceItemOf.set(item, made);
  }
  return made;
}

function workOut(items: readonly ScheduledItem[]): WorkedOut {
  const instanceItems = items.map(toInstanceItem);
  return {
    known: new Map(items.map((item) => [item.id, item])),
    instanceItems,
    tagsOfItem: new Map(instanceItems.map(({ id, tags }) => [id, tags])),
    songOf: new Map(instanceItems.map(({ id, tags }) => [id, elementAt(lookUpIn(tags, 'song'), 0)])),
  };
}

/** What is worked out once from a station's data and used in every pass over a day. */
export class StationModel implements LengthLookup {
  readonly known: ReadonlyMap<string, ScheduledItem>;
  /** The items as the engine sees them. */
  readonly instanceItems: readonly InstanceItem[];
  /** What tells one song from another, by item id. */
  readonly songOf: ReadonlyMap<string, string>;
  /** Values of the tags that separations look at, by item id. */
  readonly tagsOfItem: ReadonlyMap<string, Readonly<Record<string, readonly string[]>>>;
  private readonly averages = new Map<string, number>();
  private book: TeaseBook | null = null;
  private readonly filtered = new Map<string, ReadonlySet<string>>();

  constructor(readonly data: StationData) {
    let worked = workedOut.get(data.items);
    if (!worked) workedOut.set(data.items, (worked = workOut(data.items)));
    this.known = worked.known;
    this.instanceItems = withStationTags(worked.instanceItems, data);
    this.songOf = worked.songOf;
    this.tagsOfItem =
      this.instanceItems === worked.instanceItems
        ? worked.tagsOfItem
        : new Map(this.instanceItems.map(({ id, tags }) => [id, tags]));
  }

  /** The time an item takes until the next one begins, milliseconds. */
  readonly lengthOf = (itemId: string): number => {
    const item = this.known.get(itemId);
    return item ? item.durationMs - (item.segueMs ?? 0) : 0;
  };

  /** Which teases announce what. */
  get teases(): TeaseBook {
    return (this.book ??= teaseBook(this.data));
  }

  /** Average length of the station's teases, milliseconds. */
  get teaseMs(): number {
    return this.teases.averageMs;
  }

  /** The items with a tag on those that some tease announces. */
  get teasedItems(): readonly InstanceItem[] {
    let teased = teasedOf.get(this.instanceItems);
    if (!teased) {
      const { items } = this.data;
      const ids =
        teasedIds.get(items) ?? new Set(items.flatMap((item) => (this.teases.ofItem(item).length > 0 ? item.id : [])));
      teasedIds.set(items, ids);
      teased = this.instanceItems.map((item) =>
        ids.has(item.id) ? { ...item, tags: { ...item.tags, [TEASED]: ['yes'] } } : item,
      );
      teasedOf.set(this.instanceItems, teased);
    }
    return teased;
  }

  /** The whole length of an item, milliseconds; 0 when it is unknown. */
  durationOf(itemId: string): number {
    return this.known.get(itemId)?.durationMs ?? 0;
  }

  readonly averageOf = ({ categoryId, filter }: Draw): number => this.averageOfDraw(categoryId, filter ? [filter] : []);

  readonly averageOfSlot = ({ categoryId, filters = [] }: Pick<PickEntry, 'categoryId' | 'filters'>): number =>
    this.averageOfDraw(categoryId, filters);

  private averageOfDraw(categoryId: string, filters: readonly string[]): number {
    const key = [categoryId, ...filters].join('\u001f');
    const known = this.averages.get(key);
    if (known !== undefined) return known;
    const items = this.itemsFor(categoryId, filters);
    const total = items.reduce((sum, itemId) => sum + this.lengthOf(itemId), 0);
    const average = items.length ? Math.round(total / items.length) : 0;
    this.averages.set(key, average);
    return average;
  }

  /** The items of a category or pool that fit some filters. Throws RangeError for a filter that was not looked up. */
  itemsFor(categoryId: string, filters: readonly string[]): readonly string[] {
    return (this.data.categories[categoryId] ?? []).filter(this.fitting(filters));
  }

  /** Whether an item fits every one of some filters. */
  fitting(filters: readonly string[]): (itemId: string) => boolean {
    const sets = filters.map((filter) => this.itemsFitting(filter));
    return (itemId) => sets.every((set) => set.has(itemId));
  }

  private itemsFitting(filter: string): ReadonlySet<string> {
    const known = this.filtered.get(filter);
    if (known) return known;
    const found = this.data.filters[filter];
    if (!found) throw new RangeError(`nothing is known of the filter “${filter}”`);
    const set = new Set(found);
    this.filtered.set(filter, set);
    return set;
  }

  /** The same station with another turn order for a category. */
  withOrder(categoryId: string, order: TurnOrder): StationModel {
    return new StationModel({ ...this.data, orders: { ...this.data.orders, [categoryId]: order } });
  }

  /** When each entry of a log airs. */
  timing(log: DailyLog): LogTiming {
    return airTimes(log, this);
  }

  /** When each item played before a day, latest first. */
  playsBefore(dayStartMs: number): ReadonlyMap<string, readonly number[]> {
    const { history } = this.data;
    let past = pastOf.get(history);
    if (past?.dayStartMs !== dayStartMs)
      pastOf.set(history, (past = { dayStartMs, plays: playsBefore(history, dayStartMs) }));
    return past.plays;
  }

  /** What keeps an item of a category out of a whole station-local date; null when nothing does. */
  unavailabilityOn(item: ScheduledItem, categoryId: string, date: string): Unavailability | null {
    if (item.durationMs <= 0) return { because: 'no length' };
    if (!item.approved && this.data.approvedOnly.includes(categoryId)) return { because: 'not approved' };
    const bar = unavailabilityOnDate(item, date);
    const coolOff = this.data.coolOffs[categoryId];
    if (bar || !coolOff) return bar;
    const until = coolingUntil(coolOff, this.playDates(item.id, date), date);
    return until === null ? null : { because: 'cooling off', until };
  }

  private playDates(itemId: string, date: string): string[] {
    const dayStartMs = elementAt(hoursOfDay(date, this.data.timeZone), 0).startMs;
    const plays = this.playsBefore(dayStartMs).get(itemId) ?? [];
    return plays.map((startMs) => localTimeOf(startMs, this.data.timeZone).date);
  }

  /** The plays in a log, in order. */
  plays(log: DailyLog): StationPlay[] {
    const { entries } = this.timing(log);
    return allEntries(log).flatMap((entry) => {
      const itemId = itemOf(entry);
      return itemId === null ? [] : [{ itemId, startMs: lookUp(entries, entry.id).startMs }];
    });
  }
}
