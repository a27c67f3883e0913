import type { AirTime } from '../log/air-times.js';
import { itemOf, type LogEntry, type TeaseEntry } from '../log/daily-log.js';
import type { ItemKind } from '../library/item.js';
import { lookUp } from '../values/look-up.js';

/** What is announced comes this soon after its tease, milliseconds. */
const SOON_MS = 3_600_000;
/** Kinds that a tease of a time announces. */
const ANNOUNCED_KINDS: ReadonlySet<ItemKind> = new Set(['song', 'programme']);

/** A log's entries in order with when they air. */
export interface AiringEntries {
  readonly entries: readonly LogEntry[];
  readonly times: ReadonlyMap<string, AirTime>;
  readonly kindOf: (itemId: string) => ItemKind;
}

/**
 * The entry a tease is to announce, by the place of the tease in the log, open slots among them where `open` is set;
 * null where nothing it could announce airs after it.
 */
export function targetOfTease(
  { entries, times, kindOf }: AiringEntries,
  place: number,
  { id, target }: TeaseEntry,
  open = false,
): LogEntry | null {
  if (target.to === 'show') return null;
  const { startMs } = lookUp(times, id);
  const after = entries
    .slice(place + 1)
    .filter((entry) => !entry.out && (itemOf(entry) !== null || isOpen(entry, open)));
  const starts = (entry: LogEntry): number => lookUp(times, entry.id).startMs;
  const found = after.find((entry) => {
    switch (target.to) {
      case 'entry':
        return entry.id === target.entryId;
      case 'pick':
        return entry.kind === 'pick' && entry.categoryId === target.categoryId;
      case 'time': {
        const itemId = itemOf(entry);
        return starts(entry) >= target.atMs && (itemId === null || ANNOUNCED_KINDS.has(kindOf(itemId)));
      }
    }
  });
  return found && starts(found) <= startMs + SOON_MS ? found : null;
}

function isOpen(entry: LogEntry, counts: boolean): boolean {
  return counts && entry.kind === 'pick';
}
