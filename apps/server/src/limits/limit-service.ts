import type { LimitCheck } from '@fuller/contracts';
import {
  addDays,
  detectDelimiter,
  detectFormat,
  limitReport,
  mendLog,
  playlistSongs,
  readRows,
  songsOfLog,
  StationModel,
  type DailyLog,
  type LimitOptions,
  type LogSong,
  type MendedLog,
  type PlaylistSong,
} from '@fuller/core';
import { decodeText } from '@fuller/core/decode-text';
import type { StationActor } from '../actor.js';
import { OneActEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import type { LogService } from '../logs/log-service.js';
import type { LogWriter } from '../logs/log-writer.js';
import type { StationReader } from '../logs/station-reader.js';
import { docOf, logRevision } from '../logs/stored-logs.js';
import { staleRevision } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import type { LimitSettingsService } from './limit-settings.js';
import { completeFromLibrary } from './song-finder.js';

/** Checks playlists and logs against the statutory limits, and mends logs. */
export class LimitService {
  constructor(
    private readonly store: Store,
    private readonly settings: LimitSettingsService,
    private readonly logs: LogService,
    private readonly logWriter: LogWriter,
    private readonly reader: StationReader,
    private readonly now: () => number,
  ) {}

  /** Checks a playlist file of any format; what it does not tell of a song is taken from the library. */
  async checkFile(stationId: string, bytes: Uint8Array, strict: boolean): Promise<LimitCheck> {
    const decoded = decodeText(bytes);
    if (!decoded.ok) throw new FullerError('NOT_A_TEXT', decoded.why, 'content');
    const { text } = decoded;
    const read = playlistSongs(readRows(text, detectFormat(text), detectDelimiter(text)));
    if (!read.ok) {
      const where = read.column ? `Line ${read.line}, ${read.column}` : `Line ${read.line}`;
      throw new FullerError('INVALID', `${where}: ${read.why}`, 'content');
    }
    const { songs, oneAct } = await completeFromLibrary(this.store.read, stationId, read.songs);
    const check = checkOf(songs, await this.options(stationId, strict), oneAct);
    return { ...check, entries: read.songs.length, withoutLength: read.withoutLength };
  }

  /** Checks the logs of some days; what aired before them counts, and is not told by itself. */
  async checkDays(stationId: string, from: string, days: number, strict: boolean): Promise<LimitCheck> {
    const songs = await this.songsOfDays(stationId, from, days);
    if (!songs.some(({ date }) => date >= from))
      throw new FullerError(
        'NO_LOG',
        days === 1 ? `There is no log for ${from} yet.` : 'None of these days has a log.',
      );
    const check = checkOf(songs, await this.options(stationId, strict), await this.oneActs());
    const told = songs.filter(({ date }) => date >= from);
    const own = new Set(told.map(({ position }) => position));
    const violations = check.violations.filter(({ positions }) => positions.some((position) => own.has(position)));
    return { ...check, pass: violations.length === 0, violations, entries: told.length };
  }

  /** Replaces the fewest songs of a log so that it keeps the limits, checked again before anything is written. */
  async mend(actor: StationActor, date: string, strict: boolean): Promise<Written<string[]>> {
    const { stationId, clientId } = actor;
    const row = await this.logs.mustFind(stationId, date);
    const before = docOf(row);
    const options = await this.options(stationId, strict);
    const { edits, log } = await this.mended(stationId, before, options);
    if (edits.length === 0) throw new FullerError('INVALID', `The log of ${date} keeps the limits already.`);
    const judged = await this.logs.judge(stationId, log);
    const label = `Replace ${edits.length === 1 ? 'a song' : `${edits.length} songs`} for the statutory limits`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== row.revision) throw staleRevision('log');
      await this.logWriter.apply(changes, row, before, { type: 'batch', edits: [...edits] }, judged);
      return edits.flatMap((edit) => ('entryId' in edit ? [edit.entryId] : []));
    });
  }

  private async mended(stationId: string, before: DailyLog, options: LimitOptions): Promise<MendedLog> {
    const model = new StationModel(await this.reader.data(stationId, before.date, { log: before }));
    const lead = await this.songsOfDays(stationId, before.date, 0);
    const mended = mendLog(model, before, { options, oneAct: await this.oneActs(), lead, nowMs: this.now() });
    const { left } = mended;
    if (left > 0)
      throw new FullerError(
        'CONFLICT',
        `${left === 1 ? 'One place stays' : `${left} places stay`} over the limits whatever replaces the songs that may be replaced; nothing was changed. Unlock songs there, or regenerate the hours.`,
      );
    return mended;
  }

  /** The songs of the logs of some days, those of the day before first: a period can begin in it. */
  private async songsOfDays(stationId: string, from: string, days: number): Promise<LogSong[]> {
    const songs: LogSong[] = [];
    for (let day = -1; day < days; day++) {
      const date = addDays(from, day);
      const row = await this.logs.find(stationId, date);
      if (!row) continue;
      const log = docOf(row);
      const model = new StationModel(await this.reader.data(stationId, date, { log }));
      const found = songsOfLog(model, log, songs.length, this.now());
      songs.push(...(day < 0 ? found.map((song) => ({ ...song, fixed: true })) : found));
    }
    return songs;
  }

  private async options(stationId: string, strict: boolean): Promise<LimitOptions> {
    return { strict, exemptAlbums: (await this.settings.of(stationId)).exemptAlbums };
  }

  private async oneActs(): Promise<string[]> {
    return (await this.store.read.find(OneActEntity, {})).map(({ name }) => name);
  }
}

function checkOf(
  songs: readonly (PlaylistSong & Partial<Pick<LogSong, 'date' | 'entryId'>>)[],
  options: LimitOptions,
  oneAct: readonly string[],
): LimitCheck {
  const { report, mend } = limitReport(songs, options, oneAct);
  const named = new Set([...report.violations.flatMap(({ positions }) => positions), ...report.mend.remove]);
  return {
    ...report,
    violations: report.violations.map((one) => ({ ...one, positions: [...one.positions] })),
    mend: { remove: [...mend.positions] },
    smallest: mend.smallest,
    songs: songs
      .filter(({ position }) => named.has(position))
      .map(({ position, startText, title, artist, album, date, entryId }) => ({
        position,
        start: startText,
        title,
        artist,
        album,
        ...(date !== undefined && { date }),
        ...(entryId !== undefined && { entryId }),
      })),
    withoutLength: 0,
    withoutAlbum: songs.filter(({ album }) => album === '').length,
  };
}
