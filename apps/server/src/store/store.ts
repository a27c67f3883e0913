import type { ChangedThing, ServerEvent } from '@fuller/contracts';
import { Mutex } from 'async-mutex';
import { ActivityChangeEntity, ActivityEntity, SettingEntity } from '../db/entities/index.js';
import type { Em, Orm } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import {
  breathe,
  ChangeSet,
  ENTITY_KINDS,
  type NewActivity,
  type RecordedChange,
  type EntityKind,
} from './change-set.js';

export interface Written<T> {
  /** Null when nothing had to be changed. */
  readonly activityId: string | null;
  readonly label: string;
  readonly value: T;
  /** What an undo left as it is because others have changed it since, in words. */
  readonly left: readonly string[];
}

/** Undoes a change that was made at an instant, UTC epoch milliseconds. */
export type RevertHandler = (changes: ChangeSet, change: RecordedChange, madeAtMs: number) => Promise<void>;

/** A long write: every batch is a transaction of its own, and others have their turn between two. */
export interface Batches {
  batch<T>(work: (changes: ChangeSet) => Promise<T>): Promise<T>;
}

/** Marks an activity whose batches are not all written. */
const UNFINISHED = 'unfinished:';
/** So many changes are undone at once; more go in batches. */
const MOST_AT_ONCE = 1000;
const UNDO_BATCH = 1000;

/** Whose turn it is to write. */
export interface WriteTurns {
  runExclusive<T>(work: () => Promise<T>): Promise<T>;
}

/** The database behind one door: reads on forks, writes one after the other, each a transaction and an activity. */
export class Store {
  private readonly reverts = new Map<string, RevertHandler>();
  /** What is being written in batches here, by activity. */
  private readonly underWay = new Set<string>();

  constructor(
    private readonly orm: Orm,
    private readonly now: () => number,
    private readonly announce: (event: ServerEvent) => void,
    private readonly committed: (things: ReadonlySet<string>, logs: ChangeSet['logs']) => void = () => {},
    private readonly writing: WriteTurns = new Mutex(),
  ) {}

  get read(): Em {
    return this.orm.em.fork();
  }

  /** Runs a plain query and answers its rows. */
  async rows<T>(sql: string, parameters: readonly unknown[] = [], em: Em = this.orm.em.fork()): Promise<T[]> {
    return (await em.execute(sql, parameters as unknown[])) as T[];
  }

  /** How to undo changes of a thing that is not a plain row. */
  onRevert(thing: string, handler: RevertHandler): void {
    this.reverts.set(thing, handler);
  }

  async write<T>(
    about: NewActivity,
    work: (changes: ChangeSet) => Promise<T>,
    undoes: string | null = null,
  ): Promise<Written<T>> {
    const done = await this.writing.runExclusive(() =>
      this.orm.em.fork().transactional(async (em) => {
        const changes = new ChangeSet(em, about, this.now());
        const value = await work(changes);
        const changed = await changes.finish(undoes);
        return { changes, value, activityId: changed ? changes.activityId : null };
      }),
    );
    this.committed(done.changes.things, done.changes.logs);
    const what = changedThings(done.changes.things);
    if (what.length && !about.tellsItself)
      this.announce({ type: 'changed', stationId: about.stationId, clientId: about.clientId, what });
    return { activityId: done.activityId, label: about.label, value: done.value, left: done.changes.left };
  }

  /** Tells everybody of something that has happened. */
  tell(event: ServerEvent): void {
    this.announce(event);
  }

  /** Writes what is no change a person made, such as notes of work in progress; nothing is told of it. */
  quietly<T>(work: (em: Em) => Promise<T>): Promise<T> {
    return this.writing.runExclusive(() => this.orm.em.fork().transactional(work));
  }

  /** Writes what nobody undoes, such as the plays of a demo; whatever is kept in memory is read again after it. */
  async writeUnrecorded<T>(work: (em: Em) => Promise<T>): Promise<T> {
    const value = await this.quietly(work);
    this.committed(new Set(), []);
    return value;
  }

  /**
   * Writes in batches as one activity, which is there whole in the end or not at all: what fails, or was stopped
   * halfway, is taken back, batch by batch. Others see what is written on the way.
   */
  async writeInBatches<T>(
    about: NewActivity,
    work: (batches: Batches) => Promise<T>,
    undoes: string | null = null,
  ): Promise<Written<T>> {
    const activityId = newId();
    this.underWay.add(activityId);
    try {
      return await this.inBatches(activityId, about, work, undoes);
    } finally {
      this.underWay.delete(activityId);
    }
  }

