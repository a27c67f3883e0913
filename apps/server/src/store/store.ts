import type { Announcement } from '@fuller/contracts';
import { Mutex } from 'async-mutex';
import { markAllStale, markStale } from '../db/dialect/sqlite/figures.js';
import type { Em, Orm } from '../db/orm.js';
import { BatchWriter } from './batch-writer.js';
import { ChangeSet, type NewActivity } from './change-set.js';
import { changedThings } from './changed-things.js';
import { Undoing } from './undoing.js';
import type { WriteDoor, Written } from './write-door.js';

export type { Written } from './write-door.js';

/** Whose turn it is to write. */
export interface WriteTurns {
  runExclusive<T>(work: () => Promise<T>): Promise<T>;
}

/** The database behind one door: reads on forks, writes one after the other, each a transaction and an activity. */
export class Store implements WriteDoor {
  /** Writes too long for one transaction. */
  readonly batches: BatchWriter;
  readonly undoing: Undoing;

  constructor(
    private readonly orm: Orm,
    readonly now: () => number,
    private readonly announce: (event: Announcement) => void,
    private readonly committed: (things: ReadonlySet<string>, logs: ChangeSet['logs']) => void = () => {},
    private readonly writing: WriteTurns = new Mutex(),
  ) {
    this.batches = new BatchWriter(this);
    this.undoing = new Undoing(this, this.batches);
  }

  get read(): Em {
    return this.orm.em.fork();
  }

  async write<T>(
    about: NewActivity,
    work: (changes: ChangeSet) => Promise<T>,
    undoes: string | null = null,
  ): Promise<Written<T>> {
    const done = await this.quietly(async (em) => {
      const changes = new ChangeSet(em, about, this.now());
      const value = await work(changes);
      await markStale(em, changes.logs);
      const changed = await changes.finish(undoes);
      return { changes, value, activityId: changed ? changes.activityId : null };
    });
    this.noteWritten(about, done.changes.things, done.changes.logs);
    return { activityId: done.activityId, label: about.label, value: done.value, left: done.changes.left };
  }

  noteWritten(about: NewActivity, things: ReadonlySet<string>, logs: ChangeSet['logs']): void {
    this.committed(things, logs);
    const what = changedThings(things);
    if (what.length > 0 && !about.tellsItself)
      this.announce({ type: 'changed', stationId: about.stationId, clientId: about.clientId, what });
  }

  /** Tells everybody of something that has happened. */
  tell(event: Announcement): void {
    this.announce(event);
  }

  quietly<T>(work: (em: Em) => Promise<T>): Promise<T> {
    return this.writing.runExclusive(() => this.orm.em.fork().transactional(work));
  }

  /** Writes what nobody undoes, such as the plays of a demo; whatever is kept in memory is read again after it. */
  async writeUnrecorded<T>(work: (em: Em) => Promise<T>): Promise<T> {
    const value = await this.quietly(async (em) => {
      const done = await work(em);
      await markAllStale(em);
      return done;
    });
    this.forgetKept();
    return value;
  }

  forgetKept(): void {
    this.committed(new Set(), []);
  }
}
