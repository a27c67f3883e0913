import { OPEN, type Assignment } from '../model/assignment.js';
import { isMonotone } from './monotone.js';

/** The least a level can have in assignments that have the same in every level above. */
interface Given {
  readonly above: string;
  readonly least: number;
}

/** What is known of how low each level can go, for a score that may still improve. */
export class KnownBounds {
  private readonly given = new Map<number, Given>();
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
    return score[level]! <= this.leastOf(score, level) + 0.5;
  }

  /** The first level before `end`, from one on, that is not known to be as low as it can be; -1 where all are. */
  firstAbove(score: Float64Array, end: number, from = OPEN): number {
    for (let level = from; level < end; level++) if (!this.isAt(score, level)) return level;
    return -1;
  }

  /** What no assignment goes below in a level, whatever the others have. */
  always(level: number): number {
    return this.base[level]!;
  }

  /** Takes note that no assignment has less in a level, whatever the others have. */
  raise(level: number, least: number): void {
    this.base[level] = Math.max(this.base[level]!, least);
  }

  /** Takes note that none has less of those that have the same as a score in every level above. */
  raiseGiven(score: Float64Array, level: number, least: number): void {
    const above = keyOf(score, level);
    const known = this.given.get(level);
    if (known?.above !== above || known.least < least) this.given.set(level, { above, least });
  }

  /** Takes note that an exhaustive search over blanks has found nothing better in a level. */
  prove(score: Float64Array, level: number): void {
    if (level < this.firstInexact) this.raiseGiven(score, level, score[level]!);
  }

  /** The least a level can have in assignments that have the same in every level above; never more than the score has. */
  of(score: Float64Array, level: number): number {
    return this.isAt(score, level) ? score[level]! : this.leastOf(score, level);
  }

  private leastOf(score: Float64Array, level: number): number {
    const known = this.given.get(level);
    return known?.above === keyOf(score, level) ? Math.max(known.least, this.base[level]!) : this.base[level]!;
  }
}

function keyOf(score: Float64Array, level: number): string {
  return score.subarray(0, level).join(' ');
}

/** From the rank of the first soft rule of shape apart on, putting a play in may lower what others cost. */
function firstSoftApart(assignment: Assignment): number {
  const levels = assignment.compiled.evaluators
    .filter((rule) => !rule.hard && !rule.additive)
    .map((rule) => assignment.levelOfRank(rule.rank));
  return Math.min(assignment.turnLevel, ...levels);
}
