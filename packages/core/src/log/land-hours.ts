import { compile } from '../engine/model/compile.js';
import { Assignment, HARD } from '../engine/model/assignment.js';
import { levelWeights } from '../engine/search/weights.js';
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
  const compiled = compile(instance);
  const assignment = new Assignment(compiled);
  assignment.setWeights(levelWeights(assignment, 10, 0));
  const positionOf = new Map(instance.slots.map((slot, s) => [slot.id, assignment.history + s]));
  instance.slots.forEach((slot, s) => {
    const item = compiled.itemIndex.get(start[slot.id] ?? '');
    if (item !== undefined) assignment.place(assignment.history + s, item);
  });
  let current = log;
  for (let hour = 0; hour < log.hours.length; hour++) {
    for (let swap = 0; swap < MOST_SWAPS; swap++) {
      const { overMs } = model.timing(current).hours[hour]!;
      if (Math.abs(overMs) <= NEAR_MS) break;
      const positions = current.hours[hour]!.entries.filter((entry) => isFree(entry, keep)).map((entry) =>
        positionOf.get(entry.id)!,
      );
      const best = bestExchange(model, assignment, positions, overMs);
      if (!best) break;
      assignment.clear(best.position);
      assignment.place(best.position, best.item);
      const slot = instance.slots[best.position - assignment.history]!;
      current = exchange(current, hour, slot.id, compiled.itemIds[best.item]!);
      retime(model, assignment, positionOf, current, hour);
    }
  }
  return current;
}

interface Exchange {
  readonly position: number;
  readonly item: number;
  readonly off: number;
}

/** The one exchange among the positions that brings the hour nearest its mark; null when none brings it nearer. */
function bestExchange(
  model: StationModel,
  assignment: Assignment,
  positions: readonly number[],
  overMs: number,
): Exchange | null {
  const { compiled, history } = assignment;
  let best: Exchange | null = null;
  for (const p of positions) {
    const lengthNow = model.lengthOf(compiled.itemIds[assignment.itemAt[p]!]!);
    const held = assignment.clear(p);
    assignment.begin(p);
    const cost = assignment.costOf(held);
    for (const item of headOfTurn(assignment, compiled.domains[p - history]!, p)) {
      const off = Math.abs(overMs + model.lengthOf(compiled.itemIds[item]!) - lengthNow);
      if (item === held || off >= (best?.off ?? Math.abs(overMs))) continue;
      if (assignment.hardOf(p, item) + assignment.totals[HARD]! > 0 || assignment.costOf(item) > cost) continue;
      best = { position: p, item, off };
    }
    assignment.place(p, held);
  }
  return best;
}

/** Tells the assignment when the entries air now, from an hour on; their order stays. */
function retime(
  model: StationModel,
  { sequence }: Assignment,
  positionOf: ReadonlyMap<string, number>,
  log: DailyLog,
  fromHour: number,
): void {
  const { entries } = model.timing(log);
  const dayStartMs = log.hours[0]!.startMs;
  for (const hour of log.hours.slice(fromHour)) {
    for (const { id } of hour.entries) {
      const p = positionOf.get(id);
      if (p !== undefined) sequence.start[p] = Math.floor((entries.get(id)!.startMs - dayStartMs) / 1000);
    }
  }
}

function isFree(entry: LogEntry, keep: ReadonlySet<string>): boolean {
  return (
    entry.kind === 'pick' && entry.itemId !== null && !entry.locked && entry.origin === 'engine' && !keep.has(entry.id)
  );
}

/** The items of a domain that rested longest at a position, before and after it. */
function headOfTurn({ compiled: { plays }, sequence: { start } }: Assignment, items: Int32Array, p: number): number[] {
  const rested = Array.from(items, (item) => {
    const [before, after] = [plays.before(p, item), plays.after(p, item)];
    const rest = Math.min(
      before < 0 ? Number.MAX_SAFE_INTEGER : start[p]! - start[before]!,
      after < 0 ? Number.MAX_SAFE_INTEGER : start[after]! - start[p]!,
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
