import { elementAt } from '../values/look-up.js';
import type { Assignment } from '../engine/model/assignment.js';
import { clashesOf } from '../engine/proof/explain.js';
import type { ChosenWhy, DailyLog, HeldItems, LogEntry } from '../log/daily-log.js';
import { stationRuleId } from '../station/instance-rules.js';
import { isMadeUp } from '../station/even-history.js';
import { asItStands } from '../judge/inspect-log.js';
import type { StationModel } from '../station/station-model.js';

/** Of the items before a choice in the turn, so many are asked what held them back. */
const MOST_ASKED = 24;

/** The log with the reasons for every choice of generation, as they are at the times the entries air, with the engine's view of the log where there is one; what was kept keeps its own. */
export function withReasons(
  model: StationModel,
  log: DailyLog,
  kept: ReadonlySet<string>,
  assignment = asItStands(model, log),
): DailyLog {
  const { compiled, history } = assignment;
  const positionOf = new Map(compiled.instance.slots.map((slot, s) => [slot.id, history + s]));
  const explain = (entry: LogEntry): LogEntry => {
    if (entry.kind !== 'pick' || entry.origin !== 'engine' || (kept.has(entry.id) && entry.why)) return entry;
    const p = positionOf.get(entry.id);
    const known = entry.itemId !== null && p !== undefined && elementAt(assignment.itemAt, p) >= 0;
    return { ...entry, why: known && !entry.locked ? whyChosen(assignment, p) : (entry.why ?? null) };
  };
  return { ...log, hours: log.hours.map((hour) => ({ ...hour, entries: hour.entries.map(explain) })) };
}

function whyChosen(assignment: Assignment, p: number): ChosenWhy {
  const { compiled, history, sequence } = assignment;
  const { plays } = compiled;
  const item = assignment.lift(p);
  const last = (one: number): number => plays.before(p, one);
  const [count, before] = [plays.countOf(item), last(item)];
  const ahead = elementAt(compiled.domains, p - history).filter((one) => {
    const difference = plays.countOf(one) - count;
    return one !== item && (difference < 0 || (difference === 0 && last(one) < before));
  });
  const held = new Map<string, number>();
  for (const one of ahead.subarray(0, MOST_ASKED)) {
    const [first] = clashesOf(assignment, p, one);
    if (first) held.set(stationRuleId(first.rule), (held.get(stationRuleId(first.rule)) ?? 0) + 1);
  }
  assignment.put(p, item);
  const heldBack: HeldItems[] = [...held]
    .map(([ruleId, items]) => ({ ruleId, items }))
    .sort((a, b) => b.items - a.items);
  return {
    restMs:
      before < 0 || isMadeUp(elementAt(sequence.start, before))
        ? null
        : (elementAt(sequence.start, p) - elementAt(sequence.start, before)) * 1000,
    ahead: ahead.length,
    heldBack,
  };
}
