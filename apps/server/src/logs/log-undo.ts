import { changedEntries, formatAirTime, StationModel, undoEdit, type DailyLog, type LogEdit } from '@fuller/core';
import { DailyLogEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { type ChangeSet, type RecordedChange } from '../store/change-set.js';
import { afterEdit, listed, sameShape } from './log-words.js';
import type { StationReader } from './station-reader.js';
import { docOf } from './stored-logs.js';
import type { Store } from '../store/store.js';
import type { LogChange } from './log-change.js';
import type { LogService } from './log-service.js';
import type { LogWriter } from './log-writer.js';

/** Undoes what was recorded of logs, as far as nobody has changed the same since and nothing of it has aired. */
export class LogUndo {
  constructor(
    store: Store,
    private readonly reader: StationReader,
    private readonly logs: LogService,
    private readonly writer: LogWriter,
  ) {
    store.undoing.onRevert('log', (changes, change, madeAtMs) => this.revert(changes, change, madeAtMs));
  }

  private async revert(changes: ChangeSet, change: RecordedChange, madeAtMs: number): Promise<void> {
    const before = change.before as LogChange | null;
    const after = change.after as LogChange | null;
    if (before?.kind === 'edit' && after?.kind === 'edit') {
      await this.revertEdit(changes, before, after.edit);
    } else if (before?.kind === 'made') {
      if (await this.logs.find(before.stationId, before.log.date, changes.em))
        throw new FullerError('CANNOT_UNDO', `There is another log of ${before.log.date} since.`);
      await this.writer.make(changes, before.stationId, before.log);
    } else if (after?.kind === 'made') {
      await this.unmake(changes, after, madeAtMs);
    }
  }

  /** Undoes an edit as far as nobody has changed the same since, and nothing of it has aired. */
  private async revertEdit(
    changes: ChangeSet,
    { stationId, date, edit: inverse }: Extract<LogChange, { kind: 'edit' }>,
    edit: LogEdit,
  ): Promise<void> {
    const row = await this.logs.mustFind(stationId, date, changes.em);
    const log = docOf(row);
    const outcome = undoEdit(log, edit, inverse, await this.logs.airedOf(stationId, log));
    if (!outcome.ok)
      throw new FullerError('CANNOT_UNDO', `The log of ${date} cannot go back: ${outcome.why}. Nothing was changed.`);
    const after = afterEdit(log, outcome.edit);
    if (outcome.left.length > 0) {
      const times = await this.timesOf(stationId, log, outcome.left);
      changes.leave(
        `${date}: ${listed(times)} left as ${times.length === 1 ? 'it is' : 'they are'}, changed or aired since.`,
      );
    }
    await this.writer.apply(changes, row, log, outcome.edit, await this.logs.judge(stationId, after));
  }

  /** Takes a log away that a run made, unless it has been changed or has begun to air. */
  private async unmake(
    changes: ChangeSet,
    { stationId, log: made }: Extract<LogChange, { kind: 'made' }>,
    madeAtMs: number,
  ): Promise<void> {
    const row = await this.logs.mustFind(stationId, made.date, changes.em);
    const log = docOf(row);
    const changed = changedEntries(log, made);
    if (changed.length > 0 || !sameShape(log, made)) {
      const times = await this.timesOf(stationId, log, changed);
      throw new FullerError(
        'CANNOT_UNDO',
        `The log of ${made.date} has been changed since it was made${times.length ? `, at ${listed(times)}` : ''}. Undo those changes first.`,
      );
    }
    if ((await this.logs.airedOf(stationId, log, madeAtMs)).size > 0)
      throw new FullerError('CANNOT_UNDO', `The log of ${made.date} has begun to air since it was made.`);
    await changes.em.nativeDelete(DailyLogEntity, { id: row.id });
    changes.touchLog(stationId, made.date);
    const gone: LogChange = { kind: 'made', stationId, log };
    changes.record({ thing: 'log', thingId: row.id, before: gone, after: null });
  }

  /** When some entries of a log air, as the station's clock shows it. */
  private async timesOf(stationId: string, log: DailyLog, ids: readonly string[]): Promise<string[]> {
    const { entries } = new StationModel(await this.reader.data(stationId, log.date, { log })).timing(log);
    return ids.flatMap((id) => {
      const at = entries.get(id);
      return at ? [formatAirTime(at.startMs, log.timeZone)] : [];
    });
  }
}
