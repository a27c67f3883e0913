import { elementAt, lookUp } from '../values/look-up.js';
import { compile } from '../engine/model/compile.js';
import { Assignment, HARD } from '../engine/model/assignment.js';
import { levelWeights } from '../engine/search/weights.js';
import { lengthOfEntry, type LogTiming, type MarkTiming } from '../log/air-times.js';
import { waysToReach } from './reach-mark.js';
import { allEntries, type DailyLog, type LogEntry, type PickEntry } from '../log/daily-log.js';
import type { GuardLevel } from '../station/hour-spread-rules.js';
import {
  entriesBetween,
  fillInTurn,
  isFill,
  NEAR_MS,
  PIECES_TO_LAND,
  withFillRoom,
  withoutSpareFill,
} from './fill-room.js';
import { headOfTurn, Lander } from './lander.js';
import { logInstance } from '../station/log-instance.js';
import type { StationModel } from '../station/station-model.js';

/** Only for more than this is an item given a play more than its turn, where the mark is not to be met to the second. */
const WORTH_A_TURN_MS = 10_000;
/** What ends at a hard start is aimed this long before it, so that nothing is cut, milliseconds. */
const BEFORE_HARD_MS = 1500;
/** A soft moment may come this late without harm, milliseconds. */
const LATE_MS = 180_000;
const MOST_CHANGES = 4;
/** For a mark that is to be met to the second. */
const MOST_CHANGES_EXACT = 6;
/** Items are exchanged with slots that air up to so much later, milliseconds. */
const REACH_MS = 8 * 3_600_000;
/** So many items are looked at as fill, those that rested longest. */
const MOST_FILL = 60;
/** So many spare lines of one stretch are weighed against each other. */
const MOST_SPARE = 6;

/**
 * A landing of a log on its marks; null where every mark is met. Between two marks, spare lines are left out where the
 * time is short, fill is chosen for what is missing, and a few items are exchanged for others of their category whose
 * length fits better: that have played no more and rested nearly as long, or that stand in a later hour. No choice breaks
 * a rule, or brings a title back too soon where rests are minded. Entries in `keep` stay as they are.
 */
export function landingOf(
  model: StationModel,
  log: DailyLog,
  keep: ReadonlySet<string>,
  guards: GuardLevel,
  seed: number,
): Landing | null {
  // Nothing need be made ready where every mark is met.
  if (model.timing(log).marks.every(near)) return null;
  return new Landing(model, withFillRoom(model, log, keep), keep, guards, seed);
}

/** The log brought nearer its marks, by fill and spare lines alone or by all that a landing may do. */
export function landMarks(
  model: StationModel,
  log: DailyLog,
  keep: ReadonlySet<string>,
  guards: GuardLevel,
  seed: number,
  by: 'all' | 'fill' = 'all',
): DailyLog {
  return landingOf(model, log, keep, guards, seed)?.land(by) ?? log;
}

/**
 * A log whose breaks have changed brought back to its marks by fill and spare lines alone; what a person or a run has
 * chosen stays, and so do entries in `keep`.
 */
export function landAfterBooking(model: StationModel, log: DailyLog, keep: ReadonlySet<string>): DailyLog {
  const landed = landMarks(model, log, keep, 'repeats', 1, 'fill');
  return landed === log ? log : withoutSpareFill(landed);
}

/** How far a mark is missed beyond what may be, milliseconds; negative is short of it. */
function missOf({ overMs, hard, late }: MarkTiming): number {
  if (late && overMs > 0) return Math.max(0, overMs - LATE_MS);
  return hard ? overMs + BEFORE_HARD_MS : overMs;
}

const near = (mark: MarkTiming): boolean => Math.abs(missOf(mark)) <= (mark.hard ? BEFORE_HARD_MS : NEAR_MS);

