import type { DailyLog, StationPlay, Strain } from '@fuller/core';
import { LogInspector, StationModel } from '@fuller/core';
import type { StationReader } from './station-reader.js';

/** What a log comes to by the station as it stands. */
export interface Judgement {
  readonly strains: readonly Strain[];
  /** The plays it makes. */
  readonly plays: readonly StationPlay[];
}

/** Judges logs; on a server in a thread of its own. */
export type Judge = (stationId: string, log: DailyLog) => Promise<Judgement>;

/** Judges in the calling thread. */
export function judgeBy(reader: StationReader): Judge {
  return async (stationId, log) => {
    const model = new StationModel(await reader.data(stationId, log.date, { log }));
    return { strains: new LogInspector(model, log).strains(), plays: model.plays(log) };
  };
}
