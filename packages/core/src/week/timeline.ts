import { elementAt, lastOf } from '../values/look-up.js';
import { addDays, hoursOfDay, weekdayOf, type LocalHour } from '../time/local-day.js';
import type { AirPlan } from './air-plan.js';
import { datesOf, type DatePlan } from './date-plan.js';
import { blocksOfDay, DAY_MINUTES, type BlockContent, type PlanBlock } from './week-plan.js';

/** What is on the air from one minute of a day to another; negative minutes are of the day before, from 1440 the day after. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  /** Null: nothing, so that another source can be heard, or because no clock is named. */
  readonly content: BlockContent | null;
  /** Where its block begins and ends; it may be cut by what was laid over it. */
  readonly blockFrom: number;
  readonly blockTo: number;
  /** True after a show that leaves the air to another source. */
  readonly silent?: true;
}

/** Days whose blocks can reach into the day in hand or be announced in it. */
const DAYS = [-2, -1, 0, 1] as const;
const EARLIEST = -DAY_MINUTES;
const LATEST = 2 * DAY_MINUTES;

/** What is on the air from the day before a date to the day after it, without gaps. */
export function timelineOf(date: string, plan: AirPlan): Stretch[] {
  const days = DAYS.map((offset) => ({ offset, date: addDays(date, offset) }));
  let line: Stretch[] = [];
  for (const { offset, date: day } of days) line = layOver(line, blocksOfDay(plan.week, weekdayOf(day)), offset);
  for (const special of plan.dates) {
    const dates = new Set(datesOf(special, elementAt(days, 0).date, lastOf(days).date));
    for (const { offset, date: day } of days) if (dates.has(day)) line = laySpecial(line, special, plan, offset);
  }
  return fillGaps(line, plan);
}

function laySpecial(line: Stretch[], special: DatePlan, plan: AirPlan, offset: number): Stretch[] {
  const base =
    special.instead || special.like !== null ? cut(line, offset * DAY_MINUTES, (offset + 1) * DAY_MINUTES) : line;
  const like = special.instead || special.like === null ? [] : blocksOfDay(plan.week, special.like);
  return layOver(layOver(base, like, offset), special.blocks, offset);
}

/** Blocks of a day over what there is. */
function layOver(line: Stretch[], blocks: readonly PlanBlock[], offset: number): Stretch[] {
  return blocks.reduce((left, { at, minutes, runs, id }) => {
    const from = offset * DAY_MINUTES + at;
    const to = from + minutes;
    return [...cut(left, from, to), { from, to, content: { runs, id }, blockFrom: from, blockTo: to }];
  }, line);
}

function cut(line: readonly Stretch[], from: number, to: number): Stretch[] {
  return line.flatMap((stretch) => {
    if (to <= stretch.from || from >= stretch.to) return [stretch];
    return [
      ...(from > stretch.from ? [{ ...stretch, to: from }] : []),
      ...(to < stretch.to ? [{ ...stretch, from: to }] : []),
    ];
  });
}

function fillGaps(line: readonly Stretch[], plan: AirPlan): Stretch[] {
  const silentAfter = new Set(plan.shows.filter(({ after }) => after === 'silence').map(({ id }) => id));
  const { defaultClockId } = plan.week;
  const filled: Stretch[] = [];
  let at = EARLIEST;
  let silent = false;
  const gapUntil = (to: number): void => {
    if (to <= at) return;
    const content = silent || defaultClockId === null ? null : ({ runs: 'clock', id: defaultClockId } as const);
    filled.push({ from: at, to, content, blockFrom: at, blockTo: to, ...(silent ? { silent: true } : {}) });
  };
  for (const stretch of [...line].sort((a, b) => a.from - b.from)) {
    if (stretch.to > EARLIEST && stretch.from < LATEST) {
      gapUntil(stretch.from);
      filled.push(stretch);
      at = stretch.to;
    }
    silent = stretch.content?.runs === 'show' && stretch.to === stretch.blockTo && silentAfter.has(stretch.content.id);
  }
  gapUntil(LATEST);
  return filled;
}

/** Turns minutes of a day, of the day before and of the day after into instants. */
export class WallClock {
  readonly hours: readonly LocalHour[];
  private readonly days: readonly (readonly LocalHour[])[];

  /** Throws RangeError for a date or zone that does not exist. */
  constructor(date: string, zone: string) {
    this.days = [-2, -1, 0, 1, 2].map((offset) => hoursOfDay(addDays(date, offset), zone));
    this.hours = elementAt(this.days, 2);
  }

  get startMs(): number {
    return elementAt(this.hours, 0).startMs;
  }

  get endMs(): number {
    return elementAt(elementAt(this.days, 3), 0).startMs;
  }

  /** The first instant at which the wall shows a minute; where it is skipped, the next hour there is. */
  instantOf(minute: number): number {
    const day = Math.floor(minute / DAY_MINUTES);
    const hours = this.days[day + 2];
    if (!hours) return minute < 0 ? elementAt(elementAt(this.days, 0), 0).startMs : lastOf(lastOf(this.days)).startMs;
    const inDay = minute - day * DAY_MINUTES;
    const hour = Math.floor(inDay / 60);
    const found = hours.find(({ localHour }) => localHour >= hour);
    if (!found) return this.days[day + 3]?.[0]?.startMs ?? Number.MAX_SAFE_INTEGER;
    if (found.localHour > hour) return found.startMs;
    return found.startMs + Math.min((inDay % 60) * 60_000, found.durationMs);
  }

  /** Every full hour of the three days round the date. */
  fullHours(): number[] {
    return this.days.slice(1, 4).flatMap((hours) => hours.map(({ startMs }) => startMs));
  }
}
