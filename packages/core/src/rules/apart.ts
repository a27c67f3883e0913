/** A play as a rule sees it; seconds. */
export interface TimedPlay {
  readonly start: number;
  readonly end: number;
}

/**
 * The meaning of shape apart: by how many seconds a later play comes too soon after an earlier one
 * that shares a value, measured from the end of the earlier to the start of the later. Zero or
 * less when it is far enough.
 */
export function tooSoonBy(earlier: TimedPlay, laterStart: number, seconds: number): number {
  return seconds - (laterStart - earlier.end);
}
