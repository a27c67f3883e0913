import type { LengthLookup } from '../clocks/expected-starts.js';
import { isByHand } from '../log/chosen-by-hand.js';
import { allEntries, type DailyLog, type LogEntry, type PickEntry } from '../log/daily-log.js';
import { airedIds, withAired } from '../station/aired.js';
import type { StationData } from '../station/station-data.js';
import type { StationModel } from '../station/station-model.js';
import { expandDay } from '../week/expand-day.js';
import type { GenerateOptions } from './generate-options.js';
import { withPlacedByHand } from './placed-by-hand.js';
import { entriesFor } from './planned-entries.js';

/** The log a run begins with: empty, but for what it is to keep. */
export function startingLog(model: StationModel, options: GenerateOptions, aired: ReadonlySet<string>): DailyLog {
  const { only, previous, hours = [], nowMs = 0 } = options;
  if (only === 'open' && previous) return previous;
  if (only === 'categories' && previous) return withOpened(previous, options, aired);
  const empty = emptyDay(model, options);
  if (!previous) return empty;
  if (only === 'all') return withAired(model, empty, previous, aired, nowMs);
  const anew = new Set(hours);
  const kept = new Map(previous.hours.map((hour) => [hour.index, hour]));
  const some = empty.hours.map((hour) => (anew.has(hour.index) ? hour : (kept.get(hour.index) ?? hour)));
  return withAired(model, { ...empty, hours: some }, previous, aired, nowMs);
}

/** The log with the slots of some categories open, but for what is to stay. */
function withOpened(
  log: DailyLog,
  { categories = [], hours = [], replaceByHand }: GenerateOptions,
  aired: ReadonlySet<string>,
): DailyLog {
  const opens = (entry: LogEntry): boolean =>
    entry.kind === 'pick' &&
    categories.includes(entry.categoryId) &&
    !entry.locked &&
    !entry.out &&
    !aired.has(entry.id) &&
    (replaceByHand === true || !isByHand(entry));
  return {
    ...log,
    hours: log.hours.map((hour) =>
      hours.length > 0 && !hours.includes(hour.index)
        ? hour
        : {
            ...hour,
            entries: hour.entries.map((entry) => (opens(entry) ? { ...(entry as PickEntry), itemId: null } : entry)),
          },
    ),
  };
}

/** What has aired of the log there is, or is on the air. */
export function airedBy(model: StationModel, { previous, nowMs }: GenerateOptions): ReadonlySet<string> {
  return previous && nowMs !== undefined ? airedIds(model, previous, nowMs) : new Set();
}

/** What the hours of a day are laid out from; a station's model is one. */
export interface DayGround extends LengthLookup {
  readonly data: Pick<StationData, 'plan' | 'timeZone'>;
}

/**
 * The day with every slot open but those a person has locked, chosen or noted, with the notes they wrote, and with what
 * they put in, moved or removed as they left it.
 */
export function emptyDay(
  ground: DayGround,
  {
    date,
    previous,
    answers = {},
    replaceByHand,
  }: Pick<GenerateOptions, 'date' | 'previous' | 'answers' | 'replaceByHand'>,
): DailyLog {
  const { data } = ground;
  const before = new Map(previous ? allEntries(previous).map((entry) => [entry.id, entry]) : []);
  const day = {
    date,
    timeZone: data.timeZone,
    hours: expandDay(date, data.timeZone, data.plan, ground).map(({ lines, ...hour }) => ({
      ...hour,
      entries: lines.flatMap((planned) => entriesFor(planned, answers, before, replaceByHand ? () => false : isByHand)),
    })),
  };
  return previous && !replaceByHand ? withPlacedByHand(day, previous) : day;
}
