import { StationEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

/** Leaves out what is of archived stations: nothing runs for them by itself. */
export async function ofActiveStations<T>(em: Em, rows: readonly T[], stationOf: (row: T) => string): Promise<T[]> {
  if (rows.length === 0) return [];
  const archived = new Set((await em.find(StationEntity, { archived: true }, { fields: ['id'] })).map(({ id }) => id));
  return rows.filter((row) => !archived.has(stationOf(row)));
}
