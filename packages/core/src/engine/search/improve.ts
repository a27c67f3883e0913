import { FIRST_SOFT, HARD, OPEN, type Assignment } from '../model/assignment.js';
import type { Random } from '../random.js';
import type { KnownBounds } from '../proof/known-bounds.js';
import type { Annealer } from './anneal.js';
import type { Filler } from './fill.js';
import type { Incumbent } from './incumbent.js';
import { matters, windowAbout, type Matter } from './neighbourhoods.js';
import { levelWeights, weightsDownTo } from './weights.js';
import { MOST_FREE, type WindowSearch } from './window.js';

/** What a search works with. */
export interface Search {
  readonly assignment: Assignment;
  readonly incumbent: Incumbent;
  readonly annealer: Annealer;
  readonly filler: Filler;
  readonly windows: WindowSearch;
  readonly random: Random;
  /** Positions that may change. */
  readonly free: readonly number[];
  readonly bounds: KnownBounds;
  /** Looks for a lower bound on open slots, from those the incumbent has. */
  readonly proveOpen: () => void;
  /** Told of progress in evaluations; throws to stop. */
  readonly tick: () => void;
  /** Conflicts that learning has spent. */
  conflicts: number;
  /** What is being brought down or proven. */
  doing: string;
}

/** Rounds are cut from the budget in such shares, and grow by so much. */
const FIRST_ROUND = 1 / 50;
const GROWTH = 1.3;
const FIRST_LEVEL_TURNS = 3;
/** Evaluations a window may take. */
const WINDOW = 12_000;
const FIRST_WINDOW = 20;
/** The share of the budget that one level of a small instance may take to be solved whole. */
const WHOLE = 0.12;
/** The share of the budget that goes to filling slots at first, where some stay open. */
const FILLING = 0.25;
const SMALLEST_WINDOW = 4;
/** The share of the budget after which a search that gains nothing ends. */
const PATIENCE = 0.4;
/** What turn orders other than even cost while rules are minded, so that what is in order is not mixed up for nothing. */
const ORDERED = 1;

/**
 * Brings down open slots and soft breaks in rank order: for each level that is above its bound, a round of
 * exact windows about its breaks and a round of annealing at its temperature, again and again with
 * growing rounds until every level is at its bound or the budget is spent. A window that takes in every
 * slot and ends with nothing better proves the level. With `near`, windows alone.
 */
export function improve(search: Search, budget: number, near = false): void {
  const { assignment, incumbent, free } = search;
  if (free.length === 0) return;
  const begin = assignment.evaluations;
  const end = begin + budget;
  const sizes = new Float64Array(assignment.levels);
  let round = budget * FIRST_ROUND;
  let first = true;
  let whole = !near && free.length <= MOST_FREE;
  // Near what stands, soft rules only say which of two ways to fill a slot is better.
  const last = near ? FIRST_SOFT : assignment.turnLevel;
  for (;;) {
    const before = assignment.evaluations;
    if (before - Math.max(begin, incumbent.improvedAt) > budget * PATIENCE) return;
    let above = false;
    for (let level = OPEN; level < last; level++) {
      if (isAtBound(search, level)) continue;
      if (sizes[level] === 0) {
        sizes[level] = FIRST_WINDOW;
        if (whole) {
          solveWhole(search, level, Math.min(budget * WHOLE, end - assignment.evaluations));
          if (isAtBound(search, level)) continue;
          // Where one level is too much, so are those below it.
          whole = false;
        }
      }
      // The first level in need comes before all others, so it has more of the time.
      for (let turns = above ? 1 : FIRST_LEVEL_TURNS; turns > 0 && !isAtBound(search, level); turns--) {
        solveWindows(search, level, Math.min(round, end - assignment.evaluations), sizes);
        if (!near && !isAtBound(search, level))
          annealLevel(search, level, Math.min(round, end - assignment.evaluations));
        // What a first round could not fill may well be beyond filling.
        if (level === OPEN && first && !isAtBound(search, level)) search.proveOpen();
        if (level === OPEN && !near && !isAtBound(search, level))
          fill(search, Math.min(first ? budget * FILLING : round, end - assignment.evaluations));
        first = false;
        if (assignment.evaluations >= end) return;
      }
      above = true;
    }
    // Windows that lead nowhere would go on for ever without anything to move on by.
    if (!above || (near && assignment.evaluations === before)) return;
    round *= GROWTH;
  }
}

function fill(search: Search, budget: number): void {
  search.filler.run(budget, search.free, () => {
    search.tick();
    return isAtBound(search, OPEN);
  });
}

function isAtBound({ incumbent, bounds }: Search, level: number): boolean {
  return bounds.isAt(incumbent.score, level);
}

