import type { DailyLog } from '@fuller/core';
import { DailyLogEntity, type DailyLogRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

/** Reads a log past the unit of work, which would compare and copy the whole of it. */
export async function readLog(em: Em, stationId: string, date: string): Promise<DailyLogRecord | null> {
  const row = (await em.qb(DailyLogEntity).where({ stationId, date }).execute('get')) as
    (Omit<DailyLogRecord, 'hours'> & { readonly hours: unknown }) | null;
  if (!row) return null;
  // SQLite answers a document as text, PostgreSQL reads it itself.
  const hours = (typeof row.hours === 'string' ? JSON.parse(row.hours) : row.hours) as DailyLogRecord['hours'];
  return { ...row, hours } as DailyLogRecord;
}

/** The revision of a log; null where there is none. */
export async function logRevision(em: Em, stationId: string, date: string): Promise<number | null> {
  const row = (await em.qb(DailyLogEntity).select('revision').where({ stationId, date }).execute('get')) as {
    readonly revision: number;
  } | null;
  return row?.revision ?? null;
}

/** The log as core knows it. */
export function docOf(row: Pick<DailyLogRecord, 'date' | 'timeZone' | 'hours'>): DailyLog {
  return { date: row.date, timeZone: row.timeZone, hours: row.hours };
}
