import { compile } from '../engine/compile.js';
import { findBreaks } from '../engine/score.js';
import type { RuleBreak } from '../engine/solution.js';
import { Timeline } from '../engine/timeline.js';
import { findEntry, type DailyLog } from './daily-log.js';
import { isNextDay, logInstance } from './log-instance.js';
import { StationModel, type StationData } from './station-data.js';

/** One place where a rule is broken. */
export interface Strain {
  readonly ruleId: string;
  readonly entryId: string;
  /** Seconds too soon. */
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

/** Every rule broken in a log at the times its entries air. */
export function strainsOf(data: StationData, log: DailyLog): Strain[] {
  const { instance, start } = logInstance(new StationModel(data), log);
  const compiled = compile(instance);
  const index = new Map(compiled.itemIds.map((id, i) => [id, i]));
  const assigned = Int32Array.from(instance.slots, (slot) => index.get(slot.locked ?? start[slot.id] ?? '') ?? -1);
  return findBreaks(compiled, assigned)
    .filter((found: RuleBreak) => !isNextDay(found.slot))
    .map((found) => ({ ruleId: found.rule, entryId: found.slot, by: found.by }));
}

/**
 * The items of a slot's category for that slot: those that break nothing first, longest rest
 * first. Throws RangeError when the entry is not a slot of the log.
 */
export function rankCandidates(data: StationData, log: DailyLog, entryId: string): Candidate[] {
  const entry = findEntry(log, entryId);
  if (entry?.kind !== 'pick') throw new RangeError('only a slot filled from a category has candidates');
  const model = new StationModel(data);
  const startMs = model.timing(log).entries.get(entryId)!.startMs;
  const { instance, start } = logInstance(model, log);
  const compiled = compile(instance);
  const timeline = new Timeline(compiled);
  const index = new Map(compiled.itemIds.map((id, i) => [id, i]));
  const slot = instance.slots.findIndex((candidate) => candidate.id === entryId);
  instance.slots.forEach((other, i) => {
    const item = index.get(other.locked ?? start[other.id] ?? '');
    if (i !== slot && item !== undefined) timeline.assign(i, item);
  });
  const at = compiled.slotStart[slot]!;
  const candidates = Array.from(compiled.poolItems[compiled.slotPool[slot]!]!, (item): Candidate => {
    const last = timeline.lastPlayBefore(item, at);
    const next = timeline.nextPlayFrom(item, at);
    const worst = new Map<string, number>();
    for (const { rule, by } of timeline.clashes(slot, item)) {
      const id = compiled.rules[rule]!.id;
      worst.set(id, Math.max(by, worst.get(id) ?? 0));
    }
    return {
      itemId: compiled.itemIds[item]!,
      restMs: last === null ? null : (at - last) * 1000,
      nextMs: next === null ? null : startMs + (next - at) * 1000,
      breaks: [...worst].map(([ruleId, by]) => ({ ruleId, by })),
    };
  });
  const rest = (candidate: Candidate): number => candidate.restMs ?? Number.MAX_SAFE_INTEGER;
  return candidates.sort((a, b) => a.breaks.length - b.breaks.length || rest(b) - rest(a));
}
