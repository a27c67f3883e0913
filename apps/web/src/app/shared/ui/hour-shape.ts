import type { CategoryRow } from '@fuller/contracts';
import {
  elementAt,
  drawOf,
  formatDuration,
  expectedStarts,
  itemOfLine,
  type ClockLine,
  type ExpectedSilence,
  type FramedLine,
  type LengthLookup,
  type TeaseTarget,
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
  /** What the line shares with others of the clock; lines of one theme have the same. Null for none. */
  readonly theme: string | null;
  /** A spare line there is no room for. */
  readonly out: boolean;
}

export const BREAK_COLOUR = 'var(--ink)';
export const TEASE_COLOUR = 'var(--weld)';

export interface HourNames {
  readonly category: (id: string) => CategoryRow | undefined;
  readonly itemTitle: (id: string) => string;
  readonly setList: (id: string) => string;
  /** A line of the clock in hand. */
  readonly line: (id: string) => string;
}

/** What a tease announces, in a few words. */
function teaseLabel(target: TeaseTarget, names: HourNames): string {
  switch (target.to) {
    case 'pick':
      return `Tease: next ${names.category(target.categoryId)?.name ?? 'of a deleted category'}`;
    case 'line':
      return `Tease: ${names.line(target.lineId)}`;
    case 'time':
      return `Tease: what comes at ${formatDuration(target.atMs)}`;
    case 'next show':
      return 'Tease: the next show';
  }
}

/** What a line is called: its category, its item, or what it is. */
export function lineLabel(line: ClockLine, names: HourNames): string {
  if (line.kind === 'set list') return names.setList(line.setListId);
  if (line.kind === 'tease') return teaseLabel(line.target, names);
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
  const places = new Map(lines.filter(({ from }) => !from).map(({ line }, n) => [line.id, { line, place: n + 1 }]));
  const inClock: HourNames = {
    ...names,
    line: (id) => {
      const found = places.get(id);
      return found ? `line ${found.place}, ${lineLabel(found.line, names)}` : 'a deleted line';
    },
  };
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
      colour:
        line.kind === 'break'
          ? BREAK_COLOUR
          : line.kind === 'tease'
            ? TEASE_COLOUR
            : (category?.colour ?? 'var(--quiet)'),
      label: lineLabel(line, inClock),
      markMs: line.kind === 'break' ? line.bookedAtMs : line.kind === 'moment' ? line.atMs : null,
      driftMs,
      from: from ?? null,
      theme: line.kind === 'pick' && line.theme ? `same ${line.theme.by}, ${line.theme.group}` : null,
      out,
    };
  });
  return { parts, totalMs: expected.totalMs, unsureMs: expected.unsureMs, silences: expected.silences };
}
