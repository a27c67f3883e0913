import { isConstraintFault, thingsChangedBy } from '../db/queries/activity.js';
import { ActivityChangeEntity, ActivityEntity, type ActivityRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { breathe, ChangeSet, isEntityKind, type NewActivity, type RecordedChange } from './change-set.js';
import { LATEST, recordedBefore, runsOf, type Run } from './recorded.js';
import type { BatchWriter } from './batch-writer.js';
import type { WriteDoor, Written } from './write-door.js';

/** Undoes a change that was made at an instant, UTC epoch milliseconds. */
export type RevertHandler = (changes: ChangeSet, change: RecordedChange, madeAtMs: number) => Promise<void>;

/** So many changes are undone at once; more go in batches. */
const MOST_AT_ONCE = 1000;
const UNDO = 'Undo: ';

/** Undoes activities, each as an activity of its own; undoing that one is redoing. */
export class Undoing {
  private readonly handlers = new Map<string, RevertHandler>();

  constructor(
    private readonly store: WriteDoor,
    private readonly batches: BatchWriter,
  ) {}

  /** How to undo changes of a thing that is not a plain row. */
  onRevert(thing: string, handler: RevertHandler): void {
    this.handlers.set(thing, handler);
  }

  /** Whether undoing an activity means many rows and nothing that needs more than the rows themselves. */
  async isLong(activityId: string): Promise<boolean> {
    const em = this.store.read;
    if ((await em.count(ActivityChangeEntity, { activityId })) <= MOST_AT_ONCE) return false;
    const things = await thingsChangedBy(em, activityId);
    return things.every((thing) => isEntityKind(thing) && !this.handlers.has(thing));
  }

  async undo(activityId: string, clientId: string): Promise<Written<void>> {
    const em = this.store.read;
    const activity = await em.findOne(ActivityEntity, { id: activityId });
    if (!activity) throw notFound('activity', activityId);
    const { label, stationId = null, unfinished, undoneBy } = activity;
    if (unfinished) throw new FullerError('CANNOT_UNDO', `“${label}” is still being written.`);
    if (undoneBy) throw undoneAlready(label);
    const about = { clientId, stationId, label: labelOfUndo(label) };
    try {
      if ((await em.count(ActivityChangeEntity, { activityId })) > MOST_AT_ONCE)
        return await this.inBatches(activity, about);
      return await this.store.write(
        about,
        async (changes) => {
          await markUndone(changes, activity);
          const recorded = await recordedBefore(changes.em, activityId, LATEST);
          for (const run of runsOf(recorded)) await this.revert(changes, run, activity.atMs);
        },
        activityId,
      );
    } catch (error) {
      if (!isConstraintFault(error)) throw error;
      throw new FullerError('CANNOT_UNDO', `“${label}” cannot be undone: something made since depends on it.`);
    }
  }

  private async inBatches(activity: ActivityRecord, about: NewActivity): Promise<Written<void>> {
    await this.refuseChanged(activity.id);
    return this.batches.write(
      about,
      async ({ batch }) => {
        await batch((changes) => markUndone(changes, activity));
        let before = LATEST;
        for (let more = true; more;) {
          more = await batch(async (changes) => {
            const recorded = await recordedBefore(changes.em, activity.id, before);
            for (const run of runsOf(recorded)) await this.revert(changes, run, activity.atMs);
            before = recorded.at(-1)?.id ?? 0;
            return recorded.length > 0;
          });
        }
      },
      activity.id,
    );
  }

  /** Refuses a long undo before it begins, where anything has been changed since. */
  private async refuseChanged(activityId: string): Promise<void> {
    const em = this.store.read;
    const changes = new ChangeSet(em, { clientId: '', stationId: null, label: '' }, 0);
    // What an activity itself changed twice is known by the later change.
    const seen = new Set<string>();
    for (let before = LATEST; before > 0;) {
      const recorded = await recordedBefore(em, activityId, before);
      before = recorded.at(-1)?.id ?? 0;
      const last = recorded.filter(({ thing, thingId }) => !seen.has(`${thing} ${thingId}`));
      for (const { thing, thingId } of recorded) seen.add(`${thing} ${thingId}`);
      for (const { thing, changes: run } of runsOf(last))
        if (isEntityKind(thing)) await changes.refuseChanged(thing, run);
      await breathe();
    }
  }

  private async revert(changes: ChangeSet, { thing, changes: run }: Run, madeAtMs: number): Promise<void> {
    const handler = this.handlers.get(thing);
    if (handler) for (const change of run) await handler(changes, change, madeAtMs);
    else if (isEntityKind(thing)) await changes.revert(thing, run);
    else throw new Error(`no way to undo a change of ${thing}`);
  }
}

async function markUndone({ em, activityId }: ChangeSet, { id, label }: ActivityRecord): Promise<void> {
  const marked = await em.nativeUpdate(ActivityEntity, { id, undoneBy: null }, { undoneBy: activityId });
  if (marked === 0) throw undoneAlready(label);
}

function undoneAlready(label: string): FullerError {
  return new FullerError('CANNOT_UNDO', `“${label}” is undone already.`);
}

/** Undoing an undo is told as the thing itself, so labels never pile up. */
function labelOfUndo(label: string): string {
  return label.startsWith(UNDO) ? label.slice(UNDO.length) : UNDO + label;
}
