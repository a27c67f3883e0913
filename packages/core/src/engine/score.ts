import { tooSoonBy } from '../rules/apart.js';
import type { Compiled, CompiledRule } from './compile.js';
import type { RuleBreak, Score } from './solution.js';

/** Every break of every rule in an assignment (item index by slot, -1 open), counted from scratch. */
export function findBreaks(compiled: Compiled, assigned: Int32Array): RuleBreak[] {
  return compiled.rules.flatMap((rule) => breaksOf(compiled, rule, assigned));
}

function breaksOf(compiled: Compiled, rule: CompiledRule, assigned: Int32Array): RuleBreak[] {
  const { instance, itemIds, duration } = compiled;
  const last: ({ name: string; start: number; end: number } | undefined)[] = new Array(rule.values);
  const note = (item: number, start: number, name: string): void => {
    for (const value of rule.valuesOf[item]!) last[value] = { name, start, end: start + duration[item]! };
  };
  compiled.historyItem.forEach((item, i) => note(item, compiled.historyStart[i]!, itemIds[item]!));
  const breaks: RuleBreak[] = [];
  assigned.forEach((item, slot) => {
    if (item < 0 || rule.exemptAt[slot]) return;
    const start = compiled.slotStart[slot]!;
    let worst = 0;
    let against = '';
    for (const value of rule.valuesOf[item]!) {
      const earlier = last[value];
      const by = earlier ? tooSoonBy(earlier, start, rule.secondsAt[slot]!) : 0;
      if (by > worst) [worst, against] = [by, earlier!.name];
    }
    const id = instance.slots[slot]!.id;
    if (worst > 0) breaks.push({ rule: rule.id, slot: id, with: [against], by: worst });
    note(item, start, id);
  });
  return breaks;
}

/** The score of an assignment, counted from scratch; formulas in the documentation of the engine. */
export function scoreOf(compiled: Compiled, assigned: Int32Array): Score {
  const { instance } = compiled;
  const playsByItem: number[][] = compiled.itemIds.map(() => []);
  compiled.historyItem.forEach((item, i) => playsByItem[item]!.push(compiled.historyStart[i]!));
  assigned.forEach((item, slot) => {
    if (item >= 0) playsByItem[item]!.push(compiled.slotStart[slot]!);
  });
  const slotsOfPool = new Array<number>(compiled.poolItems.length).fill(0);
  compiled.slotPool.forEach((pool) => slotsOfPool[pool]!++);
  const length = instance.slots.length ? (instance.slots.at(-1)!.hour + 1) * 3600 - instance.slots[0]!.start : 0;
  const firstStart = instance.slots[0]?.start ?? 0;
  let spread = 0;
  let rest = 0;
  compiled.poolItems.forEach((items, pool) => {
    const counts = Array.from(items, (item) => playsByItem[item]!.length);
    const mean = counts.reduce((sum, count) => sum + count, 0) / Math.max(1, counts.length);
    for (const count of counts) spread += (count - mean) ** 2;
    if (slotsOfPool[pool] === 0) return;
    const target = (items.length * length) / slotsOfPool[pool]!;
    for (const item of items) {
      const plays = playsByItem[item]!;
      for (let i = 1; i < plays.length; i++) {
        if (plays[i]! >= firstStart) rest += Math.max(0, 1 - (plays[i]! - plays[i - 1]!) / target) ** 2;
      }
    }
  });
  const open = assigned.reduce((count, item) => count + (item < 0 ? 1 : 0), 0);
  return { open, soft: {}, spread, rest };
}
