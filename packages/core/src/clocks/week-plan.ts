/** Which clock runs in which hour of the week; 168 cells, Monday 00:00 first. */
export interface WeekPlan {
  readonly cells: readonly (string | null)[];
  /** Runs wherever a cell is empty. */
  readonly defaultClockId: string | null;
}

export const WEEK_HOURS = 168;

export const EMPTY_WEEK: WeekPlan = {
  cells: Array.from({ length: WEEK_HOURS }, () => null),
  defaultClockId: null,
};

/** The clock of an hour; weekday 0 is Monday. Null when neither cell nor default names one. */
export function clockAt(plan: WeekPlan, weekday: number, hour: number): string | null {
  return plan.cells[weekday * 24 + hour] ?? plan.defaultClockId;
}

/** The plan with a clock (or null, the default) painted onto cells; the same plan when nothing changes. */
export function paintCells(plan: WeekPlan, cells: Iterable<number>, clockId: string | null): WeekPlan {
  const painted = [...plan.cells];
  let changed = false;
  for (const cell of cells) {
    if (cell < 0 || cell >= WEEK_HOURS || painted[cell] === clockId) continue;
    painted[cell] = clockId;
    changed = true;
  }
  return changed ? { ...plan, cells: painted } : plan;
}

/** Hours a week each clock runs, the default's share included. */
export function hoursByClock(plan: WeekPlan): Map<string, number> {
  const hours = new Map<string, number>();
  for (let cell = 0; cell < WEEK_HOURS; cell++) {
    const clockId = clockAt(plan, Math.floor(cell / 24), cell % 24);
    if (clockId !== null) hours.set(clockId, (hours.get(clockId) ?? 0) + 1);
  }
  return hours;
}
