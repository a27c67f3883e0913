import type { LogTiming } from '../log/air-times.js';
import { allEntries, type DailyLog } from '../log/daily-log.js';
import type { InstanceRule } from '../rules/shapes.js';
import type { InstanceSlot } from '../sequence/parts.js';
import type { StationModel } from '../station/station-model.js';
import { TEASED } from './tease-book.js';
import { targetOfTease } from './tease-targets.js';

/** The engine's own wish that what is announced has a tease; its breaks are no strains of a log. */
const WISH = 'teased songs';
/** Behind every wish a person can have, before the wish that titles move round the hours. */
const BEHIND_PERSONS = 999;

/**
 * Slots and rules with the wish that songs which a tease waits for have tease audio: in each hour so many of the slots
 * that teases are bound to.
 */
export function withTeaseWish(
  model: StationModel,
  log: DailyLog,
  timing: LogTiming,
  { slots, rules }: { readonly slots: readonly InstanceSlot[]; readonly rules: readonly InstanceRule[] },
): { readonly slots: readonly InstanceSlot[]; readonly rules: readonly InstanceRule[] } {
  const targets = targetsIn(model, log, timing);
  if (targets.size === 0) return { slots, rules };
  const perHour = new Map<number, number>();
  for (const { id, hour } of slots) if (targets.has(id)) perHour.set(hour, (perHour.get(hour) ?? 0) + 1);
  const counts = [...new Set(perHour.values())].sort((a, b) => a - b);
  const idOf = (count: number): string => `${WISH} ${count}`;
  return {
    slots: slots.map((slot) => {
      const own = targets.has(slot.id) ? perHour.get(slot.hour) : undefined;
      const others = counts.filter((count) => count !== own).map(idOf);
      return others.length === 0 ? slot : { ...slot, exempt: [...(slot.exempt ?? []), ...others] };
    }),
    rules: [
      ...rules,
      ...counts.map((count): InstanceRule => ({
        id: idOf(count),
        shape: 'atLeast',
        tag: TEASED,
        value: 'yes',
        count,
        window: 'hour',
        strength: 'soft',
        rank: BEHIND_PERSONS,
      })),
    ],
  };
}

/** Ids of the slots that teases of a log are bound to. */
function targetsIn(model: StationModel, log: DailyLog, { entries: times }: LogTiming): ReadonlySet<string> {
  const entries = allEntries(log);
  const airing = { entries, times, kindOf: (id: string) => model.known.get(id)?.kind ?? 'song' };
  return new Set(
    entries.flatMap((entry, place) => {
      if (entry.kind !== 'tease' || entry.out) return [];
      return targetOfTease(airing, place, entry, true)?.id ?? [];
    }),
  );
}
