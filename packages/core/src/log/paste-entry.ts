import type { LogEntry } from './daily-log.js';

/**
 * A copy of an entry to be put into a log under another id. What belongs to the place it was copied from stays behind: its
 * mark, who framed it, why and by which run it was chosen, and its lock.
 */
export function pasted(entry: LogEntry, id: string): LogEntry {
  const { note, noteBy } = entry;
  const base = { id, note, ...(noteBy ? { noteBy } : {}), placed: 'hand' as const };
  switch (entry.kind) {
    case 'pick': {
      const { categoryId, filters, itemId, lengthMs } = entry;
      return {
        ...base,
        kind: 'pick',
        categoryId,
        ...(filters ? { filters } : {}),
        itemId,
        locked: false,
        origin: 'hand',
        open: null,
        ...(lengthMs === undefined ? {} : { lengthMs }),
      };
    }
    case 'item': {
      const { itemId, lengthMs } = entry;
      return { ...base, kind: 'item', itemId, ...(lengthMs === undefined ? {} : { lengthMs }) };
    }
    case 'break':
      return { ...base, kind: 'break', bookedAtMs: entry.bookedAtMs, durationMs: entry.durationMs };
    // Another place may announce, or play over, something else.
    case 'tease':
      return { ...base, kind: 'tease', target: entry.target, itemId: null, boundTo: null };
    case 'sweeper': {
      const { categoryId, filters } = entry;
      return { ...base, kind: 'sweeper', categoryId, ...(filters ? { filters } : {}), itemId: null, boundTo: null };
    }
    case 'note':
      return { ...base, kind: 'note', text: entry.text };
  }
}
