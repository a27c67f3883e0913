import { formatDuration } from '@fuller/core';

/** An expected start as the minute of the hour: `07:12`. */
export function minuteText(ms: number): string {
  const total = Math.round(ms / 1000);
  return `${String(Math.floor(total / 60)).padStart(2, '0')}:${String(total % 60).padStart(2, '0')}`;
}

/** How far from its mark something is expected: `+1:20`, `−0:30`. */
export function driftText(driftMs: number): string {
  return `${driftMs > 0 ? '+' : '−'}${formatDuration(Math.abs(driftMs))}`;
}