  private async inBatches<T>(
    activityId: string,
    about: NewActivity,
    work: (batches: Batches) => Promise<T>,
    undoes: string | null,
  ): Promise<Written<T>> {
    const things = new Set<string>();
    let count = 0;
    await this.quietly(async (em) => {
      await new ChangeSet(em, about, this.now(), activityId).begin(undoes);
      await em.insert(SettingEntity, { id: UNFINISHED + activityId, value: { label: about.label } });
    });
    const batch = async <B>(one: (changes: ChangeSet) => Promise<B>): Promise<B> => {
      const { changes, value } = await this.writing.runExclusive(() =>
        this.orm.em.fork().transactional(async (em) => {
          const set = new ChangeSet(em, about, this.now(), activityId);
          const answer = await one(set);
          count += await set.flush();
          return { changes: set, value: answer };
        }),
      );
      for (const thing of changes.things) things.add(thing);
      await breathe();
      return value;
    };
    let value: T;
    try {
      value = await work({ batch });
    } catch (error) {
      await this.takeBack(activityId);
      throw error;
    } finally {
      // Told once: what others read in between may be of before, and is not read anew for every batch.
      this.committed(things.size > 0 ? things : new Set(['item']), []);
    }
    await this.quietly(async (em) => {
      await em.nativeDelete(SettingEntity, { id: UNFINISHED + activityId });
      if (count === 0) await em.nativeDelete(ActivityEntity, { id: activityId });
    });
    const what = changedThings(things);
    if (what.length) this.announce({ type: 'changed', stationId: about.stationId, clientId: about.clientId, what });
    return { activityId: count > 0 ? activityId : null, label: about.label, value, left: [] };
  }

  /** Takes back what a stopped process or thread had begun to write in batches; answers what that was. */
  async recover(): Promise<string[]> {
    const found = await this.read.find(SettingEntity, { id: { $like: `${UNFINISHED}%` } });
    const rows = found.filter(({ id }) => !this.underWay.has(id.slice(UNFINISHED.length)));
    for (const { id } of rows) await this.takeBack(id.slice(UNFINISHED.length));
    if (rows.length > 0) this.committed(new Set(), []);
    return rows.map(({ value }) => (value as { label: string }).label);
  }

  /** Undoes the batches of an activity and forgets it; rows that others have changed meanwhile stay. */
  private async takeBack(activityId: string): Promise<void> {
    const about = { clientId: 'server', stationId: null, label: 'Take back' };
    for (;;) {
      const left = await this.quietly(async (em) => {
        const recorded = await this.recordedOf(em, activityId, Number.MAX_SAFE_INTEGER);
        const changes = new ChangeSet(em, about, this.now(), activityId);
        for (const run of runsOfOneThing(recorded)) await changes.revert(run[0]!.thing as EntityKind, run, 'leave');
        if (recorded.length > 0)
          await em.nativeDelete(ActivityChangeEntity, { id: { $in: recorded.map(({ id }) => id) } });
        else {
          await em.nativeUpdate(ActivityEntity, { undoneBy: activityId }, { undoneBy: null });
          await em.nativeDelete(ActivityEntity, { id: activityId });
          await em.nativeDelete(SettingEntity, { id: UNFINISHED + activityId });
        }
        return recorded.length;
      });
      await breathe();
      if (left === 0) return;
    }
  }

  /** Changes of an activity before one, the latest first. */
  private async recordedOf(em: Em, activityId: string, before: number): Promise<(RecordedChange & { id: number })[]> {
    const rows = (await em.execute(
      `select id, thing, thing_id as thingId, "before", "after" from activity_change
       where activity_id = ? and id < ? order by id desc limit ${UNDO_BATCH}`,
      [activityId, before],
    )) as { id: number; thing: string; thingId: string; before: string | null; after: string | null }[];
    return rows.map((row) => ({ ...row, before: parsed(row.before), after: parsed(row.after) }));
  }

  /** Whether undoing an activity means many rows and nothing that needs more than the rows themselves. */
  async isLong(activityId: string): Promise<boolean> {
    if ((await this.read.count(ActivityChangeEntity, { activityId })) <= MOST_AT_ONCE) return false;
    const kinds = await this.rows<{ thing: string }>(
      'select distinct thing from activity_change where activity_id = ?',
      [activityId],
    );
    return kinds.every(({ thing }) => thing in ENTITY_KINDS && !this.reverts.has(thing));
  }

  /** Undoes an activity as an activity of its own; undoing that one is redoing. */
  async undo(activityId: string, clientId: string): Promise<Written<void>> {
    const activity = await this.read.findOne(ActivityEntity, { id: activityId });
    if (!activity) throw notFound('activity', activityId);
    if (await this.read.findOne(SettingEntity, { id: UNFINISHED + activityId }))
      throw new FullerError('CANNOT_UNDO', `“${activity.label}” is still being written.`);
    if (activity.undoneBy) throw new FullerError('CANNOT_UNDO', `“${activity.label}” is undone already.`);
    const about = { clientId, stationId: activity.stationId ?? null, label: labelOfUndo(activity.label) };
    const mark = async (changes: ChangeSet): Promise<void> => {
      const marked = await changes.em.nativeUpdate(
        ActivityEntity,
        { id: activityId, undoneBy: null },
        { undoneBy: changes.activityId },
      );
      if (marked === 0) throw new FullerError('CANNOT_UNDO', `“${activity.label}” is undone already.`);
    };
    try {
      if ((await this.read.count(ActivityChangeEntity, { activityId })) > MOST_AT_ONCE)
        return await this.undoInBatches(activityId, activity.atMs, about, mark);
      return await this.write(
        about,
        async (changes) => {
          await mark(changes);
          const recorded = await this.recordedOf(changes.em, activityId, Number.MAX_SAFE_INTEGER);
          for (const run of runsOfOneThing(recorded)) await this.revert(changes, run, activity.atMs);
        },
        activityId,
      );
    } catch (error) {
      if (!isForeignKeyFault(error)) throw error;
      throw new FullerError('CANNOT_UNDO', `“${activity.label}” cannot be undone: something made since depends on it.`);
    }
  }

