import { elementAt } from '../values/look-up.js';
import { drawOf, HOUR_MS, itemOfLine, type ClockLine, type Draw } from './line.js';

/** Silence no longer than this is not worth a word: what ends at a hard start is aimed a little early. Milliseconds. */
export const SHORT_SILENCE_MS = 2000;

/** What a clock needs to know about lengths, all in milliseconds. */
export interface LengthLookup {
  /** Average length of what a line draws from; 0 for nothing. */
  averageOf(draw: Draw): number;
  /** Standard deviation of those lengths; 0 where it is not known. */
  standardDeviationOf?(draw: Draw): number;
  /** Length of an item; 0 when it is unknown. */
  lengthOf(itemId: string): number;
  /** Average length of teases; 0 where it is not known. */
  readonly teaseMs?: number;
  /** How long so many rows of a set list are on average; 0 where it is not known. */
  setListMs?(setListId: string, take: 'all' | number): number;
}

/** A line of a clock with when it is expected to start. */
export interface ExpectedLine {
  readonly lineId: string;
  /** Milliseconds into the clock. */
  readonly startMs: number;
  readonly durationMs: number;
  /** For a break or a moment: where the lines before it end, less its mark, milliseconds; late is positive. */
  readonly driftMs: number | null;
  /** Standard deviation of the start, milliseconds: lengths vary independently, so their variances add up. */
  readonly unsureMs: number;
  /** True for a spare line that there is no room for on average. */
  readonly out: boolean;
}

/** A stretch of a clock in which nothing is expected to play, milliseconds into the clock. */
export interface ExpectedSilence {
  readonly startMs: number;
  readonly durationMs: number;
  /** The moment it lasts to; null at the end of the clock. */
  readonly beforeLineId: string | null;
}

/** A clock laid out in time. */
export interface ExpectedHour {
  readonly lines: readonly ExpectedLine[];
  /** Longer than two seconds, in order; the one at the end too. */
  readonly silences: readonly ExpectedSilence[];
  /** Where the last line is expected to end, milliseconds. */
  readonly totalMs: number;
  /** Standard deviation of that, milliseconds. */
  readonly unsureMs: number;
}

/** The expected length of a line by itself in milliseconds; fill takes what is left, so 0. */
export function expectedLength(line: ClockLine, lengths: LengthLookup): number {
  switch (line.kind) {
    case 'break':
      return line.durationMs;
    case 'fill':
    case 'note':
    case 'next show':
    case 'sweeper':
      return 0;
    case 'tease':
      return lengths.teaseMs ?? 0;
    case 'set list':
      return lengths.setListMs?.(line.setListId, line.take) ?? 0;
    default: {
      const item = itemOfLine(line);
      const draw = drawOf(line);
      return item !== null ? lengths.lengthOf(item) : draw ? lengths.averageOf(draw) : 0;
    }
  }
}

function standardDeviationOf(line: ClockLine, lengths: LengthLookup): number {
  const draw = line.kind === 'fill' || line.kind === 'sweeper' ? null : drawOf(line);
  return draw ? (lengths.standardDeviationOf?.(draw) ?? 0) : 0;
}

const isSpare = (line: ClockLine): boolean => (line.kind === 'pick' || line.kind === 'item') && line.spare === true;

/**
 * When each line of a clock is expected to start, and how sure that is: one line after the other, moments at their
 * marks, spare lines only where there is room, fill as long as what is missing to the next mark.
 */
export function expectedStarts(
  lines: readonly ClockLine[],
  lengths: LengthLookup,
  lengthMs: number = HOUR_MS,
): ExpectedHour {
  const expected: ExpectedLine[] = [];
  const silences: ExpectedSilence[] = [];
  let at = 0;
  const keepSilence = (untilMs: number, beforeLineId: string | null): void => {
    if (untilMs - at > SHORT_SILENCE_MS) silences.push({ startMs: at, durationMs: untilMs - at, beforeLineId });
  };
  let variance = 0;
  for (let from = 0; from < lines.length;) {
    const after = lines.findIndex((line, index) => index > from && line.kind === 'moment');
    const until = after < 0 ? lines.length : after;
    const next = lines[until];
    const segment = lines.slice(from, until);
    const first = elementAt(segment, 0);
    let drift: number | null = null;
    if (first.kind === 'moment') {
      drift = at - first.atMs;
      keepSilence(first.atMs, first.id);
      // What begins on its mark is as sure as the mark; a late soft moment is as unsure as what delays it.
      if (first.hard || drift <= 0) variance = 0;
      at = first.hard ? first.atMs : Math.max(at, first.atMs);
    }
    const markMs = next?.kind === 'moment' ? next.atMs : lengthMs;
    const plan = planSegment(segment, lengths, markMs - at);
    segment.forEach((line, index) => {
      const { durationMs, out } = elementAt(plan, index);
      const driftMs = line.kind === 'break' ? at - line.bookedAtMs : index === 0 ? drift : null;
      expected.push({ lineId: line.id, startMs: at, durationMs, driftMs, unsureMs: Math.sqrt(variance), out });
      at += durationMs;
      // Fill takes up whatever the lines before it took.
      if (line.kind === 'fill' && durationMs > 0) variance = 0;
      else if (!out) variance += standardDeviationOf(line, lengths) ** 2;
    });
    from = until;
  }
  keepSilence(lengthMs, null);
  return { lines: expected, silences, totalMs: at, unsureMs: Math.sqrt(variance) };
}

/** Lengths of the lines up to a mark that is so far away, milliseconds. */
function planSegment(
  segment: readonly ClockLine[],
  lengths: LengthLookup,
  roomMs: number,
): { durationMs: number; out: boolean }[] {
  const plan = segment.map((line) => ({ durationMs: expectedLength(line, lengths), out: false }));
  let total = plan.reduce((sum, one) => sum + one.durationMs, 0);
  for (let index = segment.length - 1; index >= 0 && total > roomMs; index--) {
    if (!isSpare(elementAt(segment, index))) continue;
    total -= elementAt(plan, index).durationMs;
    plan[index] = { durationMs: 0, out: true };
  }
  const fill = segment.findIndex((line) => line.kind === 'fill');
  if (fill >= 0) plan[fill] = { durationMs: Math.max(0, roomMs - total), out: false };
  return plan;
}
