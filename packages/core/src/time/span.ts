import { readTime } from './read-time.js';

/** Seconds in a distance as people say it: `90 min`, `1.5 h`, `1:30 h`, `2 days`, `2 h 30`. Null when it is none. */
export function parseSpan(text: string): number | null {
  const read = readTime(text, 'distance');
  return read.ok ? Math.round(read.ms / 1000) : null;
}

/** The shortest way people say a distance: `90 min`, `8 h`, `2 h 30`, `3 days`. */
export function formatSpan(seconds: number): string {
  if (seconds >= 172_800 && seconds % 86_400 === 0) return `${seconds / 86_400} days`;
  if (seconds % 3600 === 0 && seconds > 0) return `${seconds / 3600} h`;
  if (seconds < 60) return `${seconds} s`;
  const minutes = Math.floor(seconds / 60);
  if (seconds % 60 !== 0) return `${minutes} min ${seconds % 60} s`;
  return minutes > 120 ? `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}` : `${minutes} min`;
}
