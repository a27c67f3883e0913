import type { PromiseShortfall, SponsorRow, SponsorWeek } from '@fuller/contracts';
import { elementAt, type SponsorPromise } from '@fuller/core';
import { plural } from '../shared/text/plural';

/** What something of a daypart is called. */
export type DaypartName = (id: string) => string;

/** A promise in a few words: `2 a day in Weekday breakfast`. */
export function promiseWords({ count, per, daypartId }: SponsorPromise, daypart: DaypartName): string {
  return `${count} a ${per}${daypartId === null ? '' : ` in ${daypart(daypartId)}`}`;
}

/** What one promise asks of some days, and how much of it is placed. */
export interface Kept {
  readonly asked: number;
  readonly placed: number;
}

/** The promise that stays furthest below what it asks, or that asks most where none does; null without any. */
export function furthestBelow(kept: readonly Kept[]): Kept | null {
  const missing = ({ asked, placed }: Kept): number => Math.max(0, asked - placed);
  const [first = null] = kept.toSorted((a, b) => missing(b) - missing(a) || b.asked - a.asked);
  return first;
}

/** Of a sponsor's promises of a week, the one that says most, with what the logs of the week have of it. */
export function keptInWeek({ promises }: SponsorRow, { days }: SponsorWeek): Kept | null {
  const inLog = (count: number, day: number): number => (elementAt(days, day).from === 'log' ? count : 0);
  return furthestBelow(promises.map(({ asked, placed }) => ({ asked: sum(asked), placed: sum(placed.map(inLog)) })));
}

/** Of a sponsor's promises for a day, the one that stays furthest below; null where all are kept. */
export function belowOnDay({ promises }: SponsorRow, day: number): Kept | null {
  const kept = promises.map(({ asked, placed }) => ({ asked: elementAt(asked, day), placed: elementAt(placed, day) }));
  return furthestBelow(kept.filter(({ asked, placed }) => placed < asked));
}

/** Of a promise, the days of a week that stay below it, as places in the week. */
export function daysBelow({ asked, placed }: SponsorRow['promises'][number]): number[] {
  return asked.flatMap((count, day) => (elementAt(placed, day) < count ? [day] : []));
}

/** Why a sponsor's promises of a week are not kept, one sentence for each; none where they are. */
export function brokenWords(row: SponsorRow, { days }: SponsorWeek, daypart: DaypartName): string[] {
  return row.promises.flatMap((promise) => {
    const below = daysBelow(promise);
    if (below.length === 0) return [];
    const missing = below.reduce((all, day) => all + elementAt(promise.asked, day) - elementAt(promise.placed, day), 0);
    const planned = below.every((day) => elementAt(days, day).from === 'plan');
    return [
      `${promiseWords(promise, daypart)}: ${missing} ${planned ? 'cannot be placed' : 'not placed'} on ${plural(below.length, 'day')}.`,
    ];
  });
}

/** A promise that a run could not keep, with the numbers. */
export function shortfallWords(one: PromiseShortfall, daypart: DaypartName): string {
  const where = one.daypartId === null ? 'the day' : daypart(one.daypartId);
  return `${one.sponsor} is promised ${promiseWords(one, daypart)}. ${where.charAt(0).toUpperCase()}${where.slice(1)} has ${plural(one.slots, 'slot')} for messages, and ${one.placed} of ${one.asked} can go there.`;
}

export function sum(counts: readonly (number | null)[]): number {
  return counts.reduce<number>((all, count) => all + (count ?? 0), 0);
}
