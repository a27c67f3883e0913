import { compile, type Compiled } from './compile.js';
import type { Instance } from './instance.js';
import { seededRandom } from './random.js';
import { findBreaks, scoreOf } from './score.js';
import type { OpenSlot, Solution } from './solution.js';
import { Timeline, type Clash } from './timeline.js';

export interface SolveOptions {
  readonly seed?: number;
  /** A solution to start from, item id by slot id; what it breaks is chosen anew. */
  readonly start?: Readonly<Record<string, string | null>>;
}

/**
 * Fills the slots of an instance: locked slots first, then the scarcest pools, each slot with the
 * item rested longest that breaks no hard rule; then one repair pass that moves a single blocking
 * play out of the way of an open slot. The same instance, seed and start give the same solution.
 */
export function solve(instance: Instance, options: SolveOptions = {}): Solution {
  const seed = options.seed ?? 1;
  const compiled = compile(instance);
  const timeline = new Timeline(compiled);
  const tieBreak = tieBreaks(compiled, seed);
  placeLocked(compiled, timeline);
  placeStart(compiled, timeline, options.start);
  const slots = slotsByScarcity(compiled).filter((slot) => timeline.assigned[slot] === -1);
  for (const slot of slots) {
    const item = bestItem(compiled, timeline, tieBreak, slot);
    if (item >= 0) timeline.assign(slot, item);
  }
  for (const slot of slots) {
    if (timeline.assigned[slot] === -1) repair(compiled, timeline, tieBreak, slot);
  }
  return describe(compiled, timeline, seed);
}

function tieBreaks(compiled: Compiled, seed: number): Float64Array {
  const random = seededRandom(seed);
  return Float64Array.from(compiled.itemIds, () => random());
}

function placeLocked(compiled: Compiled, timeline: Timeline): void {
  compiled.slotLocked.forEach((item, slot) => {
    if (item >= 0) timeline.assign(slot, item);
  });
}

function placeStart(compiled: Compiled, timeline: Timeline, start: SolveOptions['start']): void {
  if (!start) return;
  const index = new Map(compiled.itemIds.map((id, i) => [id, i]));
  compiled.instance.slots.forEach((slot, i) => {
    const item = index.get(start[slot.id] ?? '');
    if (item === undefined || timeline.assigned[i] !== -1) return;
    if (timeline.clashes(i, item, 1).length === 0) timeline.assign(i, item);
  });
}

/** Slots of the pools with the most plays asked of each item first, in time order within a pool. */
function slotsByScarcity(compiled: Compiled): number[] {
  const slots = new Array<number>(compiled.poolItems.length).fill(0);
  compiled.slotPool.forEach((pool) => slots[pool]!++);
  const scarcity = (slot: number): number => {
    const pool = compiled.slotPool[slot]!;
    return slots[pool]! / Math.max(1, compiled.poolItems[pool]!.length);
  };
  return Array.from(compiled.slotStart.keys()).sort((a, b) => scarcity(b) - scarcity(a) || a - b);
}

/** The pool's items that may go into a slot, longest rest first; never played stand at the head. */
function byRest(compiled: Compiled, timeline: Timeline, tieBreak: Float64Array, slot: number): number[] {
  const start = compiled.slotStart[slot]!;
  const keyed = Array.from(compiled.poolItems[compiled.slotPool[slot]!]!, (item) => {
    const last = timeline.lastPlayBefore(item, start);
    const next = timeline.nextPlayFrom(item, start);
    // A play soon after counts against the item like one soon before, so that rests stay even.
    const rest = Math.min(
      last === null ? Number.MAX_SAFE_INTEGER : start - last,
      next === null ? Number.MAX_SAFE_INTEGER : next - start,
    );
    return { item, rest };
  });
  keyed.sort((a, b) => b.rest - a.rest || tieBreak[a.item]! - tieBreak[b.item]!);
  return keyed.map((key) => key.item);
}

function bestItem(compiled: Compiled, timeline: Timeline, tieBreak: Float64Array, slot: number): number {
  for (const item of byRest(compiled, timeline, tieBreak, slot)) {
    if (timeline.clashes(slot, item, 1).length === 0) return item;
  }
  return -1;
}

/** Fills an open slot by moving one blocking play elsewhere, if any single move does it. */
function repair(compiled: Compiled, timeline: Timeline, tieBreak: Float64Array, slot: number): void {
  for (const item of byRest(compiled, timeline, tieBreak, slot)) {
    const blocker = soleBlocker(timeline.clashes(slot, item, 8), slot);
    if (blocker < 0 || compiled.slotLocked[blocker] !== -1) continue;
    const moved = timeline.assigned[blocker]!;
    timeline.clear(blocker);
    timeline.assign(slot, item);
    const substitute = bestItem(compiled, timeline, tieBreak, blocker);
    if (substitute >= 0) {
      timeline.assign(blocker, substitute);
      return;
    }
    timeline.clear(slot);
    timeline.assign(blocker, moved);
  }
}

function soleBlocker(clashes: readonly Clash[], slot: number): number {
  let blocker = -1;
  for (const { earlier, later } of clashes) {
    const other = earlier.slot === slot ? later.slot : earlier.slot;
    if (other < 0 || (blocker >= 0 && blocker !== other)) return -1;
    blocker = other;
  }
  return blocker;
}

function describe(compiled: Compiled, timeline: Timeline, seed: number): Solution {
  const { instance, itemIds } = compiled;
  const open: OpenSlot[] = [];
  const assignment: Record<string, string | null> = {};
  instance.slots.forEach((slot, index) => {
    const item = timeline.assigned[index]!;
    assignment[slot.id] = item < 0 ? null : itemIds[item]!;
    if (item < 0) open.push(explainOpen(compiled, timeline, index));
  });
  return {
    format: 'fuller-solution',
    version: 1,
    seed,
    assignment,
    breaks: findBreaks(compiled, timeline.assigned),
    score: scoreOf(compiled, timeline.assigned),
    open,
    stats: { evaluations: timeline.evaluations },
  };
}

function explainOpen(compiled: Compiled, timeline: Timeline, slot: number): OpenSlot {
  const fixed = (other: number): boolean => other < 0 || compiled.slotLocked[other] !== -1;
  let proven = true;
  const heldBackBy = Array.from(compiled.poolItems[compiled.slotPool[slot]!]!, (item) => {
    const clashes = timeline.clashes(slot, item);
    const hopeless = clashes.find((clash) => fixed(otherPlay(clash, slot).slot));
    if (!hopeless) proven = false;
    const shown = hopeless ?? clashes[0]!;
    const other = otherPlay(shown, slot);
    return {
      item: compiled.itemIds[item]!,
      rule: compiled.rules[shown.rule]!.id,
      with: [other.slot >= 0 ? compiled.instance.slots[other.slot]!.id : compiled.itemIds[other.item]!],
    };
  });
  return { slot: compiled.instance.slots[slot]!.id, proof: proven ? 'proven' : 'budget', heldBackBy };
}

function otherPlay(clash: Clash, slot: number): Clash['earlier'] {
  return clash.earlier.slot === slot ? clash.later : clash.earlier;
}
