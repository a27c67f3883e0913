import type { InstanceSlot } from '../sequence/parts.js';
import { solve } from '../engine/solve.js';
import { evenHistory, playsBefore } from '../station/even-history.js';
import { engineRule } from '../station/instance-rules.js';
import { amountInCategory } from '../rules/rule.js';
import { dayPools } from '../station/day-pools.js';
import type { StationModel } from '../station/station-model.js';
import type { StationPlay } from '../station/station-data.js';
import type { TurnOrder } from '../rotation/category.js';

const WEEK_MS = 168 * 3_600_000;

/**
 * What a turn order would pick next for a category if artists and albums held nothing back: its next slots of the week from an instant,
 * filled by the engine. `mondayMs` is the start of the station's week.
 */
export function nextPicks(
  model: StationModel,
  categoryId: string,
  order: TurnOrder,
  plays: readonly StationPlay[],
  when: { readonly date: string; readonly nowMs: number; readonly mondayMs: number; readonly slots: readonly number[] },
  count: number,
): string[] {
  const pool = dayPools(model.withOrder(categoryId, order), when.date).pool(categoryId);
  if (pool.items.length === 0 || when.slots.length === 0) return [];
  const slots = comingSlots(when, count).map((startMs, index): InstanceSlot => ({
    id: `n${index}`,
    start: Math.floor((startMs - when.nowMs) / 1000),
    hour: Math.floor((startMs - when.nowMs) / 3_600_000),
    pool: categoryId,
  }));
  const pools = { [categoryId]: pool };
  const rules = model.data.rules
    .filter(({ shape, tag, resting }) => shape === 'apart' && tag === 'title' && !resting)
    .flatMap((rule) => {
      const amount = amountInCategory(rule, categoryId);
      return amount === null ? [] : [engineRule(rule, rule.id, amount)];
    });
  const history = evenHistory(playsBefore(plays, when.nowMs), pools, when.nowMs, 28 * 86_400_000);
  const { assignment } = solve(
    { format: 'fuller-instance', version: 1, items: model.instanceItems, pools, slots, history, rules },
    { seed: 1, effort: 'quick' },
  );
  return slots.flatMap(({ id }) => assignment[id] ?? []);
}

function comingSlots(
  { nowMs, mondayMs, slots }: { readonly nowMs: number; readonly mondayMs: number; readonly slots: readonly number[] },
  count: number,
): number[] {
  const coming: number[] = [];
  for (let week = 0; coming.length < count; week++) {
    for (const second of slots) {
      const startMs = mondayMs + week * WEEK_MS + second * 1000;
      if (startMs > nowMs && coming.length < count) coming.push(startMs);
    }
  }
  return coming;
}
