import { hoursOfDay, type LocalHour } from './local-day.js';

const HOUR_MS = 3_600_000;

/**
 * Instants of a date by the clock on the wall. On a night whose hour comes twice, a time that would go back means its
 * second pass; one that the date does not have is taken for the next that it has.
 */
export class WallTimes {
  private readonly hours: readonly LocalHour[];
  private last = -Infinity;

  constructor(date: string, timeZone: string) {
    this.hours = hoursOfDay(date, timeZone);
  }

  /** UTC epoch milliseconds of a time so many milliseconds after midnight by the clock; 24:00 and later follow on. */
  instantOf(wallMs: number): number {
    const hour = Math.floor(wallMs / HOUR_MS);
    const named = this.hours.filter(({ localHour }) => localHour === hour);
    const found = named.map(({ startMs }) => startMs + (wallMs - hour * HOUR_MS));
    const instant = found.find((one) => one >= this.last) ?? found.at(-1) ?? this.outside(hour, wallMs);
    this.last = instant;
    return instant;
  }

  private outside(hour: number, wallMs: number): number {
    const next = this.hours.find(({ localHour }) => localHour > hour);
    const end = this.hours.at(-1)!;
    return next?.startMs ?? end.startMs + (wallMs - end.localHour * HOUR_MS);
  }
}
