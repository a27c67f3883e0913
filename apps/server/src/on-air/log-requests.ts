import {
  heldAnswer,
  heldAt,
  localTimeOf,
  mustApply,
  StationModel,
  type DailyLog,
  type PickEntry,
  type RequestAnswer,
} from '@fuller/core';
import { programAt } from '../actor.js';
import { StationEntity, type SongRequestRecord } from '../db/entities/index.js';
import type { HandOverJobs } from '../hand-over/hand-over-jobs.js';
import type { HandOverService } from '../hand-over/hand-over-service.js';
import type { LogService } from '../logs/log-service.js';
import type { LogWriter } from '../logs/log-writer.js';
import type { StationReader } from '../logs/station-reader.js';
import { docOf } from '../logs/stored-logs.js';
import type { Store } from '../store/store.js';

/** A request takes no slot that begins sooner: what comes next is in the player already, ms. */
const SOONEST_MS = 5 * 60_000;
/** A listener waits no longer, ms. */
const LATEST_MS = 3 * 3_600_000;
/** So many slots are tried. */
const MOST_TRIED = 12;

export interface LogRequestParts {
  readonly store: Store;
  readonly reader: StationReader;
  readonly logs: LogService;
  readonly logWriter: LogWriter;
  readonly handOver: HandOverService;
  readonly handOverJobs: HandOverJobs;
}

/** Where a request was put, and what the listener is told. */
export interface LogPlace {
  readonly answer: RequestAnswer;
  readonly entryId: string | null;
  readonly date: string | null;
}

/** Puts requests into logs: in place of a pick of music in the coming hours, where no hard rule is broken by it. */
export class LogRequests {
  constructor(private readonly parts: LogRequestParts) {}

  async place({ stationId, itemId, listener }: SongRequestRecord, nowMs: number): Promise<LogPlace> {
    const { store, reader, logs } = this.parts;
    const station = await store.read.findOneOrFail(StationEntity, { id: stationId });
    const { date } = localTimeOf(nowMs, station.timeZone);
    const row = await logs.find(stationId, date);
    if (!row || !itemId) return none({ is: 'no place' });
    const log = docOf(row);
    const data = await reader.data(stationId, date, { log, items: [itemId] });
    const model = new StationModel(data);
    const { entries } = model.timing(log);
    const startOf = (id: string): number => entries.get(id)?.startMs ?? 0;
    const there = slotsOf(log, model).find((entry) => entry.itemId === itemId && startOf(entry.id) >= nowMs);
    if (there) return { answer: { is: 'planned', atMs: startOf(there.id) }, entryId: there.id, date };
    const categoryId = data.musicCategories.find((id) => data.categories[id]?.includes(itemId));
    const item = model.known.get(itemId);
    if (!item || categoryId === undefined || model.unavailabilityOn(item, categoryId, date))
      return none({ is: 'not on air' });
    const plays = [...data.history, ...model.plays(log)];
    const musts = new Set(
      data.rules.flatMap(({ id, strength, resting }) => (strength === 'hard' && !resting ? [id] : [])),
    );
    const mustStrains = async (of: DailyLog): Promise<number> =>
      (await logs.judge(stationId, of)).strains.filter(({ ruleId }) => musts.has(ruleId)).length;
    const before = await mustStrains(log);
    // What a person chose, or another listener asked for, stays.
    const isFree = ({ id, origin }: PickEntry): boolean =>
      origin === 'engine' &&
      startOf(id) >= nowMs + SOONEST_MS &&
      startOf(id) <= nowMs + LATEST_MS &&
      !heldAt(
        model,
        itemId,
        categoryId,
        startOf(id),
        plays.filter(({ startMs }) => startMs < startOf(id)),
      ).some(({ ruleId }) => musts.has(ruleId));
    for (const slot of slotsOf(log, model).filter(isFree).slice(0, MOST_TRIED)) {
      const after = mustApply(log, { type: 'replace', entryId: slot.id, itemId, origin: 'hand' });
      if ((await mustStrains(after)) > before) continue;
      const note = `Request of ${listener}`;
      const edits = [
        { type: 'replace' as const, entryId: slot.id, itemId },
        { type: 'note' as const, entryId: slot.id, note },
      ];
      await this.parts.logWriter.edit(programAt(stationId, 'requests'), date, row.revision, { type: 'batch', edits });
      await this.handOverAgain(stationId, date);
      return { answer: { is: 'planned', atMs: startOf(slot.id) }, entryId: slot.id, date };
    }
    const soFar = new StationModel({ ...data, history: plays.filter(({ startMs }) => startMs <= nowMs) });
    return none(heldAnswer(soFar, itemId, categoryId, nowMs));
  }

  /** Outputs that have handed the day over do it again, so that the player gets to know. */
  private async handOverAgain(stationId: string, date: string): Promise<void> {
    const { handOver, handOverJobs } = this.parts;
    const { records } = await handOver.state(stationId, date);
    const outputs = new Set(records.flatMap(({ outputId }) => (outputId ? [outputId] : [])));
    for (const id of outputs) await handOverJobs.begin(programAt(stationId, 'requests'), date, id).catch(() => {});
  }

  /** When a placed request plays now; null where its slot plays something else. */
  async startOf({ stationId, itemId, rowId, date }: SongRequestRecord): Promise<number | null> {
    const { logs, reader } = this.parts;
    const row = date ? await logs.find(stationId, date) : null;
    if (!row || !date) return null;
    const log = docOf(row);
    const model = new StationModel(await reader.data(stationId, date, { log }));
    const slot = slotsOf(log, model).find((entry) => entry.id === rowId && entry.itemId === itemId);
    return slot ? (model.timing(log).entries.get(slot.id)?.startMs ?? null) : null;
  }
}

function none(answer: RequestAnswer): LogPlace {
  return { answer, entryId: null, date: null };
}

/** The slots of music a request may take. */
function slotsOf(log: DailyLog, { data }: StationModel): PickEntry[] {
  return log.hours.flatMap(({ entries }) =>
    entries.filter(
      (entry): entry is PickEntry =>
        entry.kind === 'pick' &&
        !entry.locked &&
        !entry.out &&
        !entry.fill &&
        !entry.filters &&
        data.musicCategories.includes(entry.categoryId),
    ),
  );
}
