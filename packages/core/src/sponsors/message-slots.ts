import { mayAirInHour } from '../library/availability.js';
import { allEntries, itemOf, type DailyLog, type FixedEntry, type LogEntry, type PickEntry } from '../log/daily-log.js';
import { daypartsAt } from '../rules/daypart.js';
import type { StationModel } from '../station/station-model.js';
import { nameKey } from '../text/fold.js';
import { weekdayOf } from '../time/local-day.js';
import { lookUp } from '../values/look-up.js';
import { sponsorKey } from './sponsor.js';

/** A slot of a log that sponsor messages fill. */
export interface MessageSlot {
  readonly entryId: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly hourIndex: number;
  /** What follows each other without a song between is one block; the number of songs before it. */
  readonly block: number;
  readonly daypartIds: readonly string[];
  /** The messages that may air there, by the key of their sponsor. */
  readonly messages: ReadonlyMap<string, readonly string[]>;
  /** The message that stands there; null for none. */
  readonly itemId: string | null;
}

/** A spot in a break, as far as sponsors nearby mind it. */
export interface NearSpot {
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly block: number;
  readonly sponsor: string;
  readonly product: string;
}

/** Whether a category or pool holds sponsor messages alone. */
export function holdsMessages(model: StationModel, categoryId: string): boolean {
  const items = model.data.categories[categoryId] ?? [];
  return items.length > 0 && items.every((id) => model.known.get(id)?.kind === 'sponsor message');
}

/** The slots of a log that sponsor messages fill, in order. */
export function messageSlots(model: StationModel, log: DailyLog): MessageSlot[] {
  const isMessages = new Map<string, boolean>();
  const fills = (entry: LogEntry): entry is PickEntry | FixedEntry => {
    if (entry.kind === 'item') return !entry.out && model.known.get(entry.itemId)?.kind === 'sponsor message';
    if (entry.kind !== 'pick' || entry.out) return false;
    let known = isMessages.get(entry.categoryId);
    if (known === undefined) isMessages.set(entry.categoryId, (known = holdsMessages(model, entry.categoryId)));
    return known;
  };
  if (!allEntries(log).some(fills)) return [];
  const { entries: times } = model.timing(log);
  const weekday = weekdayOf(log.date);
  const blocks = blocksOf(model, log);
  return log.hours.flatMap(({ index, localHour, entries }) =>
    entries.filter(fills).map((entry): MessageSlot => {
      const messages = new Map<string, string[]>();
      const drawn = entry.kind === 'item' ? [entry.itemId] : model.itemsFor(entry.categoryId, entry.filters ?? []);
      for (const id of drawn) {
        const item = model.known.get(id);
        const source = entry.kind === 'item' ? '' : entry.categoryId;
        if (!item || model.unavailabilityOn(item, source, log.date) !== null) continue;
        if (!mayAirInHour(item, weekday, localHour)) continue;
        const key = sponsorKey(item);
        const own = messages.get(key);
        if (own) own.push(id);
        else messages.set(key, [id]);
      }
      return {
        entryId: entry.id,
        startMs: lookUp(times, entry.id).startMs,
        hourIndex: index,
        block: lookUp(blocks, entry.id),
        daypartIds: daypartsAt(model.data.dayparts, weekday, localHour),
        messages,
        itemId: itemOf(entry),
      };
    }),
  );
}

/** By entry, how many songs stand before it. */
function blocksOf(model: StationModel, log: DailyLog): ReadonlyMap<string, number> {
  const music = new Set(model.data.musicCategories);
  let songs = 0;
  return new Map(
    allEntries(log).map((entry) => {
      const block = [entry.id, songs] as const;
      const itemId = itemOf(entry);
      const isSong =
        itemId === null
          ? entry.kind === 'pick' && !entry.out && music.has(entry.categoryId)
          : (model.known.get(itemId)?.kind ?? 'song') === 'song';
      if (isSong) songs++;
      return block;
    }),
  );
}

/** The spots of a log with when they air. */
export function nearSpots(model: StationModel, log: DailyLog): NearSpot[] {
  const { entries: times } = model.timing(log);
  const blocks = blocksOf(model, log);
  return allEntries(log).flatMap((entry) => {
    if (entry.kind !== 'break' || entry.out) return [];
    let startMs = lookUp(times, entry.id).startMs;
    return (entry.spots ?? []).map(({ sponsor, product, lengthMs }): NearSpot => {
      const spot = { startMs, block: lookUp(blocks, entry.id), sponsor: nameKey(sponsor), product: nameKey(product) };
      startMs += lengthMs;
      return spot;
    });
  });
}

/** The sponsor of what stands in a slot; null for an open one. */
export function sponsorIn(model: StationModel, { itemId }: Pick<MessageSlot, 'itemId'>): string | null {
  const item = itemId === null ? undefined : model.known.get(itemId);
  return item ? sponsorKey(item) : null;
}

/** The messages of a sponsor that may air in a slot. */
export function messagesOf({ messages }: MessageSlot, key: string): readonly string[] {
  return messages.get(key) ?? [];
}
