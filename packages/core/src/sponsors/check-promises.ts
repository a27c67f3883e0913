import { emptyDay } from '../generate/starting-log.js';
import type { DailyLog } from '../log/daily-log.js';
import type { StationData } from '../station/station-data.js';
import { StationModel } from '../station/station-model.js';
import type { KeptAsk } from './message-board.js';
import { placeMessages } from './place-messages.js';

/** What the promises of a date come to. */
export interface PromisesOfDay {
  readonly date: string;
  /** In the log there is, or as a run would place them. */
  readonly from: 'log' | 'plan';
  /** Slots for sponsor messages on the day. */
  readonly slots: number;
  readonly kept: readonly KeptAsk[];
}

/**
 * What promises come to on some dates in order, each as its log has it, or as a run would place them in the clocks of the
 * day. What a day plays counts for the week of those after it.
 */
export function checkPromises(
  data: StationData,
  dates: readonly string[],
  logOf: (date: string) => DailyLog | null,
): PromisesOfDay[] {
  let { history } = data;
  return dates.map((date): PromisesOfDay => {
    const model = new StationModel({ ...data, history });
    const log = logOf(date);
    const day = log ?? emptyDay(model, { date, previous: null });
    const every = new Set(log?.hours.flatMap(({ entries }) => entries.map(({ id }) => id)));
    const placed = placeMessages(model, day, every);
    history = [...history, ...model.plays(placed.log)];
    return { date, from: log ? 'log' : 'plan', slots: placed.count, kept: placed.kept };
  });
}
