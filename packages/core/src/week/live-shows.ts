import { addDays } from '../time/local-day.js';
import type { AirPlan } from './air-plan.js';
import { timelineOf, WallClock } from './timeline.js';
import { DAY_MINUTES } from './week-plan.js';

/** A stretch in which the presenter of a live show may take the air. */
export interface LiveStretch {
  readonly id: string;
  readonly name: string;
  readonly presenter: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly endMs: number;
}

/** The live shows that begin on a date or on the day after it. */
export function liveShows(plan: AirPlan, timeZone: string, date: string): LiveStretch[] {
  const shows = new Map(plan.shows.map((show) => [show.id, show]));
  return [date, addDays(date, 1)].flatMap((day) => {
    const clock = new WallClock(day, timeZone);
    return timelineOf(day, plan).flatMap(({ from, to, content }): LiveStretch[] => {
      const show = content?.runs === 'show' ? shows.get(content.id) : undefined;
      if (!show?.presenter || from < 0 || from >= DAY_MINUTES) return [];
      const { id, name, presenter } = show;
      return [{ id, name, presenter, startMs: clock.instantOf(from), endMs: clock.instantOf(to) }];
    });
  });
}
