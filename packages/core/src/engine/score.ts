import type { Compiled } from './model/compile.js';
import type { Violation, Score } from './solution.js';
import { instanceLength } from './turn/turn.js';
import { shortRest } from './turn/even.js';

/** Every break of every rule as the state stands, counted from scratch. */
export function findViolations(compiled: Compiled): Violation[] {
  const breaks: Violation[] = [];
  for (const rule of compiled.evaluators) {
    rule.everyViolation((charged, others, by) => {
      breaks.push({
        rule: rule.id,
        slot: nameOf(compiled, charged),
        with: others.map((other) => nameOf(compiled, other)),
        by,
      });
    });
  }
  return breaks;
}

/** The id of the slot at a position, or of the item of a play in history. */
export function nameOf({ sequence, instance, itemIds }: Compiled, p: number): string {
  return p < sequence.history ? itemIds[sequence.itemAt[p]!]! : instance.slots[p - sequence.history]!.id;
}

/** The score as the state stands, counted from scratch, with what is broken where that is known; formulas in the documentation of the format. */
export function scoreOf(compiled: Compiled, violations = findViolations(compiled)): Score {
  const { sequence, evaluators, instance, pools, plays } = compiled;
  const soft: Record<string, number> = {};
  const rankOf = new Map(evaluators.map((rule) => [rule.id, rule.hard ? null : rule.rank]));
  for (const rule of evaluators) if (!rule.hard) soft[rule.rank] ??= 0;
  for (const { rule } of violations) {
    const rank = rankOf.get(rule) ?? null;
    if (rank !== null) soft[rank]!++;
  }
  let open = 0;
  for (let p = sequence.history; p < sequence.length; p++) if (sequence.itemAt[p]! < 0) open++;
  let [spread, rest] = [0, 0];
  const length = instanceLength(instance);
  for (const pool of pools) {
    if (instance.pools[pool.name]!.order !== 'even') continue;
    const counts = Array.from(pool.items, (item) => plays.countOf(item));
    const mean = counts.reduce((sum, count) => sum + count, 0) / Math.max(1, counts.length);
    for (const count of counts) spread += (count - mean) ** 2;
    if (pool.slots.length === 0) continue;
    const target = (pool.items.length * length) / pool.slots.length;
    for (const item of pool.items) {
      const list = plays.lists[item]!;
      for (let i = 1; i < list.length; i++) {
        if (list[i]! < sequence.history) continue;
        rest += shortRest(sequence.start[list[i]!]! - sequence.start[list[i - 1]!]!, target);
      }
    }
  }
  return { open, soft, spread, rest };
}
