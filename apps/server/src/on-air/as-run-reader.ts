import {
  airedPlays,
  allEntries,
  handOverTiming,
  itemOf,
  plannedRows,
  reconcile,
  type DailyLog,
  type Decision,
  type ReconciledRow,
  type StationPlay,
} from '@fuller/core';
import { airedBetween, type StoredAired } from '../db/queries/as-run.js';
import { itemsToHandOver } from '../db/queries/items.js';
import { AsRunDayEntity, OnAirSettingsEntity, type AsRunDayRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

/** From here on a play is early or late where a station has not set it, milliseconds. */
export const USUAL_LATE_MS = 60_000;

/** A day beside what aired of it. */
export interface ReconciledDay {
  readonly day: AsRunDayRecord;
  readonly rows: readonly ReconciledRow<StoredAired>[];
  readonly decisionOf: (key: string) => Decision | null;
}

/** A log beside what aired; null where nothing of its day is known. */
export async function reconciledDay(
  em: Em,
  stationId: string,
  date: string,
  log: DailyLog | null,
): Promise<ReconciledDay | null> {
  const day = await em.findOne(AsRunDayEntity, { stationId, date });
  if (!day) return null;
  const settings = await em.findOne(OnAirSettingsEntity, { id: stationId });
  const items = log ? await itemsOf(em, log) : new Map();
  const itemWith = (id: string) => items.get(id);
  const planned = log ? plannedRows(log, handOverTiming(log, { itemOf: itemWith }), itemWith) : [];
  const aired = {
    rows: await airedBetween(em, stationId, date, date),
    missed: day.missed,
    coveredFromMs: day.coveredFromMs,
    coveredUntilMs: day.coveredUntilMs,
  };
  const rows = reconcile(planned, aired, settings?.lateMs ?? USUAL_LATE_MS);
  const decisionOf = (key: string): Decision | null => day.decisions[key] ?? (day.accepted ? 'accepted' : null);
  return { day, rows, decisionOf };
}

async function itemsOf(em: Em, log: DailyLog) {
  const ids = allEntries(log).flatMap((entry) => itemOf(entry) ?? []);
  return new Map((await itemsToHandOver(em, ids)).map((item) => [item.id, item]));
}

/** The plays history counts of a log: as it plans them, but for what is known to have aired otherwise. */
export async function countedPlays(
  em: Em,
  stationId: string,
  log: DailyLog,
  planned: () => Promise<readonly StationPlay[]>,
): Promise<readonly StationPlay[]> {
  const reconciled = await reconciledDay(em, stationId, log.date, log);
  return reconciled ? airedPlays(reconciled.rows, reconciled.decisionOf) : planned();
}
