import type { ChangedThing, ServerEvent } from '@fuller/contracts';
import { Mutex } from 'async-mutex';
import { ActivityChangeEntity, ActivityEntity } from '../db/entities/index.js';
import type { Em, Orm } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { ChangeSet, THINGS, type About, type RecordedChange, type Thing } from './change-set.js';

export interface Written<T> {
  /** Null when nothing had to be changed. */
  readonly activityId: string | null;
  readonly label: string;
  readonly value: T;
}

export type RevertHandler = (changes: ChangeSet, change: RecordedChange) => Promise<void>;

/** The database behind one door: reads on forks, writes one after the other, each a transaction and an activity. */
export class Store {
  private readonly writing = new Mutex();
  private readonly reverts = new Map<string, RevertHandler>();

  constructor(
    private readonly orm: Orm,
    private readonly now: () => number,
    private readonly announce: (event: ServerEvent) => void,
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
    about: About,
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
    const what = changedThings(done.changes.things);
    if (what.length) this.announce({ type: 'changed', stationId: about.stationId, clientId: about.clientId, what });
    return { activityId: done.activityId, label: about.label, value: done.value };
  }

  /** Undoes an activity as an activity of its own; undoing that one is redoing. */
  async undo(activityId: string, clientId: string): Promise<Written<void>> {
    const activity = await this.read.findOne(ActivityEntity, { id: activityId });
    if (!activity) throw notFound('activity', activityId);
    if (activity.undoneBy) throw new FullerError('CANNOT_UNDO', `“${activity.label}” is undone already.`);
    const about = { clientId, stationId: activity.stationId ?? null, label: labelOfUndo(activity.label) };
    return this.write(
      about,
      async (changes) => {
        const recorded = await changes.em.find(
          ActivityChangeEntity,
          { activityId },
          { orderBy: { id: 'desc' }, disableIdentityMap: true },
        );
        try {
          for (const run of runsOfOneThing(recorded as RecordedChange[])) await this.revert(changes, run);
        } catch (error) {
          if (isForeignKeyFault(error)) {
            throw new FullerError(
              'CANNOT_UNDO',
              `“${activity.label}” cannot be undone: something made since depends on it.`,
            );
          }
          throw error;
        }
        await changes.em.nativeUpdate(ActivityEntity, { id: activityId }, { undoneBy: changes.activityId });
      },
      activityId,
    );
  }

  private async revert(changes: ChangeSet, run: readonly RecordedChange[]): Promise<void> {
    const { thing } = run[0]!;
    const handler = this.reverts.get(thing);
    if (handler) for (const change of run) await handler(changes, change);
    else if (thing in THINGS) await changes.revert(thing as Thing, run);
    else throw new Error(`no way to undo a change of ${thing}`);
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
