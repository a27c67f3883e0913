import { elementAt } from '../values/look-up.js';
import { HOUR_MS, type Clock, type NoteLine } from '../clocks/line.js';
import type { AirPlan } from './air-plan.js';
import type { LogMark } from './mark.js';
import type { Show } from './show.js';
import type { Stretch, WallClock } from './timeline.js';

/** A clock once through, or the part of it that is on the air. Instants are UTC epoch milliseconds. */
export interface ClockRun {
  /** Null in silence. */
  readonly clock: Clock | null;
  readonly show: Show | null;
  /** Where the clock's own zero lies. */
  readonly originMs: number;
  /** The part of it on the air. */
  readonly fromMs: number;
  readonly toMs: number;
  /** True where the clock begins here, and does not go on from something laid over it. */
  readonly beginsAnew: boolean;
  /** What is to be reached when it begins. */
  readonly mark: LogMark;
  readonly opensShow: boolean;
  readonly closesShow: boolean;
  /** Begins, or ends, as the hour strikes. */
  readonly opensHour: boolean;
  readonly closesHour: boolean;
  /** Minute of the day at which its stretch ends, for what follows. */
  readonly stretchTo: number;
  /** The full hours in which it is on the air. */
  readonly strikes: readonly number[];
  /** Stands in the log where nothing plays. */
  readonly silence?: NoteLine;
  /** What the week plays without a clock of its own: picks, or a set list with what goes on after it. */
  readonly painted?: PaintedRun;
}

/** What a block plays that is painted without a clock. */
export interface PaintedRun {
  readonly runs: 'draw' | 'set list';
  /** Of a category, pool or set list. */
  readonly id: string;
  /** Goes on where a set list ends early; null where the week has none. */
  readonly after: Clock | null;
}

type Lookup = ReturnType<typeof lookup>;

function lookup(plan: AirPlan) {
  return {
    clocks: new Map(plan.clocks.map((clock) => [clock.id, clock])),
    shows: new Map(plan.shows.map((show) => [show.id, show])),
    setLists: new Map((plan.setLists ?? []).map((list) => [list.id, list])),
    drawNames: plan.drawNames ?? {},
    defaultClock: plan.clocks.find(({ id }) => id === plan.week.defaultClockId) ?? null,
  };
}

/** The runs of clocks that touch a day, in order. */
export function runsOfDay(timeline: readonly Stretch[], wall: WallClock, plan: AirPlan): ClockRun[] {
  const known = lookup(plan);
  const strikes = wall.fullHours();
  const runs: ClockRun[] = [];
  let before: Show | null = null;
  for (const stretch of timeline) {
    const [fromMs, toMs] = [wall.instantOf(stretch.from), wall.instantOf(stretch.to)];
    const show = stretch.content?.runs === 'show' ? (known.shows.get(stretch.content.id) ?? null) : null;
    if (toMs > wall.startMs && fromMs < wall.endMs && toMs > fromMs) {
      const cuts = cutStretch(stretch, wall, known, show, strikes);
      cuts.forEach((cut, index) => {
        const beginsStretch = cut.fromMs === fromMs;
        runs.push({
          ...cut,
          show,
          mark: markOf(cut.fromMs, beginsStretch ? show : null, beginsStretch ? before : null),
          beginsAnew: cut.beginsAnew || beginsStretch,
          opensShow: show !== null && beginsStretch && stretch.from === stretch.blockFrom,
          closesShow: show !== null && index === cuts.length - 1 && stretch.to === stretch.blockTo,
          opensHour: cut.fromMs === cut.originMs && strikes.includes(cut.fromMs),
          closesHour:
            strikes.includes(cut.toMs) && cut.toMs - cut.originMs >= Math.min(HOUR_MS, cut.clock?.lengthMs ?? 0),
          strikes: strikes.filter((at, n) => at < cut.toMs && (strikes[n + 1] ?? Infinity) > cut.fromMs),
          stretchTo: stretch.to,
        });
      });
    }
    before = stretch.to === stretch.blockTo ? show : null;
  }
  return runs.filter((run) => run.toMs > wall.startMs && run.fromMs < wall.endMs);
}

