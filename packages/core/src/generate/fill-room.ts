import { elementAt } from '../values/look-up.js';
import type { LogTiming, MarkTiming } from '../log/air-times.js';
import { allEntries, type DailyLog, type LogEntry, type PickEntry } from '../log/daily-log.js';
import { fillSlotId, MORE_FILL } from './planned-entries.js';
import type { StationModel } from '../station/station-model.js';

/** A mark reached this nearly is left alone, milliseconds. */
export const NEAR_MS = 4000;
/** So many pieces make up what is left of a gap to the second; what is longer is filled in turn before. */
export const PIECES_TO_LAND = 3;
/** The most slots one fill line takes. */
const MOST_FILL_SLOTS = 150;

/**
 * Fills a long gap in turn, longest rested first, until a few pieces can land what is left. Where the items do not
 * suffice they come round again.
 */
export function fillInTurn(
  gapMs: number,
  options: readonly { readonly item: number; readonly lengthMs: number }[],
  slots: number,
): { chosen: number[]; queue: number[]; leftMs: number } {
  const usable = options.filter(({ lengthMs }) => lengthMs > 0);
  const average = usable.reduce((sum, one) => sum + one.lengthMs, 0) / Math.max(1, usable.length);
  const chosen: number[] = [];
  const queue = [...usable];
  let leftMs = gapMs;
  // With two pieces to spare, so that there is a choice for the landing.
  while (queue.length > 0 && leftMs > average * (PIECES_TO_LAND - 0.5) && chosen.length < slots) {
    const next = queue.findIndex(({ lengthMs }) => lengthMs <= leftMs);
    const [one] = next < 0 ? [] : queue.splice(next, 1);
    if (!one) break;
    chosen.push(one.item);
    leftMs -= one.lengthMs;
    queue.push(one);
  }
  // What played last, here or before, does not come at once again.
  const resting = usable.length < 2 ? 0 : Math.max(1, usable.length >> 2);
  return { chosen, queue: queue.slice(0, queue.length - resting).map(({ item }) => item), leftMs };
}

/** The log with as many slots for fill as the gap before each mark may take. */
export function withFillRoom(model: StationModel, log: DailyLog, keep: ReadonlySet<string>): DailyLog {
  const timing = model.timing(log);
  const more = new Map<string, LogEntry[]>();
  timing.marks.forEach((mark, n) => {
    if (mark.overMs > -NEAR_MS) return;
    const fills = entriesBetween(log, timing, n).filter(isFill);
    const last = fills.at(-1);
    if (!last || keep.has(last.id)) return;
    const first = elementAt(fills, 0).id.replace(MORE_FILL, '');
    const free = fills.filter(({ out }) => out).length;
    const averageMs = Math.max(1000, model.averageOfSlot(last));
    const wanted = Math.ceil((-mark.overMs / averageMs) * 1.5) + PIECES_TO_LAND;
    const missing = Math.min(MOST_FILL_SLOTS, wanted) - free;
    if (missing <= 0) return;
    more.set(
      last.id,
      Array.from({ length: missing }, (_, k) => spareFill(last, fillSlotId(first, fills.length + 1 + k))),
    );
  });
  if (more.size === 0) return log;
  const hours = log.hours.map((hour) =>
    hour.entries.some(({ id }) => more.has(id))
      ? { ...hour, entries: hour.entries.flatMap((entry) => [entry, ...(more.get(entry.id) ?? [])]) }
      : hour,
  );
  return { ...log, hours };
}

/** One more slot of a fill line, not used yet. */
function spareFill({ categoryId, filters, from }: PickEntry, id: string): PickEntry {
  return {
    id,
    note: '',
    ...(from ? { from } : {}),
    kind: 'pick',
    categoryId,
    ...(filters ? { filters } : {}),
    fill: true,
    itemId: null,
    locked: false,
    origin: 'engine',
    open: null,
    out: true,
  };
}

/** The entries between the mark before and a mark. */
export function entriesBetween(log: DailyLog, { marks }: LogTiming, mark: number): LogEntry[] {
  const entries = allEntries(log);
  const placeOf = (one: MarkTiming | undefined, otherwise: number): number => {
    if (!one) return otherwise;
    if (one.entryId !== null) return entries.findIndex(({ id }) => id === one.entryId);
    const hours = log.hours.slice(0, one.hourIndex);
    return hours.reduce((sum, hour) => sum + hour.entries.length, 0);
  };
  return entries.slice(placeOf(marks[mark - 1], 0), placeOf(marks[mark], entries.length));
}

/** Whether an entry is a slot of a fill line. */
export function isFill(entry: LogEntry): entry is PickEntry {
  return entry.kind === 'pick' && entry.fill === true;
}

/** A fill line has several slots while its gap is being filled; those that were not needed go. */
export function withoutSpareFill(log: DailyLog): DailyLog {
  const isLeft = (entry: LogEntry): boolean => entry.out === true && MORE_FILL.test(entry.id);
  const hours = log.hours.map((hour) =>
    hour.entries.some(isLeft) ? { ...hour, entries: hour.entries.filter((entry) => !isLeft(entry)) } : hour,
  );
  return { ...log, hours };
}
