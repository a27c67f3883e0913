import type { StationPlay } from '@fuller/core';
import { playsOfLog } from '../db/queries/plays.js';
import { PlayEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

const BATCH = 500;

/** Writes those plays of a log that are new, and takes away those that are gone. */
export async function writePlays(
  em: Em,
  { id, stationId, date }: { readonly id: string; readonly stationId: string; readonly date: string },
  plays: readonly StationPlay[],
): Promise<void> {
  const keyOf = ({ itemId, startMs }: StationPlay): string => `${startMs} ${itemId}`;
  const wanted = new Map(plays.map((play) => [keyOf(play), play]));
  const held = await playsOfLog(em, id);
  const gone: number[] = [];
  for (const play of held) if (!wanted.delete(keyOf(play))) gone.push(play.id);
  for (let from = 0; from < gone.length; from += BATCH)
    await em.nativeDelete(PlayEntity, { id: { $in: gone.slice(from, from + BATCH) } } as never);
  const rows = [...wanted.values()].map((play) => ({ ...play, stationId, date, logId: id }));
  if (rows.length) await em.insertMany(PlayEntity, rows as never[]);
}
