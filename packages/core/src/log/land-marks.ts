import { compile } from '../engine/model/compile.js';
import { Assignment, FIRST_SOFT, HARD } from '../engine/model/assignment.js';
import { levelWeights } from '../engine/search/weights.js';
import { lengthOfEntry, type LogTiming, type MarkTiming } from '../timing/air-times.js';
import { waysToReach } from '../timing/reach-mark.js';
import { allEntries, findEntry, type DailyLog, type LogEntry, type PickEntry } from './daily-log.js';
import type { Minds } from './hour-spread-rules.js';
import { logInstance } from './log-instance.js';
import type { StationModel } from './station-data.js';

/** A mark reached this nearly is left alone, milliseconds. */
const NEAR_MS = 3000;
/** What ends at a hard start is aimed this long before it, so that nothing is cut, milliseconds. */
const BEFORE_HARD_MS = 1500;
/** A soft moment may come this late without harm, milliseconds. */
const LATE_MS = 180_000;
/** At most this share of a category, from the head of its turn order, is looked at, so that rests stay even. */
const HEAD_SHARE = 0.25;
const LEAST_HEAD = 8;
const MOST_CHANGES = 4;
/** Items are exchanged with slots that air up to so much later, milliseconds. */
const REACH_MS = 8 * 3_600_000;
/** So many items are looked at as fill, those that rested longest. */
const MOST_FILL = 60;
/** So many spare lines of one stretch are weighed against each other. */
const MOST_SPARE = 6;

/**
 * The log with what plays brought nearer its marks. Between two marks, spare lines are left out where the time is
 * short, fill is chosen for what is missing, and a few items are exchanged for others of their category whose length
 * fits better: that have played no more and rested nearly as long, or that stand in a later hour. No choice breaks a
 * rule, or brings a title back too soon where rests are minded. Entries in `keep` stay as they are.
 */
export function landMarks(model: StationModel, log: DailyLog, keep: ReadonlySet<string>, minds: Minds): DailyLog {
  const landing = new Landing(model, log, keep, minds);
  const count = model.timing(log).marks.length;
  for (let mark = 0; mark < count; mark++) landing.reach(mark);
  return landing.log;
}

/** How far a mark is missed beyond what may be, milliseconds; negative is short of it. */
export function missOf({ overMs, hard, late }: MarkTiming): number {
  if (late && overMs > 0) return Math.max(0, overMs - LATE_MS);
  return hard ? overMs + BEFORE_HARD_MS : overMs;
}

const near = (mark: MarkTiming): boolean => Math.abs(missOf(mark)) <= (mark.hard ? BEFORE_HARD_MS : NEAR_MS);

/** A log on its way to its marks, beside the engine's view of it. */
class Landing {
  private readonly assignment: Assignment;
  private readonly positionOf: ReadonlyMap<string, number>;
  private readonly slotIds: readonly string[];

  constructor(
    private readonly model: StationModel,
    public log: DailyLog,
    private readonly keep: ReadonlySet<string>,
    minds: Minds,
  ) {
    const { instance, start } = logInstance(model, log, minds, 'with fill');
    const compiled = compile(instance);
    this.assignment = new Assignment(compiled);
    this.assignment.setWeights(levelWeights(this.assignment, 10, 0));
    this.slotIds = instance.slots.map(({ id }) => id);
    this.positionOf = new Map(this.slotIds.map((id, s) => [id, this.assignment.history + s]));
    this.slotIds.forEach((id, s) => {
      const item = compiled.itemIndex.get(start[id] ?? '');
      if (item !== undefined) this.assignment.place(this.assignment.history + s, item);
    });
  }

  private timed: { readonly log: DailyLog; readonly timing: LogTiming } | null = null;

  /** When the log as it now is airs, worked out once. */
  private get timing(): LogTiming {
    if (this.timed?.log !== this.log) this.timed = { log: this.log, timing: this.model.timing(this.log) };
    return this.timed.timing;
  }

  reach(mark: number): void {
    const first = this.timing.marks[mark]!;
    if (near(first)) return;
    const entries = entriesBetween(this.log, this.timing, mark);
    this.spareAndFill(entries, first);
    for (let change = 0; change < MOST_CHANGES; change++) {
      const { timing } = this;
      const now = timing.marks[mark]!;
      if (near(now)) return;
      const free = entries.flatMap(({ id }) => this.freePosition(id));
      const lander = new Lander(this.model, this.assignment, missOf(now));
      const later = this.laterThan(now.atMs, timing);
      for (const p of free) {
        lander.tryReplacing(p, 0);
        lander.tryExchanging(p, later);
      }
      // Where that does not do, one play more than its turn is the lesser evil.
      if (lander.off > NEAR_MS) for (const p of free) lander.tryReplacing(p, 1);
      if (lander.best.length === 0) return;
      this.put(lander.best, now.hourIndex);
    }
  }

