import * as v from 'valibot';
import type { RuleContext } from '../../sequence/rule-context.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { RuleEvaluator, type ReportViolation } from '../evaluator.js';
import { ruleFields, seconds, type Shape } from '../shape.js';
import { acrossClauses } from './across-clauses.js';

const instant = v.pipe(v.number('must be a number of seconds'), v.integer('must be whole seconds'));
const schema = v.object({
  ...ruleFields,
  shape: v.literal('across'),
  value: v.optional(v.string()),
  seconds,
  /** What plays elsewhere: from when to when, seconds from the start of the first day, and its values of the tag. */
  plays: v.pipe(
    v.array(v.object({ start: instant, end: instant, values: v.pipe(v.array(v.string()), v.readonly()) })),
    v.readonly(),
  ),
});
type Across = v.InferOutput<typeof schema>;

/** A stretch of time in which something plays elsewhere, seconds. */
interface Elsewhere {
  readonly start: number;
  readonly end: number;
}

/**
 * The meaning of shape across: by how many seconds a play is too near one elsewhere that shares a value, whichever comes
 * first. All that is asked where both play at once; zero or less when they are far enough.
 */
export function tooNearBy({ start, end }: Elsewhere, from: number, to: number, asked: number): number {
  return asked - Math.max(0, start - to, from - end);
}

/** What plays elsewhere by value, in the order of starts. */
class Plays {
  readonly lists: readonly (readonly Elsewhere[])[];
  /** The longest of them, seconds: how far back one that began earlier can reach. */
  private readonly longest: number;

  constructor({ plays }: Across, numbers: ReadonlyMap<string, number>, values: number) {
    const lists: Elsewhere[][] = Array.from({ length: values }, () => []);
    for (const { start, end, values: names } of plays)
      for (const name of new Set(names)) {
        const value = numbers.get(name);
        if (value !== undefined) lists[value]!.push({ start, end });
      }
    for (const list of lists) list.sort((a, b) => a.start - b.start);
    this.lists = lists;
    this.longest = plays.reduce((most, { start, end }) => Math.max(most, end - start), 0);
  }

  /** By how much a play of a value is too near the nearest of them; 0 when none is near. */
  nearest(value: number, from: number, to: number, asked: number): number {
    const list = this.lists[value]!;
    let [low, high] = [0, list.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (list[middle]!.start < to + asked) low = middle + 1;
      else high = middle;
    }
    let most = 0;
    for (let k = low - 1; k >= 0 && list[k]!.start + this.longest > from - asked; k--)
      most = Math.max(most, tooNearBy(list[k]!, from, to, asked));
    return most;
  }
}

class AcrossEvaluator extends RuleEvaluator {
  override readonly additive = false;
  private readonly plays: Plays;
  private readonly asked: number;

  constructor(rule: Across, context: RuleContext) {
    super(rule, context);
    this.plays = new Plays(rule, this.tags.numbers, this.tags.names.length);
    this.asked = rule.seconds;
  }

  /** By how much an item at a position would be too near what plays elsewhere. */
  private near(p: number, item: number): number {
    const from = this.sequence.start[p]!;
    const to = from + this.sequence.duration[item]!;
    const { first, values } = this.tags;
    let most = 0;
    for (let k = first[item]!; k < first[item + 1]!; k++)
      if (this.looksAt(values[k]!)) most = Math.max(most, this.plays.nearest(values[k]!, from, to, this.asked));
    return most;
  }

  override add(p: number, item: number): number {
    if (this.visible[p] === 0 || this.charged[p] === 0) return 0;
    if (this.hard && this.sequence.fixed[p] === 1) return 0;
    return this.near(p, item) > 0 ? 1 : 0;
  }

  /** Of an item without length; `add` knows the item. */
  override addValue(p: number, value: number): number {
    const from = this.sequence.start[p]!;
    return this.charged[p] === 1 && this.plays.nearest(value, from, from, this.asked) > 0 ? 1 : 0;
  }

  override isMonotone(): boolean {
    return true;
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    acrossClauses(rule, model, (p, item) => this.near(p, item) > 0);
  }

  override charge(q: number, report: ReportViolation): void {
    const item = this.sequence.itemAt[q]!;
    if (item < 0 || this.visible[q] === 0 || this.charged[q] === 0) return;
    const by = this.near(q, item);
    if (by > 0) report(q, [], by);
  }

  /** Nothing else in the log has a part in it. */
  override later(): number[] {
    return [];
  }
}

/** Shape across: a value keeps its distance from its plays on other stations. */
export const across: Shape<Across, typeof schema> = {
  schema,
  evaluator: (rule, context) => new AcrossEvaluator(rule, context),
  loosened: (rule) => {
    const half = Math.floor(rule.seconds / 2 / 60) * 60;
    const resting = { to: { resting: true }, rule: null };
    return half > 0 ? [{ to: { seconds: half }, rule: { ...rule, seconds: half } }, resting] : [resting];
  },
};
