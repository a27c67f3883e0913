import { OPEN, type Assignment } from '../model/assignment.js';
import { isMonotone } from './monotone.js';

/** What is known of how low each level can go, for a score that may still improve. */
export class KnownBounds {
  private readonly proofs = new Map<number, string>();
  private readonly firstInexact: number;

  constructor(
    assignment: Assignment,
    /** By level: no assignment has less. */
    private readonly base: Float64Array,
  ) {
    this.firstInexact = isMonotone(assignment.compiled) ? firstSoftApart(assignment) : OPEN;
  }

  /** Whether a score is known to be as low as a level can be, for what it has in the levels above. */
  isAt(score: Float64Array, level: number): boolean {
    return score[level]! <= this.base[level]! + 0.5 || this.proofs.get(level) === keyOf(score, level);
  }

  /** Takes note that no assignment has less in a level, whatever the others have. */
  raise(level: number, least: number): void {
    this.base[level] = Math.max(this.base[level]!, least);
  }

  /** Takes note that an exhaustive search has found nothing better in a level. */
  prove(score: Float64Array, level: number): void {
    if (level < this.firstInexact) this.proofs.set(level, keyOf(score, level));
  }

  /** The same, of a search that needs no blanks. */
  proveExactly(score: Float64Array, level: number): void {
    this.proofs.set(level, keyOf(score, level));
  }

  /** The least a level can have in assignments that have the same in every level above. */
  of(score: Float64Array, level: number): number {
    return this.isAt(score, level) ? score[level]! : this.base[level]!;
  }
}

function keyOf(score: Float64Array, level: number): string {
  return score.subarray(0, level + 1).join(' ');
}

/** From the rank of the first soft rule of shape apart on, putting a play in may lower what others cost. */
function firstSoftApart(assignment: Assignment): number {
  const levels = assignment.compiled.evaluators
    .filter((rule) => !rule.hard && !rule.additive)
    .map((rule) => assignment.levelOfRank(rule.rank));
  return Math.min(assignment.turnLevel, ...levels);
}
