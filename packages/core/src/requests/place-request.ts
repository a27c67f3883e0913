import { heldAt } from '../judge/held-now.js';
import { StationModel } from '../station/station-model.js';
import { localTimeOf } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { dayOf, type LiveQueue, type QueueGround } from '../rolling/extend-queue.js';
import { rowStarts, strainedRows } from '../rolling/rolling-log.js';
import type { RollingRow } from '../rolling/rolling.js';
import type { RequestAnswer } from './request.js';

/** The row that comes next is cued already, so a request takes a later one. */
const FIRST_PLACE = 1;

/** A queue with a request in it, or as it was, and what the listener is told. */
export interface PlacedRequest {
  readonly rows: readonly RollingRow[];
  readonly answer: RequestAnswer;
  /** The row of the request; null where it has none. */
  readonly rowId: string | null;
}

/**
 * Puts a song into a queue in place of the first pick of music after which no hard rule is broken; where there is none,
 * tells what holds the song back and until when.
 */
export function placeRequest(
  { data }: Pick<QueueGround, 'data'>,
  { rows, fromMs }: LiveQueue,
  itemId: string,
  rowId: string,
): PlacedRequest {
  const model = new StationModel(data);
  const starts = rowStarts(model, rows, fromMs);
  const there = rows.findIndex((row) => row.itemId === itemId);
  if (there >= 0)
    return { rows, answer: { is: 'planned', atMs: elementAt(starts, there) }, rowId: elementAt(rows, there).id };
  const item = model.known.get(itemId);
  const categoryId = data.musicCategories.find((id) => data.categories[id]?.includes(itemId)) ?? null;
  if (!item || categoryId === null) return { rows, answer: { is: 'not on air' }, rowId: null };
  const bar = model.unavailabilityOn(item, categoryId, localTimeOf(fromMs, data.timeZone).date);
  if (bar) return { rows, answer: { is: 'not on air' }, rowId: null };
  const held = heldAnswer(model, itemId, categoryId, fromMs);
  // Free only after the whole queue.
  if (held.is === 'held' && held.freeMs !== null && held.freeMs > (starts.at(-1) ?? fromMs))
    return { rows, answer: held, rowId: null };
  const strainedBefore = new Set(strainedIds(data, rows, fromMs));
  for (let n = FIRST_PLACE; n < rows.length; n++) {
    const row = elementAt(rows, n);
    if (!isPick(model, row)) continue;
    const plays = [
      ...data.history,
      ...rows.slice(0, n).map((one, k) => ({ itemId: one.itemId, startMs: elementAt(starts, k) })),
    ];
    if (heldAt(model, itemId, categoryId, elementAt(starts, n), plays).some(({ ruleId }) => isMust(model, ruleId)))
      continue;
    const request: RollingRow = { id: rowId, itemId, categoryId, by: 'request' };
    const changed = rows.map((one, k) => (k === n ? request : one));
    if (strainedIds(data, changed, fromMs).some((id) => !strainedBefore.has(id))) continue;
    const atMs = elementAt(rowStarts(model, changed, fromMs), n);
    return { rows: changed, answer: { is: 'planned', atMs }, rowId };
  }
  return { rows, answer: held, rowId: null };
}

/** What holds a song back at an instant by what has played, and until when. */
export function heldAnswer(model: StationModel, itemId: string, categoryId: string, atMs: number): RequestAnswer {
  const { history } = model.data;
  const held = heldAt(model, itemId, categoryId, atMs, history).filter(({ ruleId }) => isMust(model, ruleId));
  const last = history.reduce(
    (latest, play) => (play.itemId === itemId && play.startMs <= atMs ? Math.max(latest, play.startMs) : latest),
    -1,
  );
  const [worst] = held;
  if (!worst) return { is: 'no place' };
  return { is: 'held', playedMs: last < 0 ? null : last, freeMs: worst.freeMs, ruleId: worst.ruleId };
}

function isMust({ data }: StationModel, ruleId: string): boolean {
  return data.rules.some(({ id, strength, resting }) => id === ruleId && strength === 'hard' && !resting);
}

function isPick({ data }: StationModel, { categoryId, by, filters, rules }: RollingRow): boolean {
  return by === 'line' && categoryId !== null && data.musicCategories.includes(categoryId) && !filters && !rules;
}

/** Ids of the rows of a queue that break a hard rule, over midnight too. */
export function strainedIds(data: QueueGround['data'], rows: readonly RollingRow[], fromMs: number): string[] {
  if (rows.length === 0) return [];
  const model = new StationModel(data);
  const starts = rowStarts(model, rows, fromMs);
  const dates = [...new Set(starts.map((startMs) => localTimeOf(startMs, data.timeZone).date))];
  return dates.flatMap((date) => {
    const isOwn = (n: number): boolean => localTimeOf(elementAt(starts, n), data.timeZone).date === date;
    const first = rows.findIndex((_, n) => isOwn(n));
    const before = rows.slice(0, first).map(({ itemId }, n) => ({ itemId, startMs: elementAt(starts, n) }));
    const day = dayOf({ data: { ...data, history: [...data.history, ...before] } }, date);
    const own = rows.filter((_, n) => isOwn(n));
    const fromOwnMs = elementAt(starts, first);
    return [
      ...strainedRows(new StationModel(day.data), { date, played: day.played, rows: own, fromMs: fromOwnMs }).keys(),
    ];
  });
}
