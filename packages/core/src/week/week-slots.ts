import { expandDay } from './expand-day.js';
import type { AirPlan } from './air-plan.js';
import type { LengthLookup } from '../clocks/expected-starts.js';
import { drawOf } from '../clocks/line.js';
import { addDays } from '../time/local-day.js';

/** A week without a change of clocks; which one does not matter, as it is looked at in UTC. */
const SOME_MONDAY = '2001-01-01';

/** One line that draws from a category, when the week asks for it. */
export interface WeekSlot {
  readonly lineId: string;
  readonly clockId: string;
  readonly showId: string | null;
  readonly categoryId: string;
  readonly filter: string;
  /** What the line shares with others of its clock; null for nothing. */
  readonly themeBy: string | null;
  /** From Monday 00:00. */
  readonly second: number;
}

/**
 * Every slot a week asks for in order, openers, closers and moments among them; fill, which may not be needed, is not.
 * With the date of a Monday that very week, with the dates that differ in it; without one the week as it repeats.
 */
export function slotsOfWeek(plan: AirPlan, lengths: LengthLookup, monday?: string): WeekSlot[] {
  const looked = monday === undefined ? { ...plan, dates: [] } : plan;
  const first = monday ?? SOME_MONDAY;
  const weekStart = Date.parse(`${first}T00:00:00Z`);
  const slots: WeekSlot[] = [];
  for (let day = 0; day < 7; day++) {
    for (const hour of expandDay(addDays(first, day), 'UTC', looked, lengths)) {
      for (const { line, expectedStartMs } of hour.lines) {
        const draw = line.kind === 'fill' ? null : drawOf(line);
        if (!draw) continue;
        const second = Math.floor((expectedStartMs - weekStart) / 1000);
        const themeBy = (line.kind === 'pick' && line.theme?.by) || null;
        slots.push({
          ...draw,
          themeBy,
          lineId: line.id,
          clockId: hour.clockId ?? '',
          showId: hour.showId ?? null,
          second,
        });
      }
    }
  }
  return slots;
}

/** When a week asks for an item of each category: seconds from Monday 00:00, in order, by category id; `monday` as above. */
export function weekSlots(plan: AirPlan, lengths: LengthLookup, monday?: string): Map<string, number[]> {
  const slots = new Map<string, number[]>();
  for (const { categoryId, second } of slotsOfWeek(plan, lengths, monday)) {
    const own = slots.get(categoryId) ?? [];
    own.push(second);
    slots.set(categoryId, own);
  }
  for (const own of slots.values()) own.sort((a, b) => a - b);
  return slots;
}

/** Slots a week the week plan asks of each category, by category id. */
export function weeklyDemand(plan: AirPlan, lengths: LengthLookup): Map<string, number> {
  return new Map([...weekSlots(plan, lengths)].map(([categoryId, slots]) => [categoryId, slots.length]));
}