  /** Leaves spare lines out and chooses fill, as the mark asks. */
  private spareAndFill(entries: readonly LogEntry[], mark: MarkTiming): void {
    const fills = entries.filter((entry): entry is PickEntry => isFill(entry) && entry.out === true);
    const spares = entries.filter((entry) => this.canLeaveOut(entry)).slice(-MOST_SPARE);
    const missing = -missOf(mark);
    const options = this.fillOptions(fills);
    let best: { off: number; out: readonly LogEntry[]; fill: readonly number[] } | null = null;
    for (const out of byCount(spares)) {
      const gap = missing + out.reduce((sum, entry) => sum + this.lengthNow(entry), 0);
      for (const { chosen, offMs } of this.fillsFor(gap, fills, options)) {
        const off = Math.abs(offMs);
        if (best && (best.off <= NEAR_MS || off >= best.off)) break;
        if (!this.fits(fills, chosen)) continue;
        best = { off, out, fill: chosen };
        break;
      }
      if (best && best.off <= NEAR_MS) break;
    }
    if (!best || best.off >= Math.abs(missing)) return;
    this.leaveOut(best.out, mark.hourIndex);
    this.put(
      best.fill.map((item, n) => [this.positionOf.get(fills[n]!.id)!, item] as const),
      mark.hourIndex,
    );
  }

  /** What could fill a gap: the items, and how far off they would end, nearest first. */
  private fillsFor(
    gap: number,
    fills: readonly PickEntry[],
    options: readonly number[],
  ): { chosen: readonly number[]; offMs: number }[] {
    const nothing = { chosen: [] as number[], offMs: -gap };
    if (fills.length === 0 || gap <= 0) return [nothing];
    const { itemIds } = this.assignment.compiled;
    const lengths = options.map((item) => this.model.lengthOf(itemIds[item]!));
    return waysToReach(gap, lengths, fills.length).map(({ chosen, offMs }) => ({
      chosen: chosen.map((n) => options[n]!),
      offMs,
    }));
  }

  /** The items that may stand in the first of the fill slots, those that rested longest. */
  private fillOptions(fills: readonly PickEntry[]): number[] {
    const p = fills[0] ? this.positionOf.get(fills[0].id) : undefined;
    if (p === undefined) return [];
    const { compiled, history } = this.assignment;
    return headOfTurn(this.assignment, compiled.domains[p - history]!, p, MOST_FILL).filter(
      (item) => this.assignment.hardOf(p, item) + this.assignment.totals[HARD]! === 0,
    );
  }

  /** Whether items can stand in fill slots together without a hard rule broken; leaves everything as it was. */
  private fits(fills: readonly PickEntry[], items: readonly number[]): boolean {
    const placed: number[] = [];
    let good = true;
    for (const [n, item] of items.entries()) {
      const p = this.positionOf.get(fills[n]!.id)!;
      good &&=
        this.assignment.compiled.domains[p - this.assignment.history]!.includes(item) &&
        this.assignment.hardOf(p, item) + this.assignment.totals[HARD]! === 0;
      if (!good) break;
      this.assignment.place(p, item);
      placed.push(p);
    }
    for (const p of placed) this.assignment.clear(p);
    return good;
  }

  private put(choices: readonly (readonly [number, number])[], fromHour: number): void {
    if (choices.length === 0) return;
    const { assignment } = this;
    for (const [p] of choices) if (assignment.itemAt[p]! >= 0) assignment.clear(p);
    for (const [p, item] of choices) assignment.place(p, item);
    const items = new Map(
      choices.map(([p, item]) => [this.slotIds[p - assignment.history]!, assignment.compiled.itemIds[item]!]),
    );
    this.log = withItems(this.log, items);
    this.retime(fromHour);
  }

  private leaveOut(entries: readonly LogEntry[], fromHour: number): void {
    if (entries.length === 0) return;
    const ids = new Set(entries.map(({ id }) => id));
    for (const entry of entries) {
      const p = this.positionOf.get(entry.id);
      if (p !== undefined && entry.kind === 'pick' && entry.itemId !== null) this.assignment.clear(p);
    }
    this.log = withEntries(this.log, ids, (entry): LogEntry => {
      if (entry.kind === 'pick') return { ...entry, out: true, itemId: null, open: null };
      return { ...entry, out: true };
    });
    this.retime(fromHour);
  }

