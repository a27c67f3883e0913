import type { Clock } from '../clocks/line.js';
import type { ScheduledList } from '../set-lists/set-list.js';
import type { DatePlan } from './date-plan.js';
import type { Framing, Show } from './show.js';
import type { WeekPlan } from './week-plan.js';

/** Everything that says what a station plays when. */
export interface AirPlan {
  readonly week: WeekPlan;
  /** Laid over the week one after the other; where two meet, the later one holds. */
  readonly dates: readonly DatePlan[];
  readonly shows: readonly Show[];
  readonly framing: Framing;
  readonly clocks: readonly Clock[];
  /** The set lists that clocks and weeks play; none where nothing is said. */
  readonly setLists?: readonly ScheduledList[];
  /** What categories and pools that are painted onto the week are called, by id. */
  readonly drawNames?: Readonly<Record<string, string>>;
}
