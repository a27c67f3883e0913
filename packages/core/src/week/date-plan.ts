import * as rrule from 'rrule';
import { daysBetween } from '../time/local-day.js';
import type { PlanBlock } from './week-plan.js';

/** What differs from the week on some dates. */
export interface DatePlan {
  readonly id: string;
  readonly name: string;
  /** The first date, `2026-12-24`. */
  readonly start: string;
  /** How it comes again, as the value of an RRULE of RFC 5545 such as `FREQ=YEARLY`; empty for once. */
  readonly repeat: string;
  /** The day runs like this day of the week (0 Monday) in place of its own; null for its own. */
  readonly like: number | null;
  /** True: the day has these blocks alone, and the default clock in between. */
  readonly instead: boolean;
  /** Laid over the day, in minutes of the day. */
  readonly blocks: readonly PlanBlock[];
}

// In Node.js the package's parts come in one object, in a bundle by their names.
const parts: Record<string, unknown> = { ...rrule };
const { RRule } = (parts['RRule'] ? parts : parts['default']) as typeof rrule;

/** What is wrong with a recurrence rule, null when it can be used. */
export function repeatFault(repeat: string): string | null {
  if (repeat === '') return null;
  try {
    const options = RRule.parseString(repeat);
    if (options.freq === undefined) return 'has no FREQ that is known';
    if (options.freq > RRule.DAILY) return 'comes more often than daily';
    if (options.dtstart) return 'has a start of its own';
    if (options.interval !== undefined && !(options.interval >= 1)) return 'has an INTERVAL below 1';
    new RRule({ ...options, dtstart: utc('2026-01-01') });
    return null;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** How far ahead of its start a plan without an end is followed, years. */
const LONGEST_YEARS = 60;

/** The dates on which a plan holds between two, both included, in order. Throws RangeError for a rule that cannot be used. */
export function datesOf({ start, repeat }: Pick<DatePlan, 'start' | 'repeat'>, from: string, to: string): string[] {
  if (repeat === '') return start >= from && start <= to ? [start] : [];
  const fault = repeatFault(repeat);
  if (fault) throw new RangeError(`“${repeat}” ${fault}`);
  if (to < start || daysBetween(start, from) > LONGEST_YEARS * 366) return [];
  const rule = new RRule({ ...RRule.parseString(repeat), dtstart: utc(start) });
  return rule.between(utc(from), utc(to), true).map((date) => date.toISOString().slice(0, 10));
}

/** A date as the package counts dates: midnight, told in UTC. */
function utc(date: string): Date {
  return new Date(`${date}T00:00:00Z`);
}
