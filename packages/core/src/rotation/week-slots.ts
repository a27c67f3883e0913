import { expectedStarts, type LengthLookup } from '../clocks/expected-starts.js';
import type { Clock } from '../clocks/line.js';
import { clockAt, WEEK_HOURS, type WeekPlan } from '../clocks/week-plan.js';

/** When the week asks for an item of each category: seconds from Monday 00:00, in order, by category id. */
export function weekSlots(
  plan: WeekPlan,
  clocks: readonly Pick<Clock, 'id' | 'lines'>[],
  lengths: LengthLookup,
): Map<string, number[]> {
  const inHour = new Map(clocks.map(({ id, lines }) => [id, slotsOfClock(lines, lengths)]));
  const slots = new Map<string, number[]>();
  for (let cell = 0; cell < WEEK_HOURS; cell++) {
    for (const { categoryId, second } of inHour.get(clockAt(plan, Math.floor(cell / 24), cell % 24) ?? '') ?? []) {
      const own = slots.get(categoryId) ?? [];
      own.push(cell * 3600 + second);
      slots.set(categoryId, own);
    }
  }
  for (const own of slots.values()) own.sort((a, b) => a - b);
  return slots;
}

function slotsOfClock(
  lines: Clock['lines'],
  lengths: LengthLookup,
): { readonly categoryId: string; readonly second: number }[] {
  const { lines: expected } = expectedStarts(lines, lengths);
  return lines.flatMap((line, at) =>
    line.kind === 'pick' ? [{ categoryId: line.categoryId, second: expected[at]!.startMs / 1000 }] : [],
  );
}
