import type { LengthLookup } from '../clocks/expected-starts.js';
import { isByHand } from '../log/chosen-by-hand.js';
import { allEntries, type DailyLog, type LogEntry, type PickEntry } from '../log/daily-log.js';
import { airedIds, restoreAired, withAired } from '../station/aired.js';
import type { StationData } from '../station/station-data.js';
import { StationModel } from '../station/station-model.js';
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

/** The day as a run over all of it begins: laid out by its clocks, with what has aired and what is kept in its place. */
export function laidOutDay(data: StationData, options: GenerateOptions): DailyLog {
  const model = new StationModel(data);
  const aired = airedBy(model, options);
  const log = startingLog(model, options, aired);
  return options.previous ? restoreAired(log, options.previous, aired) : log;
}

/** The log with the slots of some categories open, but for what is to stay. */
function withOpened(log: DailyLog, options: GenerateOptions, aired: ReadonlySet<string>): DailyLog {
  const { replaceByHand } = options;
  const beyond = new Set(outOfScope(log, options));
  const opens = (entry: LogEntry): entry is PickEntry =>
    entry.kind === 'pick' &&
    !beyond.has(entry.id) &&
    !entry.locked &&
    !entry.out &&
    !aired.has(entry.id) &&
    (replaceByHand === true || !isByHand(entry));
  const hours = log.hours.map((hour) => ({
    ...hour,
    entries: hour.entries.map((entry) => (opens(entry) ? { ...entry, itemId: null } : entry)),
  }));
  return { ...log, hours };
}

/** Ids of the entries that a run over some hours or categories leaves as they are, open or not. */
export function outOfScope(log: DailyLog, { only, hours = [], categories = [] }: GenerateOptions): string[] {
  if (only !== 'hours' && only !== 'categories') return [];
  const isIn = (hour: number, entry: LogEntry): boolean =>
    (hours.length === 0 || hours.includes(hour)) &&
    (only === 'hours' || (entry.kind === 'pick' && categories.includes(entry.categoryId)));
  return log.hours.flatMap(({ index, entries }) => entries.flatMap((entry) => (isIn(index, entry) ? [] : [entry.id])));
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
