import type { Assignment } from '../model/assignment.js';
import { nameOf } from '../score.js';
import type { HeldBack } from '../solution.js';

/** A break an item would take part in. */
export interface Clash {
  readonly rule: string;
  readonly hard: boolean;
  readonly plays: readonly number[];
  readonly by: number;
  /** It is one as long as all of `must` stand, and `enough` of `some`. */
  readonly must: readonly number[];
  readonly some: readonly number[];
  readonly enough: number;
}

/** Why a slot stays open. */
export interface Explanation {
  readonly heldBackBy: readonly HeldBack[];
  readonly conflict: readonly string[];
}

/** Why nothing stands in an open slot: what holds each candidate back, and a smallest set of plays that hold all of them back. */
export function explainOpen(assignment: Assignment, p: number): Explanation {
  const { compiled, history } = assignment;
  const domain = compiled.domains[p - history]!;
  const clashes = Array.from(domain, (item) => clashesOf(assignment, p, item));
  const heldBackBy = clashes.flatMap((found, i): HeldBack[] => {
    const first = shortest(found);
    if (!first) return [];
    const item = compiled.itemIds[domain[i]!]!;
    return [{ item, rule: first.rule, with: first.plays.map((q) => nameOf(compiled, q)) }];
  });
  return { heldBackBy, conflict: minimalConflict(clashes).map((q) => nameOf(compiled, q)) };
}

/** The breaks an item would take part in at an open position; hard ones alone, or soft ones as well. */
export function clashesOf(assignment: Assignment, p: number, item: number, soft = false): Clash[] {
  const { sequence, compiled } = assignment;
  const found: Clash[] = [];
  assignment.put(p, item);
  for (const rule of compiled.evaluators) {
    if (!rule.hard && !soft) continue;
    rule.involving(p, (charged, others, by) => {
      const plays = [charged, ...others].filter((q) => q !== p);
      const tolerated = sequence.fixed[p] === 1 && plays.every((q) => sequence.fixed[q] === 1);
      if (tolerated) return;
      const some = others.filter((q) => q !== p);
      const enough = rule.enoughOf(others, by) - (charged === p ? 0 : 1);
      found.push({ rule: rule.id, hard: rule.hard, plays, by, must: charged === p ? [] : [charged], some, enough });
    });
  }
  assignment.lift(p);
  return found;
}

function shortest(clashes: readonly Clash[]): Clash | undefined {
  return clashes.reduce<Clash | undefined>(
    (best, one) => (best && best.plays.length <= one.plays.length ? best : one),
    undefined,
  );
}

/** Plays that make a break of every candidate; none can be left out (deletion filter, Chinneck and Dravnieks 1991). */
function minimalConflict(candidates: readonly (readonly Clash[])[]): number[] {
  if (candidates.some((clashes) => clashes.length === 0)) return [];
  const chosen = new Set<number>();
  const lacking = ({ must, some, enough }: Clash): number[] => {
    const missing = must.filter((q) => !chosen.has(q));
    const have = some.filter((q) => chosen.has(q)).length;
    return [...missing, ...some.filter((q) => !chosen.has(q)).slice(0, Math.max(0, enough - have))];
  };
  for (const clashes of candidates) {
    const ways = clashes.map(lacking);
    for (const q of ways.reduce((best, one) => (one.length < best.length ? one : best))) chosen.add(q);
  }
  const holds = (): boolean => candidates.every((clashes) => clashes.some((clash) => lacking(clash).length === 0));
  for (const q of [...chosen].sort((a, b) => b - a)) {
    chosen.delete(q);
    if (!holds()) chosen.add(q);
  }
  return [...chosen].sort((a, b) => a - b);
}
