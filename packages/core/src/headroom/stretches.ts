import { elementAt } from '../values/look-up.js';

const WEEK = 168 * 3600;

/** The busiest stretch of a length over some starts of the week, which runs on into the next; whole weeks count whole. */
export function busiest(seconds: readonly number[], length: number): { readonly count: number; readonly at: number } {
  const [whole, rest] = [Math.floor(length / WEEK), length % WEEK];
  const twice = [...seconds, ...seconds.map((second) => second + WEEK)];
  let best = { count: 0, at: seconds[0] ?? 0 };
  let from = 0;
  for (let to = 0; to < twice.length; to++) {
    while (elementAt(twice, to) - elementAt(twice, from) >= rest) from++;
    if (from < seconds.length && to - from + 1 > best.count)
      best = { count: to - from + 1, at: elementAt(twice, from) };
  }
  return { count: best.count + whole * seconds.length, at: best.at };
}

/** The stretch of a length in which weights add up to most, over a week that runs on into the next. */
export function heaviest(
  seconds: readonly number[],
  weights: readonly number[],
  length: number,
): { readonly sum: number; readonly at: number } {
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const [whole, rest] = [Math.floor(length / WEEK), length % WEEK];
  const n = seconds.length;
  const secondAt = (k: number): number => elementAt(seconds, k % n) + Math.floor(k / n) * WEEK;
  let [from, sum] = [0, 0];
  let best = { sum: 0, at: seconds[0] ?? 0 };
  for (let to = 0; to < 2 * n; to++) {
    sum += elementAt(weights, to % n);
    for (; from <= to && secondAt(to) - secondAt(from) >= rest; from++) sum -= elementAt(weights, from % n);
    if (from < n && sum > best.sum + 1e-9) best = { sum, at: secondAt(from) };
  }
  return { sum: best.sum + whole * total, at: best.at };
}

/** The run of so many slots on end with the largest mean share. */
export function heaviestRun(
  weights: readonly number[],
  length: number,
): { readonly share: number; readonly at: number } {
  const n = Math.min(length, weights.length);
  let sum = weights.slice(0, n).reduce((all, weight) => all + weight, 0);
  let best = { share: sum / n, at: 0 };
  for (let at = 1; at + n <= weights.length; at++) {
    sum += elementAt(weights, at + n - 1) - elementAt(weights, at - 1);
    if (sum / n > best.share) best = { share: sum / n, at };
  }
  return best;
}
