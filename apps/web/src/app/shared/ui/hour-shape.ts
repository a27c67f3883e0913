import type { CategoryRow } from '@fuller/contracts';
import { expectedStarts, type ClockLine, type LengthLookup } from '@fuller/core';

/** A line of a clock as the pictures of an hour draw it. */
export interface HourPart {
  readonly lineId: string;
  readonly kind: ClockLine['kind'];
  readonly startMs: number;
  readonly durationMs: number;
  readonly colour: string;
  readonly label: string;
  /** Only for breaks: where traffic books it, and how far off the break is expected. */
  readonly bookedAtMs: number | null;
  readonly driftMs: number | null;
}

export const BREAK_COLOUR = 'var(--ink)';

export interface HourNames {
  readonly category: (id: string) => CategoryRow | undefined;
  readonly itemTitle: (id: string) => string;
}

/** The parts of an hour with their expected places. */
export function hourParts(lines: readonly ClockLine[], lengths: LengthLookup, names: HourNames): { parts: HourPart[]; totalMs: number } {
  const expected = expectedStarts(lines, lengths);
  const parts = lines.map((line, index): HourPart => {
    const { startMs, durationMs, driftMs } = expected.lines[index]!;
    const category = line.kind === 'pick' ? names.category(line.categoryId) : undefined;
    const label = {
      pick: category?.name ?? 'Deleted category',
      item: line.kind === 'item' ? names.itemTitle(line.itemId) : '',
      break: 'Break',
      note: line.kind === 'note' ? line.text : '',
    }[line.kind];
    const colour = line.kind === 'break' ? BREAK_COLOUR : (category?.colour ?? 'var(--quiet)');
    return {
      lineId: line.id,
      kind: line.kind,
      startMs,
      durationMs,
      colour,
      label,
      bookedAtMs: line.kind === 'break' ? line.bookedAtMs : null,
      driftMs,
    };
  });
  return { parts, totalMs: expected.totalMs };
}
