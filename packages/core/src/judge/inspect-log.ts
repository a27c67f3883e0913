import { elementAt, lookUp } from '../values/look-up.js';
import { Assignment } from '../engine/model/assignment.js';
import { compile } from '../engine/model/compile.js';
import { clashesOf } from '../engine/proof/explain.js';
import { findViolations } from '../engine/score.js';
import type { Violation } from '../engine/solution.js';
import { applyEdit } from '../log/apply-edit.js';
import { allEntries, findEntry, isBound, itemOf, openSlots, type DailyLog, type LogEntry } from '../log/daily-log.js';
import { byHand, type HandEdit } from '../log/log-edit.js';
import { isMadeUp } from '../station/even-history.js';
import { stationRuleId } from '../station/instance-rules.js';
import { isNextDay, logInstance } from '../station/log-instance.js';
import { Mending, type Mend, type SwapPartner } from './mending.js';
import type { StationModel } from '../station/station-model.js';

/** One place where a rule is broken. */
export interface Strain {
  readonly ruleId: string;
  readonly entryId: string;
  /** Seconds too soon, plays too many or too few; 1 for a hand-off or the same hour. */
  readonly by: number;
}

/** One item that could stand in a slot. */
export interface Candidate {
  readonly itemId: string;
  /** Milliseconds since its last play before the slot, start to start; null when it never played. */
  readonly restMs: number | null;
  /** UTC start of its next planned play; null without one. */
  readonly nextMs: number | null;
  readonly breaks: readonly { readonly ruleId: string; readonly by: number }[];
}

/** A log as the engine sees it, whatever it breaks; `breaks alone` as in logInstance. */
export function asItStands(
  model: StationModel,
  log: DailyLog,
  takes: 'what airs' | 'breaks alone' = 'what airs',
): Assignment {
  const { instance, start } = logInstance(model, log, 'rules', takes);
  const compiled = compile(instance);
  const assignment = new Assignment(compiled);
  instance.slots.forEach((slot, s) => {
    const item = compiled.itemIndex.get(start[slot.id] ?? '');
    if (item !== undefined) assignment.put(assignment.history + s, item);
  });
  return assignment;
}

/** So many edits are tried until one mends. */
const MOST_TRIED = 8;

/** One log, judged at the times its entries air. What it costs to look at it as the engine does is spent once. */
export class LogInspector {
  private whole: Assignment | null = null;
  private counted: number | null = null;

  constructor(
    private readonly model: StationModel,
    private readonly log: DailyLog,
  ) {}

  private get assignment(): Assignment {
    return (this.whole ??= asItStands(this.model, this.log));
  }

  /**
   * The slots a slot could change items with so that less breaks, each tried; those that mend most first. What has begun
   * by `nowMs`, UTC epoch milliseconds, stays.
   */
  swapPartners(entryId: string, nowMs = 0): SwapPartner[] {
    return this.mendingFrom(nowMs)
      .swapsOf(entryId)
      .slice(0, MOST_TRIED)
      .filter(({ withId }) => this.mends({ type: 'swap', entryId, withId }));
  }

  /** The one edit that mends most in an hour, by its place in the day, tried; null without one. `nowMs` as above. */
  bestMend(hourIndex: number, nowMs = 0): Mend | null {
    const mends = this.mendingFrom(nowMs).mendsIn(elementAt(this.log.hours, hourIndex)).slice(0, MOST_TRIED);
    return mends.find(({ entryId, edit }) => this.mends({ ...edit, entryId })) ?? null;
  }

  private mendingFrom(nowMs: number): Mending {
    const { entries } = this.model.timing(this.log);
    return new Mending(this.assignment, (id) => lookUp(entries, id).startMs > nowMs);
  }

  /** Whether the log breaks less, or has fewer open slots, after an edit: the times move with it. */
  private mends(edit: HandEdit): boolean {
    const outcome = applyEdit(this.log, byHand(edit));
    if (!outcome.ok) return false;
    const now = (this.counted ??= this.strains().length);
    const moved = this.moved(outcome.log);
    const after = (moved ?? new LogInspector(this.model, outcome.log)).strains().length;
    if (moved) this.whole = moved.moved(this.log)?.whole ?? null;
    return after < now || (after === now && openSlots(outcome.log).length < openSlots(this.log).length);
  }