  /** Tells the assignment when the entries air now, from an hour on; their order stays. */
  private retime(fromHour: number): void {
    const { entries } = this.timing;
    const { start } = this.assignment.sequence;
    const dayStartMs = this.log.hours[0]!.startMs;
    // What is cut or pulled forward may begin in the hour before.
    for (const hour of this.log.hours.slice(Math.max(0, fromHour - 1))) {
      for (const { id } of hour.entries) {
        const p = this.positionOf.get(id);
        if (p !== undefined) start[p] = Math.floor((entries.get(id)!.startMs - dayStartMs) / 1000);
      }
    }
  }

  private canLeaveOut(entry: LogEntry): boolean {
    if ((entry.kind !== 'pick' && entry.kind !== 'item') || !entry.spare || entry.out) return false;
    return !this.keep.has(entry.id) && (entry.kind === 'item' || (!entry.locked && entry.origin === 'engine'));
  }

  private lengthNow(entry: LogEntry): number {
    return lengthOfEntry(entry, this.model);
  }

  private freePosition(id: string): number[] {
    const entry = findEntry(this.log, id);
    return entry && isFree(entry, this.keep) ? [this.positionOf.get(id)!] : [];
  }

  private laterThan(atMs: number, { entries }: LogTiming): number[] {
    return allEntries(this.log).flatMap((entry) => {
      const { startMs } = entries.get(entry.id)!;
      const later = startMs >= atMs && startMs < atMs + REACH_MS && isFree(entry, this.keep);
      return later ? [this.positionOf.get(entry.id)!] : [];
    });
  }
}

/** The subsets of some entries, those that leave fewer out first. */
function byCount(entries: readonly LogEntry[]): (readonly LogEntry[])[] {
  const all = Array.from({ length: 2 ** entries.length }, (_, mask) => entries.filter((_one, n) => mask & (1 << n)));
  return all.sort((a, b) => a.length - b.length);
}

/** The entries between the mark before and a mark. */
function entriesBetween(log: DailyLog, { marks }: LogTiming, mark: number): LogEntry[] {
  const entries = allEntries(log);
  const placeOf = (one: MarkTiming | undefined, otherwise: number): number => {
    if (!one) return otherwise;
    if (one.entryId !== null) return entries.findIndex(({ id }) => id === one.entryId);
    const hours = log.hours.slice(0, one.hourIndex);
    return hours.reduce((sum, hour) => sum + hour.entries.length, 0);
  };
  return entries.slice(placeOf(marks[mark - 1], 0), placeOf(marks[mark], entries.length));
}

/** Looks for the change that comes nearest a mark and breaks no rule. */
class Lander {
  /** Positions and the items they are to have; none while nothing comes nearer. */
  best: readonly (readonly [number, number])[] = [];
  /** How far off the mark that would then be, milliseconds. */
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

function isFill(entry: LogEntry): boolean {
  return entry.kind === 'pick' && entry.fill === true;
}

function isFree(entry: LogEntry, keep: ReadonlySet<string>): boolean {
  return (
    entry.kind === 'pick' && entry.itemId !== null && !entry.locked && entry.origin === 'engine' && !keep.has(entry.id)
  );
}

/** The items of a domain that rested longest at a position, before and after it. */
function headOfTurn(
  { compiled: { plays }, sequence: { start } }: Assignment,
  items: Int32Array,
  p: number,
  most = Math.max(LEAST_HEAD, Math.ceil(items.length * HEAD_SHARE)),
): number[] {
  const rested = Array.from(items, (item) => {
    const [before, after] = [plays.before(p, item), plays.after(p, item)];
    const rest = Math.min(
      before < 0 ? Number.MAX_SAFE_INTEGER : start[p]! - start[before]!,
      after < 0 ? Number.MAX_SAFE_INTEGER : start[after]! - start[p]!,
    );
    return { item, rest };
  });
  rested.sort((a, b) => b.rest - a.rest || a.item - b.item);
  return rested.slice(0, most).map(({ item }) => item);
}

function withItems(log: DailyLog, items: ReadonlyMap<string, string>): DailyLog {
  return withEntries(log, new Set(items.keys()), (entry) => {
    if (entry.kind !== 'pick') return entry;
    const { out, ...rest } = entry;
    void out;
    return { ...rest, itemId: items.get(entry.id)! };
  });
}

function withEntries(log: DailyLog, ids: ReadonlySet<string>, change: (entry: LogEntry) => LogEntry): DailyLog {
  const hours = log.hours.map((hour) =>
    hour.entries.some(({ id }) => ids.has(id))
      ? { ...hour, entries: hour.entries.map((entry) => (ids.has(entry.id) ? change(entry) : entry)) }
      : hour,
  );
  return { ...log, hours };
}