/** A log on its way to its marks, beside the engine's view of it. */
export class Landing {
  /** As the log stands, at the times it airs. */
  readonly assignment: Assignment;
  private readonly positionOf: ReadonlyMap<string, number>;
  private readonly slotIds: readonly string[];
  /** By item, the time it takes until the next one begins, milliseconds. */
  private readonly lengths: Float64Array;

  constructor(
    private readonly model: StationModel,
    public log: DailyLog,
    private readonly keep: ReadonlySet<string>,
    guards: GuardLevel,
    seed: number,
  ) {
    const { instance, start } = logInstance(model, log, guards, 'with fill');
    const compiled = compile(instance, seed);
    this.assignment = new Assignment(compiled);
    this.assignment.setWeights(levelWeights(this.assignment, 10, 0));
    this.lengths = Float64Array.from(compiled.itemIds, (id) => model.lengthOf(id));
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

  /** Brings the log nearer its marks, one after the other. */
  land(by: 'all' | 'fill'): DailyLog {
    for (let mark = 0; mark < this.timing.marks.length; mark++) this.reach(mark, by);
    return this.log;
  }

  /**
   * Whether the log can stay as it is: no slot but for fill stands open, every item may stand where it stands, and no hard
   * rule is broken. A log that plays a category in order is never said to be, since its order is laid out anew.
   */
  isSound(): boolean {
    const { compiled, history, itemAt } = this.assignment;
    const { instance, pools, locked, domains, evaluators } = compiled;
    if (pools.some(({ name, slots }) => slots.length > 0 && instance.pools[name]?.order === 'inOrder')) return false;
    const entries = new Map(allEntries(this.log).map((entry) => [entry.id, entry]));
    const allowed = new Map<Int32Array, ReadonlySet<number>>();
    for (const [s, { id }] of instance.slots.entries()) {
      const item = elementAt(itemAt, history + s);
      if (item < 0 && entries.get(id)?.out) continue;
      if (item < 0) return false;
      const domain = elementAt(domains, s);
      let items = allowed.get(domain);
      if (!items) allowed.set(domain, (items = new Set(domain)));
      if (elementAt(locked, s) < 0 && !items.has(item)) return false;
    }
    let broken = false;
    for (const rule of evaluators) if (rule.hard && !broken) rule.everyViolation(() => (broken = true));
    return !broken;
  }

  private reach(mark: number, by: 'all' | 'fill'): void {
    const first = elementAt(this.timing.marks, mark);
    if (near(first)) return;
    const entries = entriesBetween(this.log, this.timing, mark);
    this.spareAndFill(entries, first);
    if (by === 'fill') return;
    const ids = new Set(entries.map(({ id }) => id));
    const exact = first.hard || first.exactMs !== undefined;
    for (let change = 0; change < (exact ? MOST_CHANGES_EXACT : MOST_CHANGES); change++) {
      const now = elementAt(this.timing.marks, mark);
      if (near(now)) return;
      const { own: free, later } = this.freePositions(ids, now.atMs);
      const lander = new Lander(this.assignment, this.lengths, missOf(now));
      for (const p of free) {
        lander.tryReplacing(p, 0);
        lander.tryExchanging(p, later);
      }
      // Where that does not do, one play more than its turn is the lesser evil; for the second, any item that breaks no rule.
      if (lander.off > (exact ? NEAR_MS : WORTH_A_TURN_MS)) for (const p of free) lander.tryReplacing(p, 1);
      if (exact && lander.off > NEAR_MS) for (const p of free) lander.tryReplacing(p, 2, 'any');
      if (lander.best.length === 0) return;
      this.put(lander.best, now.hourIndex);
    }
  }

  /** Leaves spare lines out and chooses fill, as the mark asks; fill chosen before is chosen anew. */
  private spareAndFill(entries: readonly LogEntry[], mark: MarkTiming): void {
    const fills = entries.filter((entry): entry is PickEntry => isFill(entry) && this.mayChoose(entry));
    const chosenBefore = fills.filter(({ itemId }) => itemId !== null);
    const spares = entries.filter((entry) => this.canLeaveOut(entry)).slice(-MOST_SPARE);
    const missing = -missOf(mark);
    const withoutFill = missing + chosenBefore.reduce((sum, entry) => sum + this.lengthNow(entry), 0);
    const held = chosenBefore.map(({ id }) => {
      const p = lookUp(this.positionOf, id);
      return [p, this.assignment.clear(p)] as const;
    });
    const options = this.fillOptions(fills);
    const beside = this.besideFill(fills);
    const best =
      this.bestFill(withoutFill, spares, fills, options, (chosen) => !beside(chosen)) ??
      this.bestFill(withoutFill, spares, fills, options, () => true);
    for (const [p, item] of held) this.assignment.place(p, item);
    if (!best || best.off >= Math.abs(missing)) return;
    this.leaveOut([...best.out, ...chosenBefore], mark.hourIndex);
    this.put(
      best.fill.map((item, n) => [lookUp(this.positionOf, elementAt(fills, n).id), item] as const),
      mark.hourIndex,
    );
  }

  /** The nearest of what leaving spare lines out and choosing fill can reach; null when nothing is allowed. */
  private bestFill(
    missing: number,
    spares: readonly LogEntry[],
    fills: readonly PickEntry[],
    options: readonly number[],
    allowed: (chosen: readonly number[]) => boolean,
  ): { off: number; out: readonly LogEntry[]; fill: readonly number[] } | null {
    let best: { off: number; out: readonly LogEntry[]; fill: readonly number[] } | null = null;
    for (const out of byCount(spares)) {
      const gap = missing + out.reduce((sum, entry) => sum + this.lengthNow(entry), 0);
      for (const { chosen, offMs } of this.fillsFor(gap, fills, options)) {
        const off = Math.abs(offMs);
        if (best && (best.off <= NEAR_MS || off >= best.off)) break;
        if (!allowed(chosen) || !this.fits(fills, chosen)) continue;
        best = { off, out, fill: chosen };
        break;
      }
      if (best && best.off <= NEAR_MS) break;
    }
    return best;
  }

  /** Whether chosen fill would repeat at once the fill that plays before it or after it. */
  private besideFill(fills: readonly PickEntry[]): (chosen: readonly number[]) => boolean {
    const used = allEntries(this.log).filter(
      (entry): entry is PickEntry => isFill(entry) && !entry.out && entry.categoryId === fills[0]?.categoryId,
    );
    const own = new Set(fills.map(({ id }) => id));
    const places = allEntries(this.log);
    const firstAt = places.findIndex(({ id }) => own.has(id));
    const before = used.findLast((entry) => !own.has(entry.id) && places.indexOf(entry) < firstAt);
    const after = used.find((entry) => !own.has(entry.id) && places.indexOf(entry) > firstAt);
    const itemOf = (entry: PickEntry | undefined): number =>
      this.assignment.compiled.itemIndex.get(entry?.itemId ?? '') ?? -1;
    const [first, last] = [itemOf(before), itemOf(after)];
    return (chosen) => chosen.length > 0 && (chosen[0] === first || chosen.at(-1) === last);
  }

  /** Whether fill may be chosen here. */
  private mayChoose(entry: LogEntry): boolean {
    return entry.kind === 'pick' && !this.keep.has(entry.id) && !entry.locked && entry.origin === 'engine';
  }

  /** What could fill a gap: the items, and how far off they would end, nearest first. */
  private fillsFor(
    gap: number,
    fills: readonly PickEntry[],
    options: readonly number[],
  ): { chosen: readonly number[]; offMs: number }[] {
    const nothing = { chosen: [] as number[], offMs: -gap };
    if (fills.length === 0 || gap <= 0) return [nothing];
    const lengthOf = (item: number): number => elementAt(this.lengths, item);
    const { chosen, queue, leftMs } = fillInTurn(
      gap,
      options.map((item) => ({ item, lengthMs: lengthOf(item) })),
      fills.length,
    );
    const most = Math.min(PIECES_TO_LAND, fills.length - chosen.length);
    if (most <= 0) return [{ chosen, offMs: -leftMs }];
    return waysToReach(leftMs, queue.map(lengthOf), most).map((way) => ({
      chosen: [...chosen, ...way.chosen.map((n) => elementAt(queue, n))],
      offMs: way.offMs,
    }));
  }

  /** The items that may stand in the first of the fill slots, those that rested longest. */
  private fillOptions(fills: readonly PickEntry[]): number[] {
    const p = fills[0] ? this.positionOf.get(fills[0].id) : undefined;
    if (p === undefined) return [];
    const { compiled, history } = this.assignment;
    return headOfTurn(this.assignment, elementAt(compiled.domains, p - history), p, MOST_FILL).filter(
      (item) => this.assignment.hardOf(p, item) + elementAt(this.assignment.totals, HARD) === 0,
    );
  }

  /** Whether items can stand in fill slots together without a hard rule broken; leaves everything as it was. */
  private fits(fills: readonly PickEntry[], items: readonly number[]): boolean {
    const placed: number[] = [];
    let good = true;
    for (const [n, item] of items.entries()) {
      const p = lookUp(this.positionOf, elementAt(fills, n).id);
      good &&=
        elementAt(this.assignment.compiled.domains, p - this.assignment.history).includes(item) &&
        this.assignment.hardOf(p, item) + elementAt(this.assignment.totals, HARD) === 0;
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
    for (const [p] of choices) if (elementAt(assignment.itemAt, p) >= 0) assignment.clear(p);
    for (const [p, item] of choices) assignment.place(p, item);
    const items = new Map(
      choices.map(([p, item]) => [
        elementAt(this.slotIds, p - assignment.history),
        elementAt(assignment.compiled.itemIds, item),
      ]),
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
    const dayStartMs = elementAt(this.log.hours, 0).startMs;
    // What is cut or pulled forward may begin in the hour before.
    for (const hour of this.log.hours.slice(Math.max(0, fromHour - 1))) {
      for (const { id } of hour.entries) {
        const p = this.positionOf.get(id);
        if (p !== undefined) start[p] = Math.floor((lookUp(entries, id).startMs - dayStartMs) / 1000);
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

  /** Positions of the entries that may change, of those with some ids and of those that air in the hours after an instant. */
  private freePositions(ids: ReadonlySet<string>, atMs: number): { own: number[]; later: number[] } {
    const { entries } = this.timing;
    const own: number[] = [];
    const later: number[] = [];
    for (const hour of this.log.hours) {
      if (hour.startMs >= atMs + REACH_MS) break;
      for (const entry of hour.entries) {
        if (!isFree(entry, this.keep)) continue;
        if (ids.has(entry.id)) own.push(lookUp(this.positionOf, entry.id));
        else {
          const { startMs } = lookUp(entries, entry.id);
          if (startMs >= atMs && startMs < atMs + REACH_MS) later.push(lookUp(this.positionOf, entry.id));
        }
      }
    }
    return { own, later };
  }
}

/** The subsets of some entries, those that leave fewer out first. */
function byCount(entries: readonly LogEntry[]): (readonly LogEntry[])[] {
  const all = Array.from({ length: 2 ** entries.length }, (_, mask) => entries.filter((_one, n) => mask & (1 << n)));
  return all.sort((a, b) => a.length - b.length);
}

function isFree(entry: LogEntry, keep: ReadonlySet<string>): boolean {
  return (
    entry.kind === 'pick' &&
    !entry.fill &&
    entry.itemId !== null &&
    !entry.locked &&
    entry.origin === 'engine' &&
    !keep.has(entry.id)
  );
}

function withItems(log: DailyLog, items: ReadonlyMap<string, string>): DailyLog {
  return withEntries(log, new Set(items.keys()), (entry) => {
    if (entry.kind !== 'pick') return entry;
    const { out, ...rest } = entry;
    void out;
    return { ...rest, itemId: lookUp(items, entry.id) };
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
