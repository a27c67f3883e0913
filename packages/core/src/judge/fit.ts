import { elementAt, lookUp } from '../values/look-up.js';
import type { Assignment } from '../engine/model/assignment.js';
import { clashesOf, type Clash } from '../engine/proof/explain.js';
import { mayAirInHour, type Unavailability } from '../library/availability.js';
import { weekdayOf } from '../time/local-day.js';
import { itemOf, type DailyLog, type LogHour, type PickEntry } from '../log/daily-log.js';
import { stationRuleId } from '../station/instance-rules.js';
import { isMadeUp } from '../station/even-history.js';
import { asItStands } from './inspect-log.js';
import type { StationModel } from '../station/station-model.js';

/** A rule an item would break, and what it meets. */
export interface FitClash {
  readonly ruleId: string;
  /** Seconds too soon. */
  readonly by: number;
  readonly otherId: string;
  /** UTC start of the other play, epoch milliseconds. */
  readonly otherMs: number;
  /** UTC instant from which the rule no longer holds the item back, as far as this play goes. */
  readonly freeMs: number;
}

/** What an hour of a day has for an item: it plays there, may, may in a slot of another category, is held back, or is barred. */
export interface HourFit {
  readonly index: number;
  readonly localHour: number;
  readonly startMs: number;
  readonly state: 'plays' | 'may' | 'other slot' | 'held' | 'no slot' | 'barred';
  /** Where it plays or could; null in an hour without slots. UTC epoch milliseconds. */
  readonly atMs: number | null;
  readonly bar: Unavailability | null;
  readonly clashes: readonly FitClash[];
}

/** Hour by hour whether an item could play on a log's day, judged slot by slot as generation would; `categoryId` is the one it is in. */
export function dayFit(model: StationModel, log: DailyLog, itemId: string, categoryId: string | null): HourFit[] {
  const item = model.known.get(itemId);
  if (!item) throw new RangeError(`no item “${itemId}”`);
  const assignment = asItStands(model, log);
  const timing = model.timing(log);
  const dayBar = model.unavailabilityOn(item, categoryId ?? '', log.date);
  const weekday = weekdayOf(log.date);
  return log.hours.map((hour) => {
    const { index, localHour, startMs } = hour;
    const here = { index, localHour, startMs, atMs: null, clashes: [] };
    const held = hour.entries.find((entry) => itemOf(entry) === itemId);
    if (held) return { ...here, state: 'plays', atMs: lookUp(timing.entries, held.id).startMs, bar: null };
    const bar = dayBar ?? (mayAirInHour(item, weekday, localHour) ? null : { because: 'hour' as const });
    if (bar) return { ...here, state: 'barred', bar };
    return {
      ...here,
      bar,
      ...bestSlot(model, assignment, hour, itemId, categoryId, (id) => lookUp(timing.entries, id).startMs),
    };
  });
}

function bestSlot(
  model: StationModel,
  assignment: Assignment,
  hour: LogHour,
  itemId: string,
  categoryId: string | null,
  startOf: (entryId: string) => number,
): Pick<HourFit, 'state' | 'atMs' | 'clashes'> {
  const music = new Set(model.data.musicCategories);
  const picks = hour.entries.filter(
    (entry): entry is PickEntry =>
      entry.kind === 'pick' && !entry.locked && !entry.out && model.fitting(entry.filters ?? [])(itemId),
  );
  const own = picks.filter((entry) => entry.categoryId === categoryId);
  const others = picks.filter((entry) => entry.categoryId !== categoryId && music.has(entry.categoryId));
  let nearest: { atMs: number; clashes: FitClash[] } | null = null;
  for (const entry of [...own, ...others]) {
    const atMs = startOf(entry.id);
    const clashes = clashesAt(assignment, entry.id, itemId, atMs);
    if (clashes.length === 0) return { state: own.includes(entry) ? 'may' : 'other slot', atMs, clashes };
    const worst = elementAt(clashes, 0).by;
    if (!nearest || worst < elementAt(nearest.clashes, 0).by) nearest = { atMs, clashes };
  }
  return nearest ? { state: 'held', ...nearest } : { state: 'no slot', atMs: null, clashes: [] };
}

/** What an item would break in a slot in place of what stands there, worst first. */
function clashesAt(assignment: Assignment, entryId: string, itemId: string, atMs: number): FitClash[] {
  const { compiled, history, itemAt, sequence } = assignment;
  const p = history + compiled.instance.slots.findIndex((slot) => slot.id === entryId);
  const held = elementAt(itemAt, p);
  if (held >= 0) assignment.lift(p);
  const item = lookUp(compiled.itemIndex, itemId);
  const found = clashesOf(assignment, p, item).flatMap(({ rule, by, plays }: Clash): FitClash[] => {
    const q = plays[0];
    if (q === undefined || isMadeUp(elementAt(sequence.start, q))) return [];
    const [start, other] = [elementAt(sequence.start, q), elementAt(itemAt, q)];
    const at = elementAt(sequence.start, p);
    // Of a play to come, the distance asked is what lies between the two and what is lacking.
    const asked = q > p ? by + start - (at + elementAt(sequence.duration, item)) : 0;
    const free = q < p ? at + by : start + elementAt(sequence.duration, other) + asked;
    const otherId = elementAt(compiled.itemIds, other);
    return [
      {
        ruleId: stationRuleId(rule),
        by,
        otherId,
        otherMs: atMs + (start - at) * 1000,
        freeMs: atMs + (free - at) * 1000,
      },
    ];
  });
  if (held >= 0) assignment.put(p, held);
  return found.sort((a, b) => b.by - a.by);
}
