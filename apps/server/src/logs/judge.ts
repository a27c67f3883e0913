import { createHash } from 'node:crypto';
import type { DailyLog, StationPlay, Strain } from '@fuller/core';
import { airedIds, bindLog, LogInspector, looksAcross, StationModel } from '@fuller/core';
import { KeptLatest } from '../store/kept.js';
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

/** So many days are judged at a time. */
const MOST_DAYS = 24;
const MINUTE_MS = 60_000;

/**
 * Judges in the calling thread. What a day was judged to be is kept until it, or what it is judged by, changes: after
 * an edit the same log is asked for by all who have it open.
 */
export function judgeBy(reader: StationReader, now: () => number): Judge {
  const kept = new KeptLatest<Judgement>(MOST_DAYS);
  return async (stationId, given) => {
    const data = await reader.data(stationId, given.date, { log: given });
    const judge = (): Judgement => {
      const model = new StationModel(data);
      const log = bindLog(model, given, airedIds(model, given, now()));
      return { log, strains: new LogInspector(model, log).strains(), plays: model.plays(log) };
    };
    // What other stations play is not among what it is kept by.
    if (looksAcross(data.rules)) return judge();
    const minute = Math.floor(now() / MINUTE_MS);
    const content = createHash('sha1').update(JSON.stringify(given)).digest('base64url');
    const by = `${content} ${reader.basisOf(stationId, given.date)} ${minute}`;
    const judged = await kept.get(`${stationId} ${given.date}`, by, () => Promise.resolve(judge()));
    return judged.log === given || !isSameLog(judged.log, given) ? judged : { ...judged, log: given };
  };
}

/** Whether binding left a log as it was, though it was read again since. */
function isSameLog(one: DailyLog, other: DailyLog): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
