import { compile, type Compiled } from '../model/compile.js';
import { Assignment, OPEN } from '../model/assignment.js';
import { Random } from '../random.js';
import { weightsDownTo } from '../search/weights.js';
import { MOST_FREE, WindowSearch } from '../search/window.js';
import { isMonotone } from './monotone.js';

/** Slots on either side of an open one that are looked at for a proof. */
const REACH = 14;
/** Evaluations one proof may take. */
const BUDGET = 30_000;
/** Slots with more candidates than this stay blank in a proof: they are not what is scarce. */
const MOST_CANDIDATES = 64;

/** What fixed plays break among themselves, and what an hour cannot supply, by level: no assignment has less. */
export function staticBounds(assignment: Assignment): Float64Array {
  const bound = new Float64Array(assignment.levels);
  const { compiled, sequence } = assignment;
  const { instance } = compiled;
  compiled.domains.forEach((domain, s) => {
    if (domain.length === 0 && compiled.locked[s]! < 0) bound[OPEN]!++;
  });
  compiled.evaluators.forEach((rule, r) => {
    const stated = instance.rules[r]!;
    const { shape } = stated;
    // A play in between may end sooner than the one before it did; in logs, where slots follow each other, none does.
    if (rule.hard || (stated.shape === 'apart' && !stated.secondsBySlot)) return;
    const level = assignment.levelOfRank(rule.rank);
    if (shape === 'atLeast') {
      bound[level]! += rule.shortOfSupply(compiled);
    } else if (shape === 'streak' || shape === 'handOff') {
      // Whatever comes to stand between could part them, so nothing may.
      rule.everyViolation((charged, others) => {
        for (let p = others[0]!; p < charged; p++) if (rule.visible[p] === 1 && sequence.fixed[p] === 0) return;
        bound[level]!++;
      });
    } else if (shape === 'atMost' || shape === 'otherHour' || shape === 'apart' || shape === 'across') {
      rule.everyViolation((charged, others) => {
        if ([charged, ...others].every((p) => sequence.fixed[p] === 1)) bound[level]!++;
      });
    }
  });
  return bound;
}

/** What is known of the fewest open slots there can be. */
export interface OpenProof {
  /** No assignment leaves fewer slots open. */
  readonly bound: number;
  /** By open slot, the window in which no other filling leaves fewer open, whatever else is chosen. */
  readonly windows: ReadonlyMap<number, readonly number[]>;
}

/**
 * A lower bound on open slots: the instance is cut down to windows about its open slots, with every other free
 * slot blank, which only makes it easier. What must stay open in windows that do not overlap adds up.
 */
export function proveOpen(assignment: Assignment, seed: number, tick: () => void): OpenProof {
  const { compiled, history, itemAt, sequence } = assignment;
  const open: number[] = [];
  for (let p = history; p < sequence.length; p++) if (itemAt[p]! < 0) open.push(p);
  const windows = new Map<number, readonly number[]>();
  if (open.length === 0 || !isMonotone(compiled)) return { bound: 0, windows };
  const easier = new Assignment(compile(compiled.instance, seed));
  easier.setWeights(weightsDownTo(easier, OPEN));
  const isFree = (p: number): boolean => sequence.fixed[p] === 0 && compiled.domains[p - history]!.length > 0;
  const isScarce = (p: number): boolean =>
    isFree(p) && (itemAt[p]! < 0 || compiled.domains[p - history]!.length <= MOST_CANDIDATES);
  for (let p = history; p < sequence.length; p++) if (sequence.fixed[p] === 0) easier.put(p, sequence.blank);
  const search = new WindowSearch(easier, new Random(seed));
  let bound = 0;
  for (const group of grouped(open, compiled)) {
    tick();
    const window = group.window.filter(isScarce);
    const impossible = group.open.filter((p) => !isFree(p)).length;
    const count = group.open.length;
    if (count === impossible || !search.canImprove(window, count - impossible, BUDGET)) {
      bound += count;
      for (const p of group.open) windows.set(p, window);
    } else if (impossible > 0) bound += impossible;
  }
  return { bound, windows };
}

interface Group {
  readonly open: number[];
  readonly window: number[];
}

/** Open slots near each other together, each group with the slots about it; windows do not overlap. */
function grouped(open: readonly number[], { sequence }: Compiled): Group[] {
  const groups: Group[] = [];
  for (const p of open) {
    const group = groups.at(-1);
    if (group && p - group.open.at(-1)! <= 2 * REACH && p + REACH - group.window[0]! < MOST_FREE) {
      group.open.push(p);
      for (let q = group.window.at(-1)! + 1; q <= Math.min(sequence.length - 1, p + REACH); q++) group.window.push(q);
      continue;
    }
    const from = Math.max(sequence.history, (group?.window.at(-1) ?? -1) + 1, p - REACH);
    const window: number[] = [];
    for (let q = from; q <= Math.min(sequence.length - 1, p + REACH); q++) window.push(q);
    groups.push({ open: [p], window });
  }
  return groups;
}