  /**
   * The inspector of a log that differs from this one only in what stands in its slots and in notes: what this one has
   * worked out is taken over and changed, and this one begins anew when it is asked again. Null where more differs, or
   * nothing has been worked out yet.
   */
  moved(log: DailyLog): LogInspector | null {
    const { whole, model } = this;
    if (!whole || !haveSameSlots(this.log, log)) return null;
    const { compiled, history, itemAt, sequence } = whole;
    const { entries } = model.timing(log);
    const dayStartMs = log.hours[0]?.startMs ?? 0;
    const wanted = new Map(allEntries(log).map((entry) => [entry.id, itemOf(entry)]));
    const changed: [p: number, item: number][] = [];
    for (const [s, { id }] of compiled.instance.slots.entries()) {
      const itemId = wanted.get(id);
      if (itemId === undefined) continue;
      const item = itemId === null ? -1 : (compiled.itemIndex.get(itemId) ?? null);
      if (item === null) return null;
      if (item !== itemAt[history + s]) changed.push([history + s, item]);
    }
    for (const [p] of changed) if (elementAt(itemAt, p) >= 0) whole.lift(p);
    for (const [s, { id }] of compiled.instance.slots.entries()) {
      const at = entries.get(id);
      if (at) sequence.start[history + s] = Math.floor((at.startMs - dayStartMs) / 1000);
    }
    for (const [p, item] of changed) if (item >= 0) whole.put(p, item);
    this.whole = null;
    const next = new LogInspector(model, log);
    next.whole = whole;
    return next;
  }

  /** Every rule broken. */
  strains(): Strain[] {
    const { compiled } = this.whole ?? asItStands(this.model, this.log, 'breaks alone');
    return findViolations(compiled)
      .filter((found: Violation) => !isNextDay(found.slot))
      .map((found) => ({ ruleId: stationRuleId(found.rule), entryId: found.slot, by: found.by }));
  }

  /**
   * The items of a slot's category for that slot: those that break nothing first, longest rest
   * first. Throws RangeError when the entry is not a slot of the log, or is locked.
   */
  candidates(entryId: string): Candidate[] {
    const entry = findEntry(this.log, entryId);
    if (entry?.kind !== 'pick' || entry.locked || entry.out)
      throw new RangeError('only a slot filled from a category, neither locked nor left out, has candidates');
    const { assignment } = this;
    const p = assignment.history + assignment.compiled.instance.slots.findIndex((slot) => slot.id === entryId);
    const held = elementAt(assignment.itemAt, p);
    if (held >= 0) assignment.lift(p);
    const found = this.rank(p, lookUp(this.model.timing(this.log).entries, entryId).startMs);
    if (held >= 0) assignment.put(p, held);
    return found;
  }

  private rank(p: number, startMs: number): Candidate[] {
    const { assignment } = this;
    const { compiled, history, sequence } = assignment;
    const at = elementAt(sequence.start, p);
    const candidates = Array.from(elementAt(compiled.domains, p - history), (item): Candidate => {
      const before = compiled.plays.before(p, item);
      const after = compiled.plays.after(p, item);
      const worst = new Map<string, number>();
      for (const { rule, by } of clashesOf(assignment, p, item, true))
        worst.set(stationRuleId(rule), Math.max(by, worst.get(stationRuleId(rule)) ?? 0));
      return {
        itemId: elementAt(compiled.itemIds, item),
        restMs:
          before < 0 || isMadeUp(elementAt(sequence.start, before))
            ? null
            : (at - elementAt(sequence.start, before)) * 1000,
        nextMs: after < 0 ? null : startMs + (elementAt(sequence.start, after) - at) * 1000,
        breaks: [...worst].map(([ruleId, by]) => ({ ruleId, by })),
      };
    });
    const rest = (candidate: Candidate): number => candidate.restMs ?? Number.MAX_SAFE_INTEGER;
    return candidates.sort((a, b) => a.breaks.length - b.breaks.length || rest(b) - rest(a));
  }
}

/** Whether the slots of two logs are the same ones, whatever stands in those that are free and whenever they air. */
function haveSameSlots(a: DailyLog, b: DailyLog): boolean {
  if (a.date !== b.date || a.hours.length !== b.hours.length) return false;
  return a.hours.every((hour, h) => {
    const other = elementAt(b.hours, h);
    if (hour === other) return true;
    const { entries, ...head } = hour;
    const { entries: others, ...otherHead } = other;
    if (entries.length !== others.length || JSON.stringify(head) !== JSON.stringify(otherHead)) return false;
    return entries.every((entry, n) => entry === others[n] || slotOf(entry) === slotOf(elementAt(others, n)));
  });
}

/** What makes an entry the slot it is for the engine. */
function slotOf(entry: LogEntry): string {
  if (entry.kind === 'break' || entry.kind === 'note' || isBound(entry)) return entry.id;
  const fixed = entry.kind === 'item' || entry.locked;
  const pick = entry.kind === 'pick' ? [entry.categoryId, entry.turnOrder, entry.filters, entry.rules, entry.fill] : [];
  return JSON.stringify([entry.id, entry.kind, entry.out, fixed ? entry.itemId : fixed, ...pick]);
}
