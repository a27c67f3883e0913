import { budgetOf, conflictsOf, type Effort } from './effort.js';
import type { Instance } from './instance.js';
import { Assignment, HARD, OPEN } from './model/assignment.js';
import { compile, type Compiled } from './model/compile.js';
import { proveOpen, staticBounds, type OpenProof } from './proof/bounds.js';
import { explainOpen } from './proof/explain.js';
import { KnownBounds } from './proof/known-bounds.js';
import { relaxations } from './proof/relax.js';
import { Random } from './random.js';
import { findViolations, scoreOf } from './score.js';
import { Annealer } from './search/anneal.js';
import { Filler } from './search/fill.js';
import { construct, layOutSequences } from './search/construct.js';
import { learn } from './learn/learn.js';
import { raiseByPools } from './learn/pool-bounds.js';
import { improve, polish, type Search } from './search/improve.js';
import { Incumbent } from './search/incumbent.js';
import { levelWeights } from './search/weights.js';
import { WindowSearch } from './search/window.js';
import type { OpenSlot, Proof, Score, Solution } from './solution.js';

/** What a search is given: the same seed and effort give the same solution. */
export interface SolveOptions {
  readonly seed?: number | undefined;
  readonly effort?: Effort | undefined;
  /** A solution to start from, item id by slot id; what it breaks is chosen anew. */
  readonly start?: Readonly<Record<string, string | null>> | undefined;
  /** Evaluations to spend, in place of what the effort says. */
  readonly evaluations?: number | undefined;
  /** Conflicts that conflict learning may spend, in place of what the effort says. */
  readonly conflicts?: number | undefined;
  /** Conflict learning looks at soft ranks up to this one; at all unless said otherwise. */
  readonly learnRanks?: number | undefined;
  /** How much is said of open slots: `all`, `conflicts` but no relaxations, or `none` of it. */
  readonly explain?: 'all' | 'conflicts' | 'none' | undefined;
  /** `near`: what stands in `start` is changed only near open slots and broken rules; `all` unless said otherwise. */
  readonly change?: 'all' | 'near' | undefined;
  /**
   * Told every so often how far the search is, 0 to 1, what it brings down or proves (all rules, open slots, a rank, even
   * turns), and on asking what the best found so far leaves open and breaks.
   */
  readonly progress?: ((share: number, doing: string, best: () => BestSoFar) => void) | undefined;
  /** Asked every so often; once it says so the search ends, and the best found so far is the solution. */
  readonly isStopped?: (() => boolean) | undefined;
}

/** What the best assignment met so far leaves open, and how many breaks of each soft rank it has. */
export type BestSoFar = Pick<Score, 'open' | 'soft'>;

/** Thrown in a search that is to end. */
class Stopped extends Error {}

/** The share of the budget for a first search at most, and for another one where learning leaves something to be gained. */
const FIRST = 0.16;
const SECOND = 0.6;
/** The share of the budget kept for spread and rest at most. */
const POLISH = 0.1;
/** A small log needs less of either: so many evaluations, and so many more a slot. */
const LEAST_FIRST = { base: 2000, slot: 300 };
const LEAST_POLISH = { base: 60_000, slot: 130 };
/** Evaluations for solving again with a rule loosened. */
const RELAXED = 8000;
const NO_WINDOWS: ReadonlyMap<number, readonly number[]> = new Map();
const NOTHING_SAID = { heldBackBy: [], conflict: [] };

/**
 * Fills the slots of an instance so that no hard rule is broken, as few slots as possible stay open, and of the soft
 * rules as few as possible are broken, rank by rank; then evens out the turns. The same instance,
 * seed, effort and start give the same solution on every machine.
 */
export function solve(instance: Instance, options: SolveOptions = {}): Solution {
  const seed = options.seed ?? 1;
  const budget = options.evaluations ?? budgetOf(options.effort ?? 'normal', instance.slots.length);
  const compiled = compile(instance, seed);
  const assignment = new Assignment(compiled);
  const tick = (): void => {
    if (options.isStopped?.()) throw new Stopped();
    options.progress?.(Math.min(0.99, assignment.evaluations / budget), search.doing, () => bestOf(search));
  };
  assignment.setWeights(levelWeights(assignment, 10, 1));
  const bounds = new KnownBounds(assignment, staticBounds(assignment));
  placeStart(assignment, options.start);
  construct(assignment);
  const search = makeSearch(assignment, bounds, seed, tick);
  const stopped = !ended(() => searchAll(search, budget, options));
  search.incumbent.restore();
  assignment.setWeights(levelWeights(assignment, 10, 1));
  // A shuffle may go many ways; once made, it stays.
  if (!stopped && layOutSequences(assignment, options.change === 'near' ? ['inOrder'] : ['inOrder', 'shuffle'])) {
    search.incumbent.offer();
    search.incumbent.restore();
  }
  return describe(search, seed, options, tick);
}

/** The search from what was constructed on; what it finds is the incumbent. */
function searchAll(search: Search, budget: number, options: SolveOptions): void {
  const { assignment, bounds } = search;
  const slots = assignment.compiled.instance.slots.length;
  const upTo = (share: number, { base, slot }: typeof LEAST_FIRST): number =>
    Math.min(budget * share, base + slot * slots);
  if (options.change === 'near') return improve(search, budget * (1 - POLISH), true);
  improve(search, upTo(FIRST, LEAST_FIRST));
  raiseByPools(search, assignment.turnLevel);
  if (bounds.firstAbove(search.incumbent.score, assignment.turnLevel) >= 0) {
    learn(search, options.conflicts ?? conflictsOf(options.effort ?? 'normal'), options.learnRanks);
    improve(search, budget * SECOND);
  }
  polish(search, upTo(POLISH, LEAST_POLISH));
}

