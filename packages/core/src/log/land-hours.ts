import { compile } from '../engine/model/compile.js';
import { Assignment, FIRST_SOFT, HARD } from '../engine/model/assignment.js';
import { levelWeights } from '../engine/search/weights.js';
import type { DailyLog, LogEntry } from './daily-log.js';
import type { Minds } from './hour-spread-rules.js';
import { logInstance } from './log-instance.js';
import type { StationModel } from './station-data.js';

/** An hour this near its mark is left alone, milliseconds. */
const NEAR_MS = 4000;
/** At most this share of a category, from the head of its turn order, is looked at, so that rests stay even. */
const HEAD_SHARE = 0.25;
const LEAST_HEAD = 8;
const MOST_CHANGES = 4;
/** Items are exchanged with hours up to so many later. */
const REACH_HOURS = 8;

/**
 * The log with hours brought nearer their marks: in each hour that ends off its mark, a few items
 * are exchanged for others of their category whose length fits better: that have played no more and rested
 * nearly as long, or that stand in a later hour. No exchange breaks a rule, or brings a title back too soon where rests are minded. Entries in `keep` stay as they are.
 */
export function landHours(model: StationModel, log: DailyLog, keep: ReadonlySet<string>, minds: Minds): DailyLog {
  const { instance, start } = logInstance(model, log, minds);
  const compiled = compile(instance);
  const assignment = new Assignment(compiled);
  assignment.setWeights(levelWeights(assignment, 10, 0));
  const positionOf = new Map(instance.slots.map((slot, s) => [slot.id, assignment.history + s]));
  instance.slots.forEach((slot, s) => {
    const item = compiled.itemIndex.get(start[slot.id] ?? '');
    if (item !== undefined) assignment.place(assignment.history + s, item);
  });
  let current = log;
  const freeOf = (hour: number): number[] =>
    (current.hours[hour]?.entries ?? [])
      .filter((entry) => isFree(entry, keep))
      .map((entry) => positionOf.get(entry.id)!);
  for (let hour = 0; hour < log.hours.length; hour++) {
    for (let change = 0; change < MOST_CHANGES; change++) {
      const { overMs } = model.timing(current).hours[hour]!;
      if (Math.abs(overMs) <= NEAR_MS) break;
      const later = Array.from({ length: REACH_HOURS }, (_, n) => freeOf(hour + 1 + n)).flat();
      const lander = new Lander(model, assignment, overMs);
      for (const p of freeOf(hour)) {
        lander.tryReplacing(p, 0);
        lander.tryExchanging(p, later);
      }
      // Where that does not do, one play more than its turn is the lesser evil.
      if (lander.off > NEAR_MS) for (const p of freeOf(hour)) lander.tryReplacing(p, 1);
      if (lander.best.length === 0) break;
      for (const [p] of lander.best) assignment.clear(p);
      for (const [p, item] of lander.best) assignment.place(p, item);
      current = withItems(
        current,
        new Map(lander.best.map(([p, item]) => [instance.slots[p - assignment.history]!.id, compiled.itemIds[item]!])),
      );
      retime(model, assignment, positionOf, current, hour);
    }
  }
  return current;
}

/** Looks for the change that brings an hour nearest its mark and breaks no rule. */
class Lander {
  /** Positions and the items they are to have; none while nothing brings the hour nearer. */
  best: readonly (readonly [number, number])[] = [];
  /** How far off the mark the hour would then end, milliseconds. */
  off: number;

  constructor(
    private readonly model: StationModel,
    private readonly assignment: Assignment,
    private readonly overMs: number,
  ) {
    this.off = Math.abs(overMs);
  }

  /** Another item of the category that has played no more, or so many times more. */
  tryReplacing(p: number, more: number): void {
    const { assignment } = this;
    const { compiled, history } = assignment;
    const held = assignment.clear(p);
    assignment.begin(p);
    const cost = assignment.costOf(held);
    const plays = compiled.plays.countOf(held);
    for (const item of headOfTurn(assignment, compiled.domains[p - history]!, p)) {
      const off = this.offWith(item, held);
      if (item === held || off >= this.off || compiled.plays.countOf(item) > plays + more) continue;
      if (this.clashes(p, item) || assignment.costOf(item) > cost) continue;
      this.off = off;
      this.best = [[p, item]];
    }
    assignment.place(p, held);
  }

  /** What stands in a later slot of the same category, each in the place of the other. */
  tryExchanging(p: number, later: readonly number[]): void {
    const { assignment } = this;
    const { compiled, history, itemAt } = assignment;
    const held = itemAt[p]!;
    for (const q of later) {
      const item = itemAt[q]!;
      const off = this.offWith(item, held);
      if (compiled.poolOf[q - history] !== compiled.poolOf[p - history] || item === held || off >= this.off) continue;
      // An item may be kept to some hours of the week.
      if (!compiled.domains[p - history]!.includes(item) || !compiled.domains[q - history]!.includes(held)) continue;
      const cost = this.clearBoth(p, q);
      const good =
        !this.clashes(p, item) && this.placed(p, item, () => !this.clashes(q, held) && this.costs(q, held) <= cost);
      assignment.place(p, held);
      assignment.place(q, item);
      if (!good) continue;
      this.off = off;
      this.best = [
        [p, item],
        [q, held],
      ];
    }
  }

  /** Clears two positions; the soft cost of what stood there. */
  private clearBoth(p: number, q: number): number {
    const before = this.soft();
    this.assignment.clear(p);
    this.assignment.clear(q);
    return before - this.soft();
  }

  private placed(p: number, item: number, ask: () => boolean): boolean {
    const before = this.soft();
    this.assignment.place(p, item);
    this.spent = this.soft() - before;
    const answer = ask();
    this.assignment.clear(p);
    return answer;
  }

  private spent = 0;

  private costs(q: number, item: number): number {
    this.assignment.begin(q);
    return this.spent + this.assignment.costOf(item);
  }

  private soft(): number {
    const { totals, weights } = this.assignment;
    let sum = 0;
    for (let level = FIRST_SOFT; level < totals.length; level++) sum += totals[level]! * weights[level]!;
    return sum;
  }

  private clashes(p: number, item: number): boolean {
    return this.assignment.hardOf(p, item) + this.assignment.totals[HARD]! > 0;
  }

  private offWith(item: number, held: number): number {
    const { itemIds } = this.assignment.compiled;
    return Math.abs(this.overMs + this.model.lengthOf(itemIds[item]!) - this.model.lengthOf(itemIds[held]!));
  }
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

function withItems(log: DailyLog, items: ReadonlyMap<string, string>): DailyLog {
  const changed = (entry: LogEntry): LogEntry => {
    const itemId = items.get(entry.id);
    return entry.kind === 'pick' && itemId !== undefined ? { ...entry, itemId } : entry;
  };
  const hours = log.hours.map((hour) =>
    hour.entries.some((entry) => items.has(entry.id)) ? { ...hour, entries: hour.entries.map(changed) } : hour,
  );
  return { ...log, hours };
}
