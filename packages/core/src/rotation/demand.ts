import type { Clock } from '../clocks/line.js';
import { hoursByClock, type WeekPlan } from '../clocks/week-plan.js';

/** Slots a week the week plan asks of each category, by category id. */
export function weeklyDemand(plan: WeekPlan, clocks: readonly Pick<Clock, 'id' | 'lines'>[]): Map<string, number> {
  const hours = hoursByClock(plan);
  const demand = new Map<string, number>();
  for (const clock of clocks) {
    const times = hours.get(clock.id) ?? 0;
    if (times === 0) continue;
    for (const line of clock.lines) {
      if (line.kind === 'pick') demand.set(line.categoryId, (demand.get(line.categoryId) ?? 0) + times);
    }
  }
  return demand;
}
