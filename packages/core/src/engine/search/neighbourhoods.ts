import { OPEN, type Assignment } from '../model/assignment.js';
import type { Random } from '../random.js';

/** A break, or an open slot, that the search would be rid of. */
export interface Matter {
  readonly at: number;
  readonly others: readonly number[];
}

/** Every open slot, or every break of a soft rank: what a level of the objective counts. */
export function matters(assignment: Assignment, level: number): Matter[] {
  const found: Matter[] = [];
  const { itemAt, history, sequence } = assignment;
  if (level === OPEN) {
    for (let p = history; p < sequence.length; p++) if (itemAt[p]! < 0) found.push({ at: p, others: [] });
    return found;
  }
  for (const rule of assignment.compiled.evaluators) {
    if (rule.hard || assignment.levelOfRank(rule.rank) !== level) continue;
    rule.everyViolation((at, others) => found.push({ at, others: [...others] }));
  }
  return found;
}

/** A window about a matter: neighbours in time, slots of the same pool, and plays it is broken with. */
export function windowAbout(assignment: Assignment, matter: Matter, size: number, random: Random): number[] {
  const { sequence, history, compiled } = assignment;
  const { fixed, length } = sequence;
  const chosen = new Set<number>();
  const take = (p: number): void => {
    if (p >= history && p < length && fixed[p] === 0 && chosen.size < size) chosen.add(p);
  };
  const others = matter.others.filter((p) => p >= history && fixed[p] === 0);
  const centre = others.length > 0 && random.below(3) === 0 ? others[random.below(others.length)]! : matter.at;
  take(centre);
  const kind = random.below(3);
  if (kind > 0) {
    const own = compiled.pools[compiled.poolOf[centre - history]!]!.slots;
    const at = own.indexOf(centre);
    const reach = kind === 1 ? size : size >> 1;
    let from = at - random.below(reach);
    for (let i = 0; i < reach; i++) {
      const p = own[from++];
      if (p !== undefined) take(p);
    }
  }
  let before = centre - random.below(size);
  for (let steps = 0; chosen.size < size && steps < size * 3; steps++) take(before++);
  return [...chosen].sort((a, b) => a - b);
}