  private async undoInBatches(
    activityId: string,
    madeAtMs: number,
    about: NewActivity,
    mark: (changes: ChangeSet) => Promise<void>,
  ): Promise<Written<void>> {
    await this.refuseChanged(activityId);
    return this.writeInBatches(
      about,
      async ({ batch }) => {
        await batch(mark);
        let before = Number.MAX_SAFE_INTEGER;
        for (let more = true; more;) {
          more = await batch(async (changes) => {
            const recorded = await this.recordedOf(changes.em, activityId, before);
            for (const run of runsOfOneThing(recorded)) await this.revert(changes, run, madeAtMs);
            before = recorded.at(-1)?.id ?? 0;
            return recorded.length > 0;
          });
        }
      },
      activityId,
    );
  }

  /** Refuses a long undo before it begins, where anything has been changed since. */
  private async refuseChanged(activityId: string): Promise<void> {
    const em = this.read;
    const changes = new ChangeSet(em, { clientId: '', stationId: null, label: '' }, 0);
    // What an activity itself changed twice is known by the later change.
    const seen = new Set<string>();
    for (let before = Number.MAX_SAFE_INTEGER; ;) {
      const recorded = await this.recordedOf(em, activityId, before);
      if (recorded.length === 0) return;
      before = recorded.at(-1)!.id;
      const last = recorded.filter(({ thing, thingId }) => !seen.has(`${thing} ${thingId}`));
      for (const { thing, thingId } of recorded) seen.add(`${thing} ${thingId}`);
      for (const run of runsOfOneThing(last))
        if (run[0]!.thing in ENTITY_KINDS) await changes.refuseChanged(run[0]!.thing as EntityKind, run);
      await breathe();
    }
  }

  private async revert(changes: ChangeSet, run: readonly RecordedChange[], madeAtMs: number): Promise<void> {
    const { thing } = run[0]!;
    const handler = this.reverts.get(thing);
    if (handler) for (const change of run) await handler(changes, change, madeAtMs);
    else if (thing in ENTITY_KINDS) await changes.revert(thing as EntityKind, run);
    else throw new Error(`no way to undo a change of ${thing}`);
  }
}

function parsed(json: string | null): unknown {
  if (json === null) return null;
  try {
    return JSON.parse(json);
  } catch {
    throw new FullerError('CANNOT_UNDO', 'What was changed cannot be read any more, so it cannot be undone.');
  }
}

/** Changes that follow each other and are alike, so that they can be undone together; order is kept between runs. */
function runsOfOneThing(changes: readonly RecordedChange[]): RecordedChange[][] {
  const kindOf = ({ thing, before, after }: RecordedChange): string => `${thing} ${before === null} ${after === null}`;
  const runs: RecordedChange[][] = [];
  for (const change of changes) {
    const run = runs.at(-1);
    if (run && kindOf(run[0]!) === kindOf(change)) run.push(change);
    else runs.push([change]);
  }
  return runs;
}

const UNDO = 'Undo: ';

/** Undoing an undo is told as the thing itself, so labels never pile up. */
function labelOfUndo(label: string): string {
  return label.startsWith(UNDO) ? label.slice(UNDO.length) : UNDO + label;
}

function isForeignKeyFault(error: unknown): boolean {
  return error instanceof Error && /FOREIGN KEY|UNIQUE constraint/i.test(error.message);
}

const THING_GROUPS: Readonly<Record<string, readonly ChangedThing[]>> = {
  item: ['library', 'catalogue'],
  placement: ['library', 'catalogue'],
  pool: ['library'],
  artist: ['library'],
  artistAlias: ['library'],
  tagFamily: ['library'],
  setting: ['library'],
  categoryGroup: ['catalogue'],
  category: ['catalogue', 'library'],
  clock: ['catalogue'],
  week: ['catalogue'],
  show: ['catalogue'],
  datePlan: ['catalogue'],
  rule: ['catalogue', 'logs'],
  log: ['logs'],
  handOver: ['hand-over', 'logs'],
};

function changedThings(things: ReadonlySet<string>): ChangedThing[] {
  return [...new Set([...things].flatMap((thing) => THING_GROUPS[thing] ?? []))];
}
