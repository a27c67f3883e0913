import { formatDuration, HOUR_MS, type ExpectedSilence } from '@fuller/core';

/** How long a clock is expected to be, and where nothing plays in it. */
export interface ClockShape {
  readonly totalMs: number;
  readonly silences: readonly ExpectedSilence[];
}

/** A clock this far off its length, or silent for so long, is marked; milliseconds. */
const FAR_MS = 120_000;

const beforeMoments = ({ silences }: ClockShape): ExpectedSilence[] =>
  silences.filter(({ beforeLineId }) => beforeLineId !== null);

/** What plays, without the silence before moments; milliseconds. */
export function playedMs(shape: ClockShape): number {
  return shape.totalMs - beforeMoments(shape).reduce((sum, { durationMs }) => sum + durationMs, 0);
}

/** How a clock comes out against its length: `fills the hour`, `1:20 under, 17:00 silent from 13:00`. */
export function totalWords(shape: ClockShape, lengthMs: number): string {
  const over = shape.totalMs - lengthMs;
  const words = beforeMoments(shape).map(
    ({ startMs, durationMs }) => `${formatDuration(durationMs)} silent from ${formatDuration(startMs)}`,
  );
  if (Math.abs(over) >= 1000) words.unshift(`${formatDuration(Math.abs(over))} ${over > 0 ? 'over' : 'under'}`);
  else if (words.length === 0) return lengthMs === HOUR_MS ? 'fills the hour' : 'fills it';
  return words.join(', ');
}

export function isFarOff({ totalMs, silences }: ClockShape, lengthMs: number): boolean {
  return totalMs - lengthMs > FAR_MS || silences.some(({ durationMs }) => durationMs > FAR_MS);
}
