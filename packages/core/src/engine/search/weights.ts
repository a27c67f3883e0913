import { FIRST_SOFT, HARD, OPEN, type Assignment } from '../model/assignment.js';

/** A break of the last soft rank, in units of spread: more than any one exchange gains in spread. */
const LAST_RANK = 8;

/**
 * Weights that stand for the order of the levels: each rank weighs `factor` times the next. A small
 * factor lets the search trade a rank for several of the next on its way; what is kept is compared
 * level by level. With `turn` 0 the turn orders are not looked at.
 */
export function levelWeights(assignment: Assignment, factor: number, turn: 0 | 1): Float64Array {
  const weights = new Float64Array(assignment.levels);
  weights[assignment.turnLevel] = turn;
  weights[assignment.restLevel] = turn / 2;
  let weight = LAST_RANK;
  for (let level = assignment.turnLevel - 1; level >= FIRST_SOFT; level--) {
    weights[level] = weight;
    weight *= factor;
  }
  weights[OPEN] = weight;
  // Dearer than an open slot, so that opening one always pays.
  weights[HARD] = weight * 1.3;
  return weights;
}

/**
 * Steep weights of the levels down to one. Those below count for so little that all of them together stay under
 * half a unit of it: they only say which of two equal choices comes first.
 */
export function weightsDownTo(assignment: Assignment, level: number): Float64Array {
  const weights = levelWeights(assignment, 24, 0);
  let weight = weights[level]! / HINT;
  for (let below = level + 1; below < assignment.turnLevel; below++) {
    weights[below] = weight;
    weight /= 3;
  }
  return weights;
}

/** A level's weight against the one below it when that is only a hint. */
const HINT = 20_000;
