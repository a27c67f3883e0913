import type { AirPlan } from './air-plan.js';
import { runsOfDay } from './clock-runs.js';
import { timelineOf, WallClock } from './timeline.js';
import { addDays } from '../time/local-day.js';

/** A stretch of the week in which a clock is on the air; minutes from Monday 00:00. */
export interface Usage {
  readonly from: number;
  readonly to: number;
  readonly showId: string | null;
}

const SOME_MONDAY = '2001-01-01';

/** When each clock is on the air in the week, by clock id; stretches that touch are one. */
export function usageOfClocks(plan: AirPlan): Map<string, Usage[]> {
  const usual = { ...plan, dates: [] };
  const weekStart = Date.parse(`${SOME_MONDAY}T00:00:00Z`);
  const usage = new Map<string, Usage[]>();
  for (let day = 0; day < 7; day++) {
    const date = addDays(SOME_MONDAY, day);
    const wall = new WallClock(date, 'UTC');
    for (const run of runsOfDay(timelineOf(date, usual), wall, usual)) {
      if (!run.clock || run.painted) continue;
      const from = (Math.max(run.fromMs, wall.startMs) - weekStart) / 60_000;
      const to = (Math.min(run.toMs, wall.endMs) - weekStart) / 60_000;
      const own = usage.get(run.clock.id) ?? [];
      const showId = run.show?.id ?? null;
      const last = own.at(-1);
      if (last?.to === from && last.showId === showId) own[own.length - 1] = { ...last, to };
      else own.push({ from, to, showId });
      usage.set(run.clock.id, own);
    }
  }
  return usage;
}
