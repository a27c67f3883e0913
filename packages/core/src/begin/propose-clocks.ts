import { HOUR_MS } from '../clocks/line.js';
import type { ClockLine } from '../clocks/line.js';
import type { WeekPlan } from '../week/week-plan.js';
import { withClockOn } from '../forecast/change.js';
import { elementAt } from '../values/look-up.js';

/** A music category as clocks draw from it, those that play most often first. */
export interface DrawnCategory {
  readonly id: string;
  readonly songs: number;
  readonly averageMs: number;
}

/** A clock to be made. */
export interface ProposedClock {
  readonly id: string;
  readonly name: string;
  readonly colour: string;
  readonly lengthMs: number;
  readonly lines: readonly ClockLine[];
}

/** How long a song rests at least where its category is big enough, hours. */
const LEAST_REST_HOURS = 3;
const BREAK_MS = 120_000;
/** When breaks are booked in an hour with so many of them, minutes. */
const BREAKS_AT: Readonly<Record<number, readonly number[]>> = { 0: [], 1: [28], 2: [18, 48] };

/** Hours of the day and how much they lean on small, fast categories: less than a half favours them, one plays all songs alike. */
const PARTS = [
  { name: 'Daytime', colour: '#D1862B', lean: 0.4, from: 6, to: 19 },
  { name: 'Evening', colour: '#6C5AA7', lean: 0.6, from: 19, to: 24 },
  { name: 'Night', colour: '#1F6FA8', lean: 0.8, from: 0, to: 6 },
] as const;

/** Clocks made for the size of the categories, and the week in which they run. */
export function proposeClocks(
  categories: readonly DrawnCategory[],
  { breaks, newId }: { readonly breaks: 0 | 1 | 2; readonly newId: () => string },
): { readonly clocks: readonly ProposedClock[]; readonly week: WeekPlan } {
  const clocks = PARTS.map(({ name, colour, lean }): ProposedClock => ({
    id: newId(),
    name,
    colour,
    lengthMs: HOUR_MS,
    lines: linesOf(categories, lean, breaks, newId),
  }));
  const first = elementAt(clocks, 0);
  let week: WeekPlan = { blocks: [], defaultClockId: first.id };
  for (const [n, { from, to }] of PARTS.entries())
    if (n > 0)
      week = withClockOn(week, {
        days: [0, 1, 2, 3, 4, 5, 6],
        from: from * 60,
        to: to * 60,
        clockId: elementAt(clocks, n).id,
      });
  return { clocks, week };
}

/** The lines of an hour: so many songs as fit, each category as often as its size and the hour ask, spread over it. */
function linesOf(
  categories: readonly DrawnCategory[],
  lean: number,
  breaks: 0 | 1 | 2,
  newId: () => string,
): ClockLine[] {
  const breakTimes = BREAKS_AT[breaks] ?? [];
  const musicMs = HOUR_MS - breakTimes.length * BREAK_MS;
  const counts = songsAnHour(categories, lean, musicMs);
  const picks = spread(counts);
  const lines: ClockLine[] = picks.map((n) => ({
    id: newId(),
    kind: 'pick',
    categoryId: elementAt(categories, n).id,
    comment: '',
  }));
  // Each break stands where its time comes between the songs.
  for (const [n, minute] of breakTimes.entries()) {
    const at = Math.round((minute / 60) * picks.length) + n;
    lines.splice(at, 0, {
      id: newId(),
      kind: 'break',
      bookedAtMs: minute * 60_000,
      durationMs: BREAK_MS,
      comment: '',
    });
  }
  return lines;
}

/** How many songs an hour plays of each category; together they fill it as nearly as songs can. */
export function songsAnHour(categories: readonly DrawnCategory[], lean: number, musicMs: number): number[] {
  const filled = categories.filter(({ songs, averageMs }) => songs > 0 && averageMs > 0);
  if (filled.length === 0) return categories.map(() => 0);
  const weights = categories.map(({ songs, averageMs }) => (averageMs > 0 ? songs ** lean : 0));
  const sum = weights.reduce((a, b) => a + b, 0);
  const averageMs = categories.reduce((ms, one, n) => ms + one.averageMs * ((weights[n] ?? 0) / sum), 0);
  const slots = Math.max(1, Math.round(musicMs / averageMs));
  const counts = categories.map((_, n) => Math.floor((slots * (weights[n] ?? 0)) / sum));
  const rests = categories.map((_, n) => (slots * (weights[n] ?? 0)) / sum - (counts[n] ?? 0));
  const least = (n: number): number => Math.max(1, Math.floor(elementAt(categories, n).songs / LEAST_REST_HOURS));
  // A small category plays no more than its rest allows; what is left goes to the others, the biggest last of all.
  for (const n of counts.keys())
    counts[n] = Math.min(counts[n] ?? 0, elementAt(categories, n).songs === 0 ? 0 : least(n));
  const byRest = [...counts.keys()]
    .filter((n) => (weights[n] ?? 0) > 0)
    .sort((a, b) => (rests[b] ?? 0) - (rests[a] ?? 0));
  while (counts.reduce((a, b) => a + b, 0) < slots) {
    const next = byRest.find((n) => (counts[n] ?? 0) < least(n)) ?? biggest(categories);
    counts[next] = (counts[next] ?? 0) + 1;
    byRest.push(...byRest.splice(byRest.indexOf(next), 1));
  }
  return counts;
}

/** How often a week plays each category under the clocks that are proposed. */
export function slotsAWeek(categories: readonly DrawnCategory[]): number[] {
  const counts = PARTS.map(({ lean }) => songsAnHour(categories, lean, HOUR_MS));
  return categories.map((_, n) =>
    PARTS.reduce((sum, { from, to }, part) => sum + 7 * (to - from) * (counts[part]?.[n] ?? 0), 0),
  );
}

function biggest(categories: readonly DrawnCategory[]): number {
  return categories.reduce((best, one, n) => (one.songs > elementAt(categories, best).songs ? n : best), 0);
}

/** Places of categories in the hour, each as far from itself as it can be. */
function spread(counts: readonly number[]): number[] {
  const places = counts.flatMap((count, n) =>
    Array.from({ length: count }, (_, k) => ({ n, at: (k + 0.5) / count + n * 1e-6 })),
  );
  return places.sort((a, b) => a.at - b.at).map(({ n }) => n);
}
