import type { DailyLog, StationPlay, Strain } from '@fuller/core';
import { airedIds, bindLog, LogInspector, StationModel } from '@fuller/core';
import type { StationReader } from './station-reader.js';

/** What a log comes to by the station as it stands. */
export interface Judgement {
  /** The log with what its teases and sweepers play; the very same where that is so already. */
  readonly log: DailyLog;
  readonly strains: readonly Strain[];
  /** The plays it makes. */
  readonly plays: readonly StationPlay[];
}

/** Judges logs; on a server in a thread of its own. */
export type Judge = (stationId: string, log: DailyLog) => Promise<Judgement>;

/** Judges in the calling thread. */
export function judgeBy(reader: StationReader, now: () => number): Judge {
  return async (stationId, given) => {
    const model = new StationModel(await reader.data(stationId, given.date, { log: given }));
    const log = bindLog(model, given, airedIds(model, given, now()));
    return { log, strains: new LogInspector(model, log).strains(), plays: model.plays(log) };
  };
}