function annealLevel(search: Search, level: number, budget: number): void {
  const { assignment, incumbent, annealer, random, free } = search;
  incumbent.restore();
  // Now steep, now flat: what one cannot cross the other can. From 2.5 to 12, small ones more often.
  const slope = random.unit();
  const slopes = levelWeights(assignment, 2.5 + 9.5 * slope * slope, 0);
  const step = 1 + random.below(4);
  // The level itself stands well above those below it.
  assignment.setWeights(
    slopes.map((weight, l) => (l <= level ? weight * step : weight)),
    ORDERED,
  );
  const { weights } = assignment;
  let last = level;
  for (let l = level; l < assignment.turnLevel; l++) if (incumbent.score[l]! > 0.5) last = l;
  // Now and then from higher up, where what stands above the level is arranged anew as well.
  const top = random.below(3) === 0 ? OPEN + random.below(level - OPEN + 1) : level;
  const through = top < level || random.below(2) === 0;
  const from = weights[top]! * (0.2 + 0.4 * random.unit());
  annealer.run({
    budget,
    from,
    to: through ? weights[last]! * 0.1 : weights[level]! * 0.05,
    free,
    done: () => {
      search.tick();
      return isAtBound(search, level);
    },
  });
  incumbent.restore();
}

/** A small instance as one window, again and again while that makes it better; ends with the level proven, or its budget spent. */
function solveWhole(search: Search, level: number, budget: number): void {
  const { assignment, incumbent, windows, free, bounds } = search;
  const end = assignment.evaluations + budget;
  incumbent.restore();
  assignment.setWeights(weightsDownTo(assignment, level));
  while (!isAtBound(search, level) && assignment.evaluations < end) {
    const better = windows.improve(free, assignment.weights[level]! / 2, end - assignment.evaluations);
    if (better && assignment.totals[HARD]! < 0.5) incumbent.offer();
    if (windows.complete) bounds.prove(incumbent.score, level);
    if (windows.complete || windows.sampled) return;
  }
}

/** Exact windows about the matters of a level; what is below the level does not count in them. */
function solveWindows(search: Search, level: number, budget: number, sizes: Float64Array): void {
  const { assignment, incumbent, windows, random, free, bounds } = search;
  const end = assignment.evaluations + budget;
  incumbent.restore();
  assignment.setWeights(weightsDownTo(assignment, level));
  const gain = assignment.weights[level]! / 2;
  // Looking at the whole log is dear in a long one, so what was found serves for several windows.
  let found: Matter[] = [];
  let left = 0;
  let empty = 0;
  while (assignment.evaluations < end && !isAtBound(search, level)) {
    search.tick();
    if (left-- === 0) {
      found = matters(assignment, level);
      if (found.length === 0) break;
      left = Math.min(found.length, free.length >> 6);
    }
    const matter = found[random.below(found.length)]!;
    const size = Math.round(sizes[level]!);
    const window = size >= free.length ? free : windowAbout(assignment, matter, size, random);
    // Between fixed plays there is nothing to free.
    if (window.length === 0 && ++empty > 8) break;
    const before = assignment.evaluations;
    const better = windows.improve(window, gain, WINDOW);
    if (better && assignment.totals[HARD]! < 0.5) incumbent.offer();
    if (windows.spent) sizes[level] = Math.max(SMALLEST_WINDOW, sizes[level]! * 0.9);
    else if (window === free) bounds.prove(incumbent.score, level);
    else if (!better && assignment.evaluations - before < WINDOW / 3)
      sizes[level] = Math.min(MOST_FREE, free.length, sizes[level]! * 1.05);
  }
  incumbent.restore();
}

/** Evaluations that a polish from higher up takes at least. */
const LONG_POLISH = 20_000;

/** A polish ends once it has cooled so far and gained nothing for so long, both as shares of its budget. */
const COOLED = 0.5;
const STAGNANT = 0.3;

/** Brings down spread and rest without giving up anything above them. */
export function polish(search: Search, budget: number): void {
  const { assignment, incumbent, annealer, free } = search;
  search.doing = 'even turns';
  const begin = assignment.evaluations;
  assignment.setWeights(levelWeights(assignment, 10, 1));
  annealer.run({
    budget,
    // Hot enough to cross from one even turn to another, where there is time to cool down again.
    from: budget > LONG_POLISH ? 4 : 1.5,
    to: 0.02,
    free,
    done: () => {
      search.tick();
      const { evaluations } = assignment;
      const idle = evaluations - Math.max(begin, incumbent.improvedAt);
      return evaluations - begin > budget * COOLED && idle > budget * STAGNANT;
    },
  });
  incumbent.restore();
}