/** An exact end is a mark for what comes after it; a hard start is one by itself. */
function markOf(atMs: number, begins: Show | null, ended: Show | null): LogMark {
  const exact = ended?.end === 'exact' ? { exactMs: ended.toleranceMs } : {};
  return { atMs, hard: begins?.start === 'hard', ...exact };
}

type Cut = Pick<ClockRun, 'clock' | 'originMs' | 'fromMs' | 'toMs' | 'beginsAnew' | 'silence' | 'painted'>;

function cutStretch(
  stretch: Stretch,
  wall: WallClock,
  known: Lookup,
  show: Show | null,
  strikes: readonly number[],
): Cut[] {
  const [fromMs, toMs] = [wall.instantOf(stretch.from), wall.instantOf(stretch.to)];
  const { content } = stretch;
  const beginsMs = wall.instantOf(stretch.blockFrom);
  if (show) return cutShow(show, known, beginsMs, fromMs, toMs);
  const painted = content && paintedClock(stretch, known, wall);
  const clock = painted?.clock ?? (content?.runs === 'clock' ? known.clocks.get(content.id) : undefined);
  if (!clock) {
    const silence: NoteLine = { id: 'silence', kind: 'note', text: 'Silence, for another source', comment: '' };
    return [{ clock: null, originMs: fromMs, fromMs, toMs, beginsAnew: true, ...(stretch.silent ? { silence } : {}) }];
  }
  // An hour's clock belongs to the hour on the wall, so that its breaks stay where they are booked.
  const of = painted ? { painted: painted.painted } : {};
  if (clock.lengthMs === HOUR_MS && painted?.painted.runs !== 'set list') {
    const within = strikes.filter((at) => at > fromMs && at < toMs);
    return [fromMs, ...within].map((at, index) => {
      const originMs = strikes.findLast((strike) => strike <= at) ?? at;
      return { clock, originMs, fromMs: at, toMs: within[index] ?? toMs, beginsAnew: true, ...of };
    });
  }
  return repeat([clock], beginsMs, fromMs, toMs).map((cut) => ({ ...cut, ...of }));
}

/** A clock for what is painted without one: an hour of picks again and again, or a set list as long as its block. */
function paintedClock(
  { content, blockFrom, blockTo }: Stretch,
  { setLists, defaultClock, drawNames }: Lookup,
  wall: WallClock,
): { readonly clock: Clock; readonly painted: PaintedRun } | null {
  if (content?.runs !== 'draw' && content?.runs !== 'set list') return null;
  const { runs, id } = content;
  const list = runs === 'set list' ? setLists.get(id) : undefined;
  if (runs === 'set list' && !list) return null;
  const lengthMs = runs === 'draw' ? HOUR_MS : wall.instantOf(blockTo) - wall.instantOf(blockFrom);
  const clock = { id, name: list?.name ?? drawNames[id] ?? '', colour: '', lengthMs, lines: [] };
  return { clock, painted: { runs, id, after: defaultClock } };
}

function cutShow(show: Show, known: Lookup, beginsMs: number, fromMs: number, toMs: number): Cut[] {
  const clocks = show.clockIds.flatMap((id) => known.clocks.get(id) ?? []);
  if (clocks.length === 0) return [{ clock: null, originMs: fromMs, fromMs, toMs, beginsAnew: true }];
  return repeat(clocks, beginsMs, fromMs, toMs);
}

/** Clocks one after the other from where they begin, the last again and again; what lies between two instants. */
function repeat(clocks: readonly Clock[], beginsMs: number, fromMs: number, toMs: number): Cut[] {
  const cuts: Cut[] = [];
  let originMs = beginsMs;
  for (let turn = 0; originMs < toMs; turn++) {
    const clock = elementAt(clocks, Math.min(turn, clocks.length - 1));
    const endMs = originMs + clock.lengthMs;
    if (endMs > fromMs)
      cuts.push({
        clock,
        originMs,
        fromMs: Math.max(originMs, fromMs),
        toMs: Math.min(endMs, toMs),
        beginsAnew: originMs >= fromMs,
      });
    originMs = endMs;
  }
  return cuts;
}
