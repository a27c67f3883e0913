import { LockMode } from '@mikro-orm/core';
import { isPostgres } from '../db/dialect/dialect.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { ActivityEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { insertRows, rowsWithIds } from '../db/queries/rows.js';
import { ENTITY_KINDS, nameOf, VISIBLE, type EntityKind, type Row } from './entity-kinds.js';
import { whoAsks } from './asking.js';
import { isSame } from './same-value.js';

export { isEntityKind, type EntityKind, type Row } from './entity-kinds.js';

export interface NewActivity {
  readonly clientId: string;
  readonly stationId: string | null;
  readonly label: string;
  /** True where the writer tells others itself what has changed. */
  readonly tellsItself?: boolean;
}

export interface RecordedChange {
  readonly thing: string;
  readonly thingId: string;
  readonly before: unknown;
  readonly after: unknown;
}

const BATCH = 500;

/**
 * The changes of one activity, written in one transaction: each row change is carried out and
 * recorded with what was there before, so that the whole can be undone.
 */
export class ChangeSet {
  private readonly changes: RecordedChange[] = [];
  private readonly noted = new Set<string>();
  /** Logs that were written, by station and date. */
  readonly logs: { readonly stationId: string; readonly date: string }[] = [];
  /** What an undo had to leave as it is, in words. */
  readonly left: string[] = [];

  constructor(
    readonly em: Em,
    readonly about: NewActivity,
    private readonly atMs: number,
    readonly activityId: string = newId(),
  ) {}

  get things(): ReadonlySet<string> {
    return new Set([...this.noted, ...this.changes.map((change) => change.thing)]);
  }

  /** The date of the change, UTC. */
  get date(): string {
    return new Date(this.atMs).toISOString().slice(0, 10);
  }

  /** Takes note of a change that nobody undoes, such as what a device tells. */
  note(thing: string): void {
    this.noted.add(thing);
  }

  /** The row as plain values, or null. */
  async find(thing: EntityKind, id: string): Promise<Row | null> {
    const found = await this.em.findOne(ENTITY_KINDS[thing] as never, { id } as never, {
      disableIdentityMap: true,
      // Nobody else may change it between this and what is written, where others write at the same time.
      ...(this.em.isInTransaction() && isPostgres(this.em) ? { lockMode: LockMode.PESSIMISTIC_WRITE } : {}),
    });
    return found ? ({ ...(found as object) } as Row) : null;
  }

  /** A row that the activity's station sees: its own, or one of the group. Throws NOT_FOUND for any other. */
  async mustSee(thing: keyof typeof VISIBLE, id: string): Promise<Row> {
    const row = await this.find(thing, id);
    const owner = row?.['stationId'] ?? null;
    if (!row || (owner !== null && this.about.stationId !== null && owner !== this.about.stationId))
      throw notFound(VISIBLE[thing], id);
    return row;
  }

  async insert(thing: EntityKind, rows: readonly Row[], onBatch?: (written: number) => void): Promise<void> {
    for (let from = 0; from < rows.length; from += BATCH) {
      const batch = rows.slice(from, from + BATCH);
      await insertRows(this.em, nameOf(thing), batch);
      onBatch?.(from + batch.length);
      await breathe();
    }
    for (const row of rows) this.record({ thing, thingId: row.id, before: null, after: row });
  }

  /**
   * Changes some fields of a row. With a revision, refuses when the row has a newer one. A row
   * whose fields already have the values is left alone, its revision too.
   */
  async update(thing: EntityKind, id: string, patch: Record<string, unknown>, revision?: number): Promise<void> {
    const row = await this.find(thing, id);
    if (!row) throw notFound(thing, id);
    if (revision !== undefined && row['revision'] !== revision) throw staleRevision(thing);
    const changed = Object.entries(patch).filter(([key, value]) => value !== undefined && !isSame(row[key], value));
    if (changed.length === 0) return;
    const after = Object.fromEntries(changed);
    const before = Object.fromEntries(changed.map(([key]) => [key, row[key]]));
    const bump = typeof row['revision'] === 'number' ? { revision: row['revision'] + 1 } : {};
    await this.em.nativeUpdate(ENTITY_KINDS[thing] as never, { id } as never, { ...after, ...bump } as never);
    this.record({ thing, thingId: id, before, after });
  }

  async remove(thing: EntityKind, id: string): Promise<void> {
    const row = await this.find(thing, id);
    if (!row) throw notFound(thing, id);
    await this.em.nativeDelete(ENTITY_KINDS[thing] as never, { id } as never);
    this.record({ thing, thingId: id, before: row, after: null });
  }

