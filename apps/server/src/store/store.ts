import type { Announcement } from '@fuller/contracts';
import { Mutex } from 'async-mutex';
import { markAllStale, markStale } from '../db/queries/figures.js';
import { isPostgres } from '../db/dialect/dialect.js';
import { Claims } from '../db/dialect/postgres/claims.js';
import { transactionInTurn, type Turn } from '../db/dialect/postgres/turn.js';
import type { Em, Orm } from '../db/orm.js';
import { BatchWriter } from './batch-writer.js';
import { ChangeSet, type NewActivity } from './change-set.js';
import { changedThings } from './changed-things.js';
import type { Others, ToldToOthers } from './others.js';
import { Undoing } from './undoing.js';
import type { WriteDoor, Written } from './write-door.js';

export type { Written } from './write-door.js';

/** Whose turn it is to write. */
export interface WriteTurns {
  runExclusive<T>(work: () => Promise<T>): Promise<T>;
}

/**
 * The database behind one door: reads on forks, writes in turns, each a transaction and an activity. A file has one turn for
 * all of it; a database that several servers share has one for each station.
 */
export class Store implements WriteDoor {
  /** Writes too long for one transaction. */
  readonly batches: BatchWriter;
  readonly undoing: Undoing;
  private readonly claims: Claims | null;

  constructor(
    private readonly orm: Orm,
    readonly now: () => number,
    private readonly announce: (event: Announcement) => void,
    private readonly committed: (things: ReadonlySet<string>, logs: ChangeSet['logs']) => void = () => {},
    private readonly writing: WriteTurns = new Mutex(),
    private readonly others: Others | null = null,
  ) {
    this.claims = isPostgres(orm.em) ? new Claims(orm.config.get('clientUrl')!, 'work') : null;
    this.batches = new BatchWriter(this);
    this.undoing = new Undoing(this, this.batches);
  }

  underWay<T>(id: string, work: () => Promise<T>): Promise<T> {
    return this.claims ? this.claims.while(id, work) : work();
  }

  async isLeft(id: string): Promise<boolean> {
    return this.claims ? this.claims.isFree(id) : true;
  }

  /** Whether other servers may write to the same database. */
  get shared(): boolean {
    return this.others !== null;
  }

  get read(): Em {
    return this.orm.em.fork();
  }

  async write<T>(
    about: NewActivity,
    work: (changes: ChangeSet) => Promise<T>,
    undoes: string | null = null,
  ): Promise<Written<T>> {
    const turn = about.stationId === null ? 'group' : { stationId: about.stationId };
    const done = await this.inTurn(turn, async (em) => {
      const changes = new ChangeSet(em, about, this.now());
      const value = await work(changes);
      await markStale(em, changes.logs);
      const changed = await changes.finish(undoes);
      await this.others?.tellWith(em, told(about, changes.things, changes.logs));
      return { changes, value, activityId: changed ? changes.activityId : null };
    });
    this.noteHere(about, done.changes.things, done.changes.logs);
    return { activityId: done.activityId, label: about.label, value: done.value, left: done.changes.left };
  }

  noteWritten(about: NewActivity, things: ReadonlySet<string>, logs: ChangeSet['logs']): void {
    this.noteHere(about, things, logs);
    this.others?.tell(told(about, things, logs));
  }

  private noteHere(about: NewActivity, things: ReadonlySet<string>, logs: ChangeSet['logs']): void {
    this.committed(things, logs);
    const event = changeEvent(about, things);
    if (event) this.announce(event);
  }

  /** Tells everybody of something that has happened. */
  tell(event: Announcement): void {
    this.announce(event);
    this.others?.tell({ event });
  }

  quietly<T>(work: (em: Em) => Promise<T>): Promise<T> {
    return this.inTurn('rows', work);
  }

  private inTurn<T>(turn: Turn, work: (em: Em) => Promise<T>): Promise<T> {
    const em = this.orm.em.fork();
    if (isPostgres(em)) return transactionInTurn(em, turn, work);
    return this.writing.runExclusive(() => em.transactional(work));
  }

  /** Writes what nobody undoes, such as the plays of a demo; whatever is kept in memory is read again after it. */
  async writeUnrecorded<T>(work: (em: Em) => Promise<T>): Promise<T> {
    const value = await this.inTurn('group', async (em) => {
      const done = await work(em);
      await markAllStale(em);
      return done;
    });
    this.forgetKept();
    return value;
  }

  /** Tells other servers alone that they have to read some things again. */
  tellOthers(things: readonly string[]): void {
    this.others?.tell({ changed: { things, logs: [] } });
  }

  forgetKept(): void {
    this.committed(new Set(), []);
    this.others?.tell({ changed: { things: [], logs: [] } });
  }
}

function changeEvent(about: NewActivity, things: ReadonlySet<string>): Announcement | null {
  const what = changedThings(things);
  if (what.length === 0 || about.tellsItself) return null;
  return { type: 'changed', stationId: about.stationId, clientId: about.clientId, what };
}

function told(about: NewActivity, things: ReadonlySet<string>, logs: ChangeSet['logs']): ToldToOthers {
  const event = changeEvent(about, things);
  return { changed: { things: [...things], logs }, ...(event && { event }) };
}
