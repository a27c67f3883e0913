import { elementAt, addDays, localTimeOf, paintHours } from '@fuller/core';
import type { DemoItem } from './library.js';

const DIRECTOR = 'Maeve Tarn';
const ZONE = 'Europe/Dublin';
const DAY_MS = 86_400_000;
const EVENINGS = Array.from({ length: 7 * 6 }, (_, n) => Math.floor(n / 6) * 24 + 18 + (n % 6));

/** What a person has decided about when items may air: nearly all approved, a few kept to evenings. */
export function withLimits(items: readonly DemoItem[], nowMs: number): object[] {
  const none = paintHours(null, Array.from({ length: 168 }).keys(), false);
  const countOf: Record<string, number> = {};
  return items.map(({ category }) => {
    const code = category ?? '';
    const nth = (countOf[code] = (countOf[code] ?? 0) + 1);
    const approved = !(code === 'F' && nth <= 2) && code !== '';
    return {
      approvedAtMs: approved ? nowMs - (92 + (nth % 300)) * DAY_MS : null,
      approvedBy: approved ? DIRECTOR : null,
      hours: code === 'W' && nth % 60 === 7 ? paintHours(none, EVENINGS, true) : null,
    };
  });
}

/** Songs that rest for a while, and the last day of it. */
export function paused(items: readonly DemoItem[], nowMs: number): { items: DemoItem[]; until: string } {
  const deep = items.filter(({ category }) => category === 'D');
  return { items: [8, 208, 408].map((at) => elementAt(deep, at)), until: addDays(localTimeOf(nowMs, ZONE).date, 12) };
}
