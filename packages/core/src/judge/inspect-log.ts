import { elementAt, lookUp } from '../values/look-up.js';
import { Assignment } from '../engine/model/assignment.js';
import { compile } from '../engine/model/compile.js';
import { clashesOf } from '../engine/proof/explain.js';
import { findViolations } from '../engine/score.js';
import type { Violation } from '../engine/solution.js';
import { applyEdit } from '../log/apply-edit.js';
import { findEntry, openSlots, type DailyLog } from '../log/daily-log.js';
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
    const worse = new LogInspector(this.model, outcome.log).strains().length - (this.counted ??= this.strains().length);
    return worse < 0 || (worse === 0 && openSlots(outcome.log).length < openSlots(this.log).length);
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