  touchLog(stationId: string, date: string): void {
    this.logs.push({ stationId, date });
  }

  leave(words: string): void {
    this.left.push(words);
  }

  record(change: RecordedChange): void {
    this.changes.push(change);
  }

  /** Writes the activity; false when nothing was changed. */
  async finish(undoes: string | null = null): Promise<boolean> {
    if (this.changes.length === 0) return false;
    await this.begin(undoes);
    await this.flush();
    return true;
  }

  /** Writes the activity itself. */
  async begin(undoes: string | null = null, { unfinished = false } = {}): Promise<void> {
    const { clientId, stationId, label } = this.about;
    await this.em.insert(ActivityEntity, {
      id: this.activityId,
      atMs: this.atMs,
      clientId,
      ...whoAsks(),
      stationId,
      label,
      undoes,
      undoneBy: null,
      unfinished,
    });
  }

  /** Writes what was recorded so far; how many changes that were. */
  async flush(): Promise<number> {
    for (let from = 0; from < this.changes.length; from += BATCH) {
      const rows = this.changes.slice(from, from + BATCH).map((change) => ({ activityId: this.activityId, ...change }));
      await insertRows(this.em, 'ActivityChange', rows);
      await breathe();
    }
    return this.changes.length;
  }

  /** Carries out the opposite of recorded row changes of one thing; refuses when a row has changed since. */
  async revert(thing: EntityKind, changes: readonly RecordedChange[], touched: Touched = 'refuse'): Promise<void> {
    const lost = changes.filter((change) => change.after === null);
    await this.insert(
      thing,
      lost.map((change) => change.before as Row),
    );
    const made = changes.filter((change) => change.before === null);
    for (let from = 0; from < made.length; from += BATCH)
      await this.unmake(thing, made.slice(from, from + BATCH), touched);
    for (const change of changes) {
      if (change.before === null || change.after === null) continue;
      const row = await this.find(thing, change.thingId);
      if (touched === 'leave' && !isUntouched(row, change.after as Row)) continue;
      refuseTouched(thing, row, change.after as Row);
      await this.update(thing, change.thingId, change.before as Row);
    }
  }

  /** Refuses where rows that were made or changed have been changed again, or deleted, since. */
  async refuseChanged(thing: EntityKind, changes: readonly RecordedChange[]): Promise<void> {
    const there = changes.filter(({ after }) => after !== null);
    const ids = there.map((one) => one.thingId);
    const rows = await rowsWithIds(this.em, nameOf(thing), ids);
    const byId = new Map(rows.map((row) => [(row as Row).id, { ...(row as Row) }]));
    for (const { thingId, after } of there) refuseTouched(thing, byId.get(thingId) ?? null, after as Row);
  }

  /** Deletes rows that were made, all at once. */
  private async unmake(thing: EntityKind, recorded: readonly RecordedChange[], touched: Touched): Promise<void> {
    let made = recorded;
    const ids = made.map((change) => change.thingId);
    const rows = await rowsWithIds(this.em, nameOf(thing), ids);
    const byId = new Map(rows.map((row) => [(row as Row).id, { ...(row as Row) }]));
    if (touched === 'leave')
      made = made.filter(({ thingId, after }) => isUntouched(byId.get(thingId) ?? null, after as Row));
    for (const { thingId, after } of made) refuseTouched(thing, byId.get(thingId) ?? null, after as Row);
    await this.em.nativeDelete(
      ENTITY_KINDS[thing] as never,
      { id: { $in: made.map(({ thingId }) => thingId) } } as never,
    );
    for (const { thingId, after } of made)
      this.record({ thing, thingId, before: byId.get(thingId) ?? after, after: null });
  }
}

export function staleRevision(thing: string): FullerError {
  return new FullerError(
    'CONFLICT',
    `Somebody else changed this ${thing} while you had it open. Nothing of theirs was overwritten.`,
  );
}

/** The driver works without ever waiting, so long writes let requests have their turn between batches. */
export function breathe(): Promise<void> {
  return new Promise((resolve) => setImmediate(resolve));
}

/** What becomes of rows that have been changed since: nothing of the whole is undone, or they alone stay. */
export type Touched = 'refuse' | 'leave';

function isUntouched(row: Row | null, after: Row): boolean {
  return row !== null && Object.entries(after).every(([key, value]) => key === 'revision' || isSame(row[key], value));
}

function refuseTouched(thing: EntityKind, row: Row | null, after: Row): void {
  if (!isUntouched(row, after))
    throw new FullerError('CANNOT_UNDO', `The ${thing} it changed has been changed again since.`);
}
