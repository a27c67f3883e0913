import {
  airedIds,
  elementAt,
  itemOf,
  formatLocalDateTime,
  lookUp,
  type DailyLog,
  type PlaylistSong,
  type StationModel,
} from '@fuller/core';

/** A song of a log, as the limits count it. */
export interface LogSong extends PlaylistSong {
  readonly date: string;
  readonly entryId: string;
  /** Aired, locked or named by its clock: it stays. */
  readonly fixed: boolean;
}

/** The songs of a log in their order, counted on from a position; speech, imaging and what is left out are none. */
export function songsOfLog(model: StationModel, log: DailyLog, after: number, nowMs: number): LogSong[] {
  const timing = model.timing(log);
  const aired = airedIds(model, log, nowMs);
  const songs: LogSong[] = [];
  for (const hour of log.hours)
    for (const entry of hour.entries) {
      const itemId = itemOf(entry);
      const item = itemId === null ? undefined : model.known.get(itemId);
      if (!item || entry.out || (item.kind ?? 'song') !== 'song') continue;
      const { startMs } = lookUp(timing.entries, entry.id);
      songs.push({
        position: after + songs.length + 1,
        start: Math.floor(startMs / 1000),
        startText: formatLocalDateTime(startMs, log.timeZone),
        title: item.title,
        artist: item.artist,
        album: item.album,
        // Items know their artists; what a credit spells is not split again.
        recording: elementAt([lookUp(model.songOf, item.id)], 0),
        file: '',
        line: 0,
        date: log.date,
        entryId: entry.id,
        fixed: entry.kind !== 'pick' || entry.locked || aired.has(entry.id),
      });
    }
  return songs;
}
