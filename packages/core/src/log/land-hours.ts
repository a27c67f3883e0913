import { compile } from '../engine/compile.js';
import { Timeline } from '../engine/timeline.js';
import type { DailyLog, LogEntry } from './daily-log.js';
import { logInstance } from './log-instance.js';
import type { StationModel } from './station-data.js';

/** An hour this near its mark is left alone, milliseconds. */
const NEAR_MS = 4000;
/** At most this share of a category, from the head of its turn order, is looked at, so that rests stay even. */
const HEAD_SHARE = 0.25;
const LEAST_HEAD = 8;
const MOST_SWAPS = 4;

/**
 * The log with hours brought nearer their marks: in each hour that ends off its mark, a few items
 * are exchanged for others of their category that rested nearly as long and whose length fits
 * better. No exchange breaks a rule. Entries in `keep` stay as they are.
 */
export function landHours(model: StationModel, log: DailyLog, keep: ReadonlySet<string>): DailyLog {
  const { instance, start } = logInstance(model, log);
  const timeline = new Timeline(compile(instance));
  const slotOf = new Map(instance.slots.map((slot, i) => [slot.id, i]));
  const { itemIds } = timeline.compiled;
  const index = new Map(itemIds.map((id, i) => [id, i]));
  instance.slots.forEach((slot, i) => {
    const item = index.get(slot.locked ?? start[slot.id] ?? '');
    if (item !== undefined) timeline.assign(i, item);
  });
  let current = log;
  for (let hour = 0; hour < log.hours.length; hour++) {
    for (let swap = 0; swap < MOST_SWAPS; swap++) {
      const { overMs } = model.timing(current).hours[hour]!;
      if (Math.abs(overMs) <= NEAR_MS) break;
      const slots = current.hours[hour]!.entries.filter((entry) => isFree(entry, keep)).map((entry) =>
        slotOf.get(entry.id)!,
      );
      const best = bestExchange(model, timeline, slots, overMs);
      if (!best) break;
      timeline.clear(best.slot);
      timeline.assign(best.slot, best.item);
      current = exchange(current, hour, instance.slots[best.slot]!.id, itemIds[best.item]!);
      retime(model, timeline, slotOf, current, hour);
    }
  }
  return current;
}

interface Exchange {
  readonly slot: number;
  readonly item: number;
  readonly off: number;
}

/** The one exchange among the slots that brings the hour nearest its mark; null when none brings it nearer. */
function bestExchange(
  model: StationModel,
  timeline: Timeline,
  slots: readonly number[],
  overMs: number,
): Exchange | null {
  const { compiled } = timeline;
  let best: Exchange | null = null;
  for (const slot of slots) {
    const held = timeline.assigned[slot]!;
    const lengthNow = model.lengthOf(compiled.itemIds[held]!);
    timeline.clear(slot);
    for (const item of headOfTurn(compiled.poolItems[compiled.slotPool[slot]!]!, timeline, compiled.slotStart[slot]!)) {
      const off = Math.abs(overMs + model.lengthOf(compiled.itemIds[item]!) - lengthNow);
      if (item === held || off >= (best?.off ?? Math.abs(overMs))) continue;
      if (timeline.clashes(slot, item, 1).length === 0) best = { slot, item, off };
    }
    timeline.assign(slot, held);
  }
  return best;
}

/** Tells the timeline when the entries air now, from an hour on. */
function retime(
  model: StationModel,
  timeline: Timeline,
  slotOf: ReadonlyMap<string, number>,
  log: DailyLog,
  fromHour: number,
): void {
  const { entries } = model.timing(log);
  const dayStartMs = log.hours[0]!.startMs;
  for (const hour of log.hours.slice(fromHour)) {
    for (const { id } of hour.entries) {
      const slot = slotOf.get(id);
      if (slot !== undefined) timeline.retime(slot, Math.floor((entries.get(id)!.startMs - dayStartMs) / 1000));
    }
  }
}

function isFree(entry: LogEntry, keep: ReadonlySet<string>): boolean {
  return (
    entry.kind === 'pick' && entry.itemId !== null && !entry.locked && entry.origin === 'engine' && !keep.has(entry.id)
  );
}

/** The items of a pool that rested longest at a time, before and after it. */
function headOfTurn(items: Int32Array, timeline: Timeline, at: number): number[] {
  const rested = Array.from(items, (item) => {
    const last = timeline.lastPlayBefore(item, at);
    const next = timeline.nextPlayFrom(item, at);
    const rest = Math.min(
      last === null ? Number.MAX_SAFE_INTEGER : at - last,
      next === null ? Number.MAX_SAFE_INTEGER : next - at,
    );
    return { item, rest };
  });
  rested.sort((a, b) => b.rest - a.rest || a.item - b.item);
  return rested.slice(0, Math.max(LEAST_HEAD, Math.ceil(items.length * HEAD_SHARE))).map(({ item }) => item);
}

function exchange(log: DailyLog, hour: number, entryId: string, itemId: string): DailyLog {
  const hours = log.hours.map((one, index) =>
    index === hour
      ? {
          ...one,
          entries: one.entries.map((entry) =>
            entry.id === entryId && entry.kind === 'pick' ? { ...entry, itemId } : entry,
          ),
        }
      : one,
  );
  return { ...log, hours };
}
