import {
  entryOfDate,
  foldText,
  isAnswerStale,
  type RequestAnswer,
  type RequestState,
  type WaitingRequest,
} from '@fuller/core';
import { ItemEntity, SongRequestEntity, type SongRequestRecord } from '../db/entities/index.js';
import { newId } from '../ids.js';
import type { Store } from '../store/store.js';
import type { RollingSettingsService } from './rolling-settings.js';

const HOUR_MS = 3_600_000;
/** A request that has found no place by then is given up, ms. */
const PATIENCE_MS = 3 * HOUR_MS;
const MOST_WAITING = 60;

/** A row that has begun to play, by the name the player knows it under. */
export interface BegunRow {
  readonly id: string;
  readonly startMs: number;
  readonly title: string;
}

export type Answers = Readonly<Record<string, { readonly answer: RequestAnswer; readonly rowId: string | null }>>;

/** What listeners asked for, and what they were told. */
export class RequestBook {
  constructor(
    private readonly store: Store,
    private readonly settings: RollingSettingsService,
  ) {}

  /** Told whenever a listener is told something. */
  onTold: (request: SongRequestRecord) => void = () => {};

  async add(request: Omit<SongRequestRecord, 'id'>): Promise<SongRequestRecord> {
    const row = { ...request, id: newId() };
    await this.write(request.stationId, (em) => em.insert(SongRequestEntity, row));
    return row;
  }

  find(id: string): Promise<SongRequestRecord | null> {
    return this.store.read.findOne(SongRequestEntity, { id });
  }

  byKey(stationId: string, key: string): Promise<SongRequestRecord | null> {
    return this.store.read.findOne(SongRequestEntity, { stationId, key });
  }

  latest(stationId: string, limit: number): Promise<SongRequestRecord[]> {
    return this.store.read.find(SongRequestEntity, { stationId }, { orderBy: { atMs: 'desc' }, limit });
  }

  /** The requests of a listener since an instant. */
  ofListener(stationId: string, listener: string, sinceMs: number): Promise<SongRequestRecord[]> {
    return this.store.read.find(
      SongRequestEntity,
      { stationId, listener, atMs: { $gt: sinceMs } },
      { orderBy: { atMs: 'asc' } },
    );
  }

  /** Those a queue is to place or keep, the earliest first; no more than an hour may hold. */
  async waiting(stationId: string, nowMs: number): Promise<WaitingRequest[]> {
    const { perHour } = await this.settings.of(stationId);
    const em = this.store.read;
    const open = await em.find(
      SongRequestEntity,
      { stationId, state: { $in: ['waiting', 'placed'] } },
      { orderBy: { atMs: 'asc' }, limit: MOST_WAITING },
    );
    const aired = await this.airedLately(stationId, nowMs);
    // What was placed in a log is placed anew.
    const inQueue = (row: SongRequestRecord): boolean => row.state === 'placed' && !row.date;
    const placed = open.filter(inQueue).length;
    let room = Math.max(0, perHour - aired - placed);
    return open.flatMap((row): WaitingRequest[] => {
      const { id, itemId, told } = row;
      if (!itemId || (!inQueue(row) && room-- <= 0)) return [];
      return [{ id, itemId, rowId: `q${id}-${told.length}` }];
    });
  }

  private airedLately(stationId: string, nowMs: number): Promise<number> {
    return this.store.read.count(SongRequestEntity, { stationId, airedMs: { $gt: nowMs - HOUR_MS } });
  }

  /** Whether an hour may hold one more. */
  async hasRoom(stationId: string, nowMs: number): Promise<boolean> {
    const { perHour } = await this.settings.of(stationId);
    const placed = await this.store.read.count(SongRequestEntity, { stationId, state: 'placed' });
    return placed + (await this.airedLately(stationId, nowMs)) < perHour;
  }

  /** Takes down what each listener is told now, where it is not what they were told last. */
  async answerAll(answers: Answers, nowMs: number): Promise<void> {
    for (const [id, { answer, rowId }] of Object.entries(answers)) {
      const row = await this.find(id);
      if (row) await this.tell(row, answer, { rowId, nowMs });
    }
  }

  async tell(
    row: SongRequestRecord,
    answer: RequestAnswer,
    {
      rowId,
      nowMs,
      date = null,
    }: { readonly rowId: string | null; readonly nowMs: number; readonly date?: string | null },
  ): Promise<SongRequestRecord> {
    const last = row.told.at(-1);
    const isNews = !last || isAnswerStale(last.answer, answer);
    const told = isNews ? [...row.told, { atMs: nowMs, answer }] : row.told;
    const state = stateAfter(row, answer, nowMs);
    if (!isNews && state === row.state && (row.rowId ?? null) === rowId) return row;
    const after = { ...row, told, state, rowId, date };
    await this.write(row.stationId, (em) =>
      em.nativeUpdate(SongRequestEntity, { id: row.id }, { told, state, rowId, date }),
    );
    if (isNews) this.onTold(after);
    return after;
  }

  /** Takes down that rows have begun: what they were asked for has aired, where they are still that song. */
  async noteBegun(stationId: string, begun: readonly BegunRow[]): Promise<void> {
    if (begun.length === 0) return;
    const byId = new Map(begun.map((row) => [row.id, row]));
    const placed = await this.store.read.find(SongRequestEntity, { stationId, state: 'placed' });
    for (const { id, rowId, date, itemId } of placed) {
      const row = rowId ? byId.get(date ? entryOfDate(date, rowId) : rowId) : undefined;
      if (!row) continue;
      const item = await this.store.read.findOne(ItemEntity, { id: itemId ?? '' });
      if (foldText(item?.title ?? '') !== foldText(row.title)) continue;
      const airedMs = row.startMs;
      await this.write(stationId, (em) => em.nativeUpdate(SongRequestEntity, { id }, { state: 'aired', airedMs }));
    }
  }

  private async write(stationId: string, work: (em: Store['read']) => Promise<unknown>): Promise<void> {
    await this.store.write({ clientId: 'requests', stationId, label: 'Requests' }, async (changes) => {
      await work(changes.em);
      changes.note('songRequest');
    });
  }
}

function stateAfter({ atMs }: SongRequestRecord, { is }: RequestAnswer, nowMs: number): RequestState {
  if (is === 'planned') return 'placed';
  if (is === 'not in library' || is === 'not on air' || is === 'too many') return 'refused';
  return nowMs - atMs > PATIENCE_MS ? 'given up' : 'waiting';
}
