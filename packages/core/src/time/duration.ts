import { readTime } from './read-time.js';

/** The longest item Fuller takes, 24 hours, in milliseconds. */
export const LONGEST_ITEM_MS = 24 * 3_600_000;

/** The length in milliseconds of a text such as `3:38`, `1:02:03`, `218`, `218.4 s`, `218000 ms`; null when it is none. */
export function parseDuration(text: string): number | null {
  const read = readTime(text, 'length');
  return read.ok ? read.ms : null;
}

/** `m:ss`, or `h:mm:ss` from one hour up; a negative length carries a minus sign. */
export function formatDuration(durationMs: number): string {
  const sign = durationMs < 0 ? '−' : '';
  const total = Math.round(Math.abs(durationMs) / 1000);
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = String(total % 60).padStart(2, '0');
  return hours > 0 ? `${sign}${hours}:${String(minutes).padStart(2, '0')}:${seconds}` : `${sign}${minutes}:${seconds}`;
}

/** `3:38.250`, minutes, seconds and milliseconds. */
export function minutesText(durationMs: number): string {
  const ms = Math.round(durationMs);
  const seconds = String(Math.floor((ms % 60_000) / 1000)).padStart(2, '0');
  return `${Math.floor(ms / 60_000)}:${seconds}.${String(ms % 1000).padStart(3, '0')}`;
}

/** `06:12:07`, so far after midnight by the clock on the wall. */
export function wallClockText(afterMidnightMs: number): string {
  const seconds = Math.floor(afterMidnightMs / 1000);
  const parts = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60), seconds % 60];
  return parts.map((part) => String(part).padStart(2, '0')).join(':');
}
