import { ActivityChangeEntity, ActivityEntity, type ActivityRecord } from '../db/entities/index.js';
import { newId } from '../ids.js';
import { breathe, ChangeSet, isEntityKind, type NewActivity } from './change-set.js';
import { LATEST, recordedBefore, runsOf } from './recorded.js';
import type { WriteDoor, Written } from './write-door.js';

/** A long write: every batch is a transaction of its own, and others have their turn between two. */
export interface Batches {
  batch<T>(work: (changes: ChangeSet) => Promise<T>): Promise<T>;
}

const TAKING_BACK: NewActivity = { clientId: 'server', stationId: null, label: 'Take back' };

/**
 * Writes in batches as one activity, which is there whole in the end or not at all: what fails, or was stopped halfway,
 * is taken back, batch by batch. Others see what is written on the way.
 */
export class BatchWriter {
  /** What is being written here, by activity. */
  private readonly underWay = new Set<string>();

  constructor(private readonly store: WriteDoor) {}

  async write<T>(
    about: NewActivity,
    work: (batches: Batches) => Promise<T>,
    undoes: string | null = null,
  ): Promise<Written<T>> {
    const activityId = newId();
    this.underWay.add(activityId);
    try {
      return await this.store.underWay(activityId, () => this.inBatches(activityId, about, work, undoes));
    } finally {
      this.underWay.delete(activityId);
    }
  }

  /** Takes back what a stopped process or thread had begun to write; answers what that was. */
  async recover(): Promise<string[]> {
    const found = await this.store.read.find(ActivityEntity, { unfinished: true });
    const stopped: ActivityRecord[] = [];
    for (const one of found) if (!this.underWay.has(one.id) && (await this.store.isLeft(one.id))) stopped.push(one);
    for (const { id } of stopped) await this.takeBack(id);
    if (stopped.length > 0) this.store.forgetKept();
    return stopped.map(({ label }) => label);
  }

  private async inBatches<T>(
    activityId: string,
    about: NewActivity,
    work: (batches: Batches) => Promise<T>,
    undoes: string | null,
  ): Promise<Written<T>> {
    const things = new Set<string>();
    let count = 0;
    await this.store.quietly((em) =>
      new ChangeSet(em, about, this.store.now(), activityId).begin(undoes, { unfinished: true }),
    );
    const batch = async <B>(one: (changes: ChangeSet) => Promise<B>): Promise<B> => {
      const { changes, value } = await this.store.quietly(async (em) => {
        const set = new ChangeSet(em, about, this.store.now(), activityId);
        const answer = await one(set);
        count += await set.flush();
        return { changes: set, value: answer };
      });
      for (const thing of changes.things) things.add(thing);
      await breathe();
      return value;
    };
    let value: T;
    try {
      value = await work({ batch });
    } catch (error) {
      await this.takeBack(activityId);
      // What others read in between may be of before.
      this.store.forgetKept();
      throw error;
    }
    await this.store.quietly(async (em) => {
      if (count > 0) await em.nativeUpdate(ActivityEntity, { id: activityId }, { unfinished: false });
      else await em.nativeDelete(ActivityEntity, { id: activityId });
    });
    // Told once: what is kept is not read again for every batch.
    this.store.noteWritten(about, things, []);
    return { activityId: count > 0 ? activityId : null, label: about.label, value, left: [] };
  }

  /** Undoes the batches of an activity and forgets it; rows that others have changed meanwhile stay. */
  private async takeBack(activityId: string): Promise<void> {
    for (;;) {
      const left = await this.store.quietly(async (em) => {
        const recorded = await recordedBefore(em, activityId, LATEST);
        const changes = new ChangeSet(em, TAKING_BACK, this.store.now(), activityId);
        for (const { thing, changes: run } of runsOf(recorded))
          if (isEntityKind(thing)) await changes.revert(thing, run, 'leave');
        if (recorded.length > 0)
          await em.nativeDelete(ActivityChangeEntity, { id: { $in: recorded.map(({ id }) => id) } });
        else {
          await em.nativeUpdate(ActivityEntity, { undoneBy: activityId }, { undoneBy: null });
          await em.nativeDelete(ActivityEntity, { id: activityId });
        }
        return recorded.length;
      });
      await breathe();
      if (left === 0) return;
    }
  }
}
