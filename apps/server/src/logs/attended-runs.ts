import type { AttendedRun, LogView } from '@fuller/contracts';
import { findEntry, openSlots, type RunStop } from '@fuller/core';
import { ActivityEntity, AttendedRunEntity, type AttendedRunRecord, type KeptDecision } from '../db/entities/index.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store } from '../store/store.js';
import type { LogService } from './log-service.js';
import { shownDecision } from './log-words.js';
import { docOf } from './stored-logs.js';

/** Attended runs as they are kept and shown. */
export class AttendedRuns {
  constructor(
    private readonly store: Store,
    private readonly logs: LogService,
  ) {}

  /** Keeps where a run stands. */
  async keep({ em }: ChangeSet, run: AttendedRunRecord): Promise<void> {
    const { id, ask, rulesOff, state, stop, decisions } = run;
    await em.nativeUpdate(AttendedRunEntity, { id }, { ask, rulesOff, state, stop, decisions });
  }

  /** The decisions that nobody has undone since. */
  async liveDecisions({ decisions }: AttendedRunRecord): Promise<KeptDecision[]> {
    const firsts = decisions.flatMap(({ activityIds }) => activityIds[0] ?? []);
    const rows = await this.store.read.find(ActivityEntity, { id: { $in: firsts } });
    const undone = new Set(rows.filter(({ undoneBy }) => undoneBy).map(({ id }) => id));
    return decisions.filter(({ activityIds: [first] }) => first === undefined || !undone.has(first));
  }

  /** The slot the run waits at, as long as it is open and has not aired. */
  async stopOf({ stationId, date, stop }: AttendedRunRecord): Promise<RunStop | null> {
    if (!stop) return null;
    const row = await this.logs.find(stationId, date);
    const entry = row && findEntry(docOf(row), stop.entryId);
    if (!row || entry?.kind !== 'pick' || entry.itemId !== null || entry.out) return null;
    return (await this.logs.airedOf(stationId, docOf(row))).has(stop.entryId) ? null : stop;
  }

  /** A run as it is shown, with the log it fills. */
  async valueOf(run: AttendedRunRecord): Promise<{ run: AttendedRun; view: LogView }> {
    return { run: await this.shown(run), view: await this.logs.view(run.stationId, run.date) };
  }

  /** A run as it is shown. */
  async shown(run: AttendedRunRecord): Promise<AttendedRun> {
    const decisions = await this.liveDecisions(run);
    const skipped = decisions.flatMap(({ title, entryId }) => (title === null ? [entryId] : []));
    const row = await this.logs.find(run.stationId, run.date);
    const open = row ? openSlots(docOf(row)).filter(({ id }) => !skipped.includes(id)).length : 0;
    const { id, date, atMs, seed, scope, ask, rulesOff, state } = run;
    return {
      id,
      date,
      atMs,
      seed,
      scope,
      ask,
      rulesOff,
      state,
      stop: await this.stopOf(run),
      decisions: decisions.map(shownDecision),
      skipped,
      left: open,
    };
  }
}
