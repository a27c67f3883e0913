import type { CategoryRow } from '@fuller/contracts';
import {
  elementAt,
  drawOf,
  expectedStarts,
  itemOfLine,
  type ClockLine,
  type ExpectedSilence,
  type FramedLine,
  type LengthLookup,
} from '@fuller/core';

/** A line of a clock as the pictures of an hour draw it. */
export interface HourPart {
  readonly lineId: string;
  readonly kind: ClockLine['kind'];
  readonly startMs: number;
  readonly durationMs: number;
  /** Standard deviation of the start, milliseconds. */
  readonly unsureMs: number;
  readonly colour: string;
  readonly label: string;
  /** Where a break is booked or a moment is, and how far off it is expected. */
  readonly markMs: number | null;
  readonly driftMs: number | null;
  /** Where the line is not the clock's own. */
  readonly from: FramedLine['from'] | null;
  /** A spare line there is no room for. */
  readonly out: boolean;
}

export const BREAK_COLOUR = 'var(--ink)';

export interface HourNames {
  readonly category: (id: string) => CategoryRow | undefined;
  readonly itemTitle: (id: string) => string;
}

/** What a line is called: its category, its item, or what it is. */
export function lineLabel(line: ClockLine, names: HourNames): string {
  const item = itemOfLine(line);
  if (item !== null) return names.itemTitle(item);
  const draw = drawOf(line);
  if (draw) return names.category(draw.categoryId)?.name ?? 'Deleted category';
  if (line.kind === 'note') return line.text;
  return line.kind === 'next show' ? 'What the next show is' : 'Break';
}

/** The parts of an hour with their expected places. */
export function hourParts(
  lines: readonly FramedLine[],
  lengths: LengthLookup,
  names: HourNames,
  lengthMs: number,
): { parts: HourPart[]; totalMs: number; unsureMs: number; silences: readonly ExpectedSilence[] } {
  const expected = expectedStarts(
    lines.map(({ line }) => line),
    lengths,
    lengthMs,
  );
  const parts = lines.map(({ line, from }, index): HourPart => {
    const { startMs, durationMs, driftMs, unsureMs, out } = elementAt(expected.lines, index);
    const draw = drawOf(line);
    const category = draw ? names.category(draw.categoryId) : undefined;
    return {
      lineId: line.id,
      kind: line.kind,
      startMs,
      durationMs,
      unsureMs,
      colour: line.kind === 'break' ? BREAK_COLOUR : (category?.colour ?? 'var(--quiet)'),
      label: lineLabel(line, names),
      markMs: line.kind === 'break' ? line.bookedAtMs : line.kind === 'moment' ? line.atMs : null,
      driftMs,
      from: from ?? null,
      out,
    };
  });
  return { parts, totalMs: expected.totalMs, unsureMs: expected.unsureMs, silences: expected.silences };
}
