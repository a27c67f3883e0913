import { expectedStarts, type LengthLookup } from '../clocks/expected-starts.js';
import { HOUR_MS, type Clock, type ClockLine } from '../clocks/line.js';
import { linesOfRows, type ListCursors } from '../set-lists/scheduled-list.js';
import type { ClockRun, PaintedRun } from './clock-runs.js';

/** Picks beyond what an hour holds on average, so that a run of short ones fills it too. */
const SPARE_PICKS = 2;
const MOST_PICKS = 120;
const USUAL_MS = 210_000;

/** The lines of a run of its own: those of its clock, with set lists row by row, or what is painted without a clock. */
export function ownLines(run: ClockRun, lengths: LengthLookup, cursors: ListCursors): ClockLine[] {
  const { clock, painted } = run;
  if (!clock) return [];
  if (painted?.runs === 'draw') return picksOf(painted.id, clock.lengthMs, lengths);
  if (painted) return listWithRest(run, painted, clock, lengths, cursors);
  return withListRows(clock.lines, cursors);
}

/** Lines with a line for every row of the set lists among them. */
export function withListRows(lines: readonly ClockLine[], cursors: ListCursors): ClockLine[] {
  return lines.flatMap((line) => (line.kind === 'set list' ? linesOfRows(line, cursors.take(line)) : [line]));
}

/** As many picks as fill an hour, and some to spare. */
function picksOf(categoryId: string, lengthMs: number, lengths: LengthLookup): ClockLine[] {
  const average = lengths.averageOf({ categoryId, filter: '' }) || USUAL_MS;
  const count = Math.min(MOST_PICKS, Math.ceil(lengthMs / average));
  return Array.from({ length: count + SPARE_PICKS }, (_, n): ClockLine => ({
    id: `${categoryId}-d${n + 1}`,
    kind: 'pick',
    categoryId,
    ...(n >= count - 1 ? { spare: true } : {}),
    comment: '',
  }));
}

/** A set list from where it stopped, and after its end what the week has for that hour; where it has nothing, the list again. */
function listWithRest(
  { originMs, toMs }: ClockRun,
  { id, after }: PaintedRun,
  clock: Clock,
  lengths: LengthLookup,
  cursors: ListCursors,
): ClockLine[] {
  const roomMs = Math.min(clock.lengthMs, toMs - originMs);
  const line = { id, kind: 'set list', setListId: id, take: 'all', from: 'next', comment: '' } as const;
  const rows = cursors.take({ ...line, take: 'all', from: 'next' });
  const own: ClockLine[] = [];
  let atMs = 0;
  const made = linesOfRows(line, rows);
  for (const one of made) {
    if (atMs >= roomMs) break;
    own.push(one);
    atMs += expectedStarts([one], lengths, clock.lengthMs).totalMs;
  }
  // What did not play is where the list goes on.
  cursors.goBackTo(id, own.at(-1)?.listPlace?.rowId ?? null);
  if (atMs >= roomMs || own.length === 0) return own;
  return after
    ? [...own, ...restOf(after, originMs, atMs, roomMs, lengths, cursors)]
    : [...own, ...againOf(made, atMs, roomMs, lengths)];
}

/** The lines of a clock from an instant on, hour by hour as it stands on the wall, to the end of a block. */
function restOf(
  clock: Clock,
  originMs: number,
  fromMs: number,
  untilMs: number,
  lengths: LengthLookup,
  cursors: ListCursors,
): ClockLine[] {
  const lines: ClockLine[] = [];
  const hourly = clock.lengthMs === HOUR_MS;
  for (let turn = hourly ? Math.floor(fromMs / HOUR_MS) : 0; ; turn++) {
    const startMs = hourly ? turn * HOUR_MS - (originMs % HOUR_MS) : fromMs + turn * clock.lengthMs;
    if (startMs >= untilMs) return lines;
    const own = withListRows(clock.lines, cursors).filter(({ kind }) => kind !== 'next show');
    const expected = expectedStarts(own, lengths, clock.lengthMs).lines;
    own.forEach((line, n) => {
      const at = startMs + (expected[n]?.startMs ?? 0);
      if (at < fromMs || at >= untilMs || expected[n]?.out) return;
      lines.push(shifted(line, startMs));
    });
  }
}

/** A line whose clock begins so much later. */
function shifted(line: ClockLine, byMs: number): ClockLine {
  if (line.kind === 'break') return { ...line, bookedAtMs: line.bookedAtMs + byMs };
  if (line.kind === 'moment') return { ...line, atMs: line.atMs + byMs };
  if (line.kind === 'tease' && line.target.to === 'time')
    return { ...line, target: { ...line.target, atMs: line.target.atMs + byMs } };
  return line;
}

function againOf(made: readonly ClockLine[], fromMs: number, untilMs: number, lengths: LengthLookup): ClockLine[] {
  const lines: ClockLine[] = [];
  const whole = expectedStarts(made, lengths, untilMs).totalMs;
  if (whole <= 0) return lines;
  for (let atMs = fromMs; atMs < untilMs;)
    for (const line of made) {
      if (atMs >= untilMs) break;
      lines.push(line);
      atMs += expectedStarts([line], lengths, untilMs).totalMs;
    }
  return lines;
}