/** Whether something ran to its end; false where it was stopped. */
function ended(run: () => void): boolean {
  try {
    run();
    return true;
  } catch (error) {
    if (error instanceof Stopped) return false;
    throw error;
  }
}

function bestOf({ assignment, incumbent }: Search): BestSoFar {
  const soft: Record<string, number> = {};
  for (const rank of assignment.ranks) soft[rank] = Math.round(incumbent.score[assignment.levelOfRank(rank)]!);
  return { open: Math.round(incumbent.score[OPEN]!), soft };
}

function placeStart(assignment: Assignment, start: SolveOptions['start']): void {
  if (!start) return;
  const { compiled, history, itemAt } = assignment;
  compiled.instance.slots.forEach((slot, s) => {
    const item = compiled.itemIndex.get(start[slot.id] ?? '');
    if (item === undefined || itemAt[history + s]! >= 0 || !compiled.domains[s]!.includes(item)) return;
    if (assignment.hardOf(history + s, item) + assignment.totals[HARD]! <= 0) assignment.place(history + s, item);
  });
}

function makeSearch(assignment: Assignment, bounds: KnownBounds, seed: number, tick: () => void): Search {
  const { compiled, history } = assignment;
  const random = new Random(seed);
  const incumbent = new Incumbent(assignment);
  const free: number[] = [];
  compiled.domains.forEach((domain, s) => {
    if (compiled.locked[s]! < 0 && domain.length > 0) free.push(history + s);
  });
  const annealer = new Annealer(assignment, incumbent, random, domainTest(compiled, history));
  const filler = new Filler(assignment, incumbent, random);
  const windows = new WindowSearch(assignment, random);
  const prove = (): void => {
    incumbent.restore();
    bounds.raise(OPEN, proveOpen(assignment, seed, tick).bound);
  };
  return {
    assignment,
    incumbent,
    annealer,
    filler,
    windows,
    random,
    free,
    bounds,
    proveOpen: prove,
    tick,
    conflicts: 0,
    doing: 'all rules',
  };
}

/** Whether an item is in the domain of a position; domains are shared, so each is looked through once. */
function domainTest({ domains }: Compiled, history: number): (p: number, item: number) => boolean {
  const sets = new Map<Int32Array, Set<number>>();
  return (p, item) => {
    const domain = domains[p - history]!;
    let set = sets.get(domain);
    if (!set) sets.set(domain, (set = new Set(domain)));
    return set.has(item);
  };
}

function describe(search: Search, seed: number, options: SolveOptions, tick: () => void): Solution {
  const { assignment, bounds } = search;
  const { totals } = assignment;
  const { compiled, history, itemAt } = assignment;
  const { instance } = compiled;
  const assignmentById: Record<string, string | null> = {};
  instance.slots.forEach((slot, s) => {
    const item = itemAt[history + s]!;
    assignmentById[slot.id] = item < 0 ? null : compiled.itemIds[item]!;
  });
  const breaks = findViolations(compiled);
  const score = scoreOf(compiled, breaks);
  const says = options.explain ?? 'all';
  let proof: OpenProof = { bound: 0, windows: NO_WINDOWS };
  if (says !== 'none') ended(() => (proof = proveOpen(assignment, seed, tick)));
  const openBound = Math.max(proof.bound, bounds.of(totals, OPEN));
  const open = instance.slots.flatMap((slot, s): OpenSlot[] => {
    if (itemAt[history + s]! >= 0) return [];
    const window = proof.windows.get(history + s);
    const kind: Proof = openBound >= score.open ? 'proven' : window ? 'local' : 'budget';
    const where = kind === 'local' && window ? { window: window.map((p) => instance.slots[p - history]!.id) } : {};
    return [
      {
        slot: slot.id,
        proof: kind,
        ...where,
        ...(says === 'none' ? NOTHING_SAID : explainOpen(assignment, history + s)),
        relax: [],
      },
    ];
  });
  const soft: Record<string, number> = {};
  for (const rank of assignment.ranks) soft[rank] = bounds.of(totals, assignment.levelOfRank(rank));
  const solution: Solution = {
    format: 'fuller-solution',
    version: 1,
    seed,
    assignment: assignmentById,
    breaks,
    score,
    open,
    bound: { open: openBound, soft },
    stats: { ms: 0, evaluations: assignment.evaluations, conflicts: search.conflicts },
  };
  if (open.length === 0 || says !== 'all') return solution;
  return { ...solution, open: withRelaxations(instance, solution, seed, options.isStopped) };
}

function withRelaxations(
  instance: Instance,
  solution: Solution,
  seed: number,
  isStopped: SolveOptions['isStopped'],
): OpenSlot[] {
  const found = relaxations(instance, solution.open, (changed) => {
    const again = solve(changed, {
      seed,
      evaluations: RELAXED,
      start: solution.assignment,
      explain: 'none',
      change: 'near',
      isStopped,
    });
    return new Set(again.open.map((one) => one.slot));
  });
  return solution.open.map((one) => ({
    ...one,
    relax: found.filter((relaxation) => relaxation.fills.includes(one.slot)),
  }));
}
