import type { StationPlay } from '@fuller/core';
import type { Em } from '../orm.js';
import { rowsOf } from './query.js';

/** Plays of a station in a span of UTC epoch milliseconds, its end not included. */
export function playsBetween(em: Em, stationId: string, fromMs: number, untilMs: number): Promise<StationPlay[]> {
  return rowsOf(
    em,
    `select item_id as "itemId", start_ms as "startMs" from play
     where station_id = ? and start_ms >= ? and start_ms < ? order by start_ms, item_id`,
    [stationId, fromMs, untilMs],
  );
}

/** Plays of a station with the dates they belong to; both dates included. */
export function playsOfDates(
  em: Em,
  stationId: string,
  from: string,
  to: string,
): Promise<(StationPlay & { date: string })[]> {
  return rowsOf(
    em,
    `select "date", item_id as "itemId", start_ms as "startMs" from play
     where station_id = ? and "date" between ? and ? order by start_ms, item_id`,
    [stationId, from, to],
  );
}

/** When an item plays on a station in a span, its end not included; UTC epoch milliseconds. */
export async function startsOfItem(
  em: Em,
  stationId: string,
  itemId: string,
  fromMs: number,
  untilMs: number = Number.MAX_SAFE_INTEGER,
): Promise<number[]> {
  const rows = await rowsOf<{ startMs: number }>(
    em,
    `select start_ms as "startMs" from play where station_id = ? and item_id = ? and start_ms >= ? and start_ms < ?
     order by start_ms`,
    [stationId, itemId, fromMs, untilMs],
  );
  return rows.map(({ startMs }) => startMs);
}

/** The plays a log has planned. */
export function playsOfLog(em: Em, logId: string): Promise<(StationPlay & { id: number })[]> {
  return rowsOf(em, 'select id, item_id as "itemId", start_ms as "startMs" from play where log_id = ?', [logId]);
}

/** The dates on which a station has plays that no log planned; both dates included. */
export async function datesPlayedWithoutLog(em: Em, stationId: string, from: string, to: string): Promise<string[]> {
  const rows = await rowsOf<{ date: string }>(
    em,
    `select distinct "date" from play where station_id = ? and log_id is null and "date" between ? and ?`,
    [stationId, from, to],
  );
  return rows.map(({ date }) => date);
}

/** What is counted of the logs of a station; both dates included. */
export function logCounts(
  em: Em,
  stationId: string,
  from: string,
  to: string,
): Promise<{ date: string; slots: number; open: number; strains: number; revision: number }[]> {
  return rowsOf(
    em,
    `select "date", slots, "open", strains, revision from daily_log where station_id = ? and "date" between ? and ?`,
    [stationId, from, to],
  );
}
