import type { ClockLine } from './line.js';

/** What a clock needs to know about lengths, all in milliseconds. */
export interface LengthLookup {
  /** Average length of the items of a category; 0 for an empty one. */
  averageOf(categoryId: string): number;
  /** Length of an item; 0 when it is unknown. */
  lengthOf(itemId: string): number;
}

export interface ExpectedLine {
  readonly lineId: string;
  /** Milliseconds into the hour. */
  readonly startMs: number;
  readonly durationMs: number;
  /** For a break: expected start less booked time, milliseconds; late is positive. */
  readonly driftMs: number | null;
}

export interface ExpectedHour {
  readonly lines: readonly ExpectedLine[];
  /** Expected length of all lines together, milliseconds. */
  readonly totalMs: number;
}

/** The expected length of a line in milliseconds. */
export function expectedLength(line: ClockLine, lengths: LengthLookup): number {
  switch (line.kind) {
    case 'pick':
      return lengths.averageOf(line.categoryId);
    case 'item':
      return lengths.lengthOf(line.itemId);
    case 'break':
      return line.durationMs;
    case 'note':
      return 0;
  }
}

/** When each line of a clock is expected to start, one line after the other. */
export function expectedStarts(lines: readonly ClockLine[], lengths: LengthLookup): ExpectedHour {
  let at = 0;
  const expected = lines.map((line): ExpectedLine => {
    const durationMs = expectedLength(line, lengths);
    const startMs = at;
    at += durationMs;
    return {
      lineId: line.id,
      startMs,
      durationMs,
      driftMs: line.kind === 'break' ? startMs - line.bookedAtMs : null,
    };
  });
  return { lines: expected, totalMs: at };
}
