import { isBound, type Binding, type BoundEntry, type DailyLog } from './daily-log.js';

/** A binding and the entry that has it. */
export interface EntryBinding extends Binding {
  readonly entryId: string;
}

/** What an entry plays, and nothing else of it. */
function bindingOf({ itemId, boundTo, intoMs, missing }: { [K in keyof Binding]: Binding[K] | undefined }): Binding {
  return {
    itemId: itemId ?? null,
    boundTo: boundTo ?? null,
    ...(intoMs === undefined ? {} : { intoMs }),
    ...(missing === undefined ? {} : { missing }),
  };
}

/** The entry with what it plays; the very same where nothing changes. */
export function withBinding<E extends BoundEntry>(entry: E, binding: Binding): E {
  const now = bindingOf(binding);
  if (JSON.stringify(bindingOf(entry)) === JSON.stringify(now)) return entry;
  const { missing: before, intoMs: into, ...rest } = entry;
  void [before, into];
  return { ...rest, ...now } as E;
}

/** The log with what some of its teases and sweepers play; the very same where nothing changes. */
export function withBindings(log: DailyLog, bindings: readonly EntryBinding[]): DailyLog {
  if (bindings.length === 0) return log;
  const byId = new Map(bindings.map((one) => [one.entryId, one]));
  let changed = false;
  const hours = log.hours.map((hour) => {
    const entries = hour.entries.map((entry) => {
      const binding = byId.get(entry.id);
      return binding && isBound(entry) ? withBinding(entry, binding) : entry;
    });
    if (entries.every((entry, n) => entry === hour.entries[n])) return hour;
    changed = true;
    return { ...hour, entries };
  });
  return changed ? { ...log, hours } : log;
}

/** What teases and sweepers of a log play that another log of the day has differently. */
export function changedBindings(before: DailyLog, after: DailyLog): EntryBinding[] {
  const were = new Map(before.hours.flatMap(({ entries }) => entries.map((entry) => [entry.id, entry] as const)));
  return after.hours.flatMap(({ entries }) =>
    entries.flatMap((entry): EntryBinding[] => {
      if (!isBound(entry)) return [];
      const was = were.get(entry.id);
      if (was && isBound(was) && withBinding(was, entry) === was) return [];
      return [{ entryId: entry.id, ...bindingOf(entry) }];
    }),
  );
}
