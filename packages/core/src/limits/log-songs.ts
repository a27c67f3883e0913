import { itemOf, type DailyLog } from '../log/daily-log.js';
import { airedIds } from '../station/aired.js';
import { setsOf } from '../station/rule-tags.js';
import type { StationModel } from '../station/station-model.js';
import { formatLocalDateTime } from '../time/local-day.js';
import { lookUp } from '../values/look-up.js';
import type { PlaylistSong } from './playlist-entries.js';

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
      const sets = setsOf(item);
      songs.push({
        position: after + songs.length + 1,
        start: Math.floor(startMs / 1000),
        startText: formatLocalDateTime(startMs, log.timeZone),
        title: item.title,
        artist: item.artist,
        album: item.album,
        ...(sets[0] !== undefined && { set: sets[0] }),
        recording: lookUp(model.songOf, item.id),
        file: '',
        line: 0,
        date: log.date,
        entryId: entry.id,
        fixed: entry.kind !== 'pick' || entry.locked || aired.has(entry.id),
      });
    }
  return songs;
}
