import type { AirPlan } from './air-plan.js';
import type { ClockRun } from './clock-runs.js';
import { expectedStarts, type LengthLookup } from '../clocks/expected-starts.js';
import { HOUR_MS, type Clock, type ClockLine, type MomentLine } from '../clocks/line.js';
import type { ListCursors } from '../set-lists/scheduled-list.js';
import { ownLines } from './painted-lines.js';
import type { Framing, Show } from './show.js';
import type { Stretch } from './timeline.js';

/** Where a line comes from that is not its clock's own. */
export type LineOrigin = 'opener' | 'closer' | 'moment';

/** A line of a clock or one that frames it. */
export interface FramedLine {
  readonly line: ClockLine;
  readonly from?: LineOrigin;
  /** For a tease of the next show: the show. */
  readonly showId?: string;
}

/** The lines of a run with what its show and its station put before, after and into it. */
export function framedLines(
  run: ClockRun,
  plan: AirPlan,
  timeline: readonly Stretch[],
  lengths: LengthLookup,
  cursors: ListCursors,
): FramedLine[] {
  const { show, clock } = run;
  const { framing } = plan;
  const linesOf = linesOfClocks(plan.clocks);
  const when = (holds: boolean, id: string | null | undefined): string | null => (holds ? (id ?? null) : null);
  const opening = [
    ...linesOf(when(run.opensHour, show?.hourOpenerId ?? framing.hourOpenerId), 'opener'),
    ...linesOf(when(run.opensShow, framing.showOpenerId), 'opener'),
    ...linesOf(when(run.opensShow, show?.openerId), 'opener'),
  ];
  const closing = [
    ...linesOf(when(run.closesShow, show?.closerId), 'closer'),
    ...linesOf(when(run.closesShow, framing.showCloserId), 'closer'),
    ...linesOf(when(run.closesHour, framing.hourCloserId), 'closer'),
  ];
  const own = ownLines(run, lengths, cursors).map((line): FramedLine => ({ line }));
  const moments = run.strikes.flatMap((strikeMs) =>
    momentsOf(plan.clocks, framing).flatMap((line): MomentLine[] => {
      const atMs = strikeMs + line.atMs - run.originMs;
      return strikeMs + line.atMs < run.fromMs || strikeMs + line.atMs >= run.toMs ? [] : [{ ...line, atMs }];
    }),
  );
  return [...withMoments([...opening, ...own], moments, lengths, clock?.lengthMs), ...closing].flatMap(
    (framed): FramedLine[] => {
      const { line, from } = framed;
      if (line.kind === 'tease' && line.target.to === 'next show') {
        const next = nextShow(run, plan, timeline);
        return next ? [{ ...framed, showId: next.id }] : [];
      }
      if (line.kind !== 'next show') return [framed];
      const resolved = announcement(line, run, plan, timeline);
      return resolved ? [{ line: resolved, ...(from ? { from } : {}) }] : [];
    },
  );
}

/** A clock's lines with what the station puts into every hour, as the editor shows it. */
export function framedClock(
  clock: Pick<Clock, 'lines' | 'lengthMs' | 'id'>,
  framing: Framing,
  clocks: readonly Pick<Clock, 'id' | 'lines'>[],
  lengths: LengthLookup,
): FramedLine[] {
  const linesOf = linesOfClocks(clocks);
  const own = clock.lines.map((line): FramedLine => ({ line }));
  // What frames the hours, and what is too short to be one, stands by itself.
  if (clock.lengthMs < HOUR_MS || Object.values(framing).includes(clock.id)) return own;
  return [
    ...withMoments(
      [...linesOf(framing.hourOpenerId, 'opener'), ...own],
      momentsOf(clocks, framing),
      lengths,
      clock.lengthMs,
    ),
    ...linesOf(framing.hourCloserId, 'closer'),
  ];
}

function linesOfClocks(clocks: readonly Pick<Clock, 'id' | 'lines'>[]) {
  return (id: string | null, from: LineOrigin): FramedLine[] => {
    const found = id === null ? undefined : clocks.find((one) => one.id === id);
    return (found?.lines ?? []).filter((line) => line.kind !== 'moment').map((line) => ({ line, from }));
  };
}

function momentsOf(clocks: readonly Pick<Clock, 'id' | 'lines'>[], { momentsId }: Framing): MomentLine[] {
  const { lines = [] } = clocks.find(({ id }) => id === momentsId) ?? {};
  return lines.filter((line) => line.kind === 'moment');
}

/** Lines with moments put before the first line that is not expected to begin earlier. */
function withMoments(
  lines: FramedLine[],
  moments: readonly MomentLine[],
  lengths: LengthLookup,
  lengthMs: number = HOUR_MS,
): FramedLine[] {
  return moments.reduce((placed, moment) => {
    const expected = expectedStarts(
      placed.map(({ line }) => line),
      lengths,
      lengthMs,
    ).lines;
    const before = expected.findIndex(({ startMs }) => startMs >= moment.atMs);
    return placed.toSpliced(before < 0 ? placed.length : before, 0, { line: moment, from: 'moment' });
  }, lines);
}

/** The show that really follows; undefined where none does. */
function nextShow(run: ClockRun, plan: AirPlan, timeline: readonly Stretch[]): Show | undefined {
  const next = timeline.find(({ from, content }) => from >= run.stretchTo && content?.runs === 'show');
  return plan.shows.find((one) => one.id === next?.content?.id);
}

/** The audio that announces the show that really follows; null where none follows or it has none. */
function announcement(
  { id, comment }: ClockLine,
  run: ClockRun,
  plan: AirPlan,
  timeline: readonly Stretch[],
): ClockLine | null {
  const show = nextShow(run, plan, timeline);
  return show?.announcementId ? { id, kind: 'item', itemId: show.announcementId, comment } : null;
}
