import { LogInspector } from '../judge/inspect-log.js';
import { findEntry, type DailyLog } from '../log/daily-log.js';
import { applyEdit } from '../log/apply-edit.js';
import type { LogEdit } from '../log/log-edit.js';
import type { StationModel } from '../station/station-model.js';
import { checkLimits, type LimitViolation } from './check-limits.js';
import type { LimitOptions } from './limits.js';
import { songsOfLog, type LogSong } from './log-songs.js';
import { mendOf } from './mend.js';

/** So many candidates for a slot are tried before it counts as one that cannot be mended. */
const MOST_CANDIDATES = 40;

/** What the limits are checked with besides the log. */
export interface MendGround {
  readonly options: LimitOptions;
  readonly oneAct: readonly string[];
  /** The songs before the log that a period can begin with; they stay. */
  readonly lead: readonly LogSong[];
  /** UTC epoch milliseconds: what has begun by then stays. */
  readonly nowMs: number;
}

/** A log after its mend. */
export interface MendedLog {
  /** Replacements, in the order in which they were made. */
  readonly edits: readonly LogEdit[];
  readonly log: DailyLog;
  /** Places that stay over the limits whatever replaces the songs that may be replaced. */
  readonly left: number;
}

/**
 * The fewest replacements after which a log keeps the limits: for each song of the smallest mend the first candidate, in
 * their order, that has no part in exceeding a limit where it stands.
 */
export function mendLog(
  model: StationModel,
  before: DailyLog,
  { options, oneAct, lead, nowMs }: MendGround,
): MendedLog {
  const songsWith = (log: DailyLog): LogSong[] => [...lead, ...songsOfLog(model, log, lead.length, nowMs)];
  const violations = (log: DailyLog): LimitViolation[] =>
    checkLimits(songsWith(log), options, oneAct).filter(({ positions }) => positions.some((one) => one > lead.length));
  const songs = songsWith(before);
  const edits: LogEdit[] = [];
  let log = before;
  for (const position of mendOf(songs, options, 'replace', oneAct).positions) {
    const song = songs.find((one) => one.position === position);
    const entry = song && findEntry(log, song.entryId);
    if (entry?.kind !== 'pick') continue;
    const candidates = new LogInspector(model, log)
      .candidates(entry.id)
      .filter(({ itemId }) => itemId !== entry.itemId);
    for (const { itemId } of candidates.slice(0, MOST_CANDIDATES)) {
      const edit = { type: 'replace' as const, entryId: entry.id, itemId, origin: 'hand' as const };
      const outcome = applyEdit(log, edit);
      if (!outcome.ok || violations(outcome.log).some(({ positions }) => positions.includes(position))) continue;
      edits.push(edit);
      log = outcome.log;
      break;
    }
  }
  return { edits, log, left: violations(log).length };
}
