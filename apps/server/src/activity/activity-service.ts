import type { Actor } from '../actor.js';
import type { ActivityChanges, ActivityRow, ActivitySettings, ENDPOINTS, OutputOf } from '@fuller/contracts';
import { UNWATCHED } from '../jobs/job-runner.js';
import type { LongWork } from '../writers/long-tasks.js';
import { forgetActivities, latestActivities, thingsChangedBy } from '../db/queries/activity.js';
import { ActivityChangeEntity, ActivityEntity, ActivitySettingEntity, StationEntity } from '../db/entities/index.js';
import { breathe } from '../store/change-set.js';
import { recordedFirst } from '../store/recorded.js';
import { changeWords } from './change-words.js';
import { FullerError, notFound } from '../errors.js';
import type { Caller } from '../people/caller.js';
import type { Store, Written } from '../store/store.js';

const DAY_MS = 86_400_000;
/** So long activities are kept where nobody has set it. */
const KEPT_DAYS = 400;
const SETTING = 'activity';
const SHOWN_CHANGES = 100;
const FORGOTTEN_AT_ONCE = 200;

/** Who changed what, when. */
export class ActivityService {
  constructor(
    private readonly store: Store,
    private readonly work: LongWork,
  ) {}

  /** The station an activity was at; null where it was at none, or there is no such activity. */
  async stationOf(id: string): Promise<string | null> {
    return (await this.store.read.findOne(ActivityEntity, { id }))?.stationId ?? null;
  }

  /**
   * Undoes an activity; a long one where it holds up nobody. Who may not change logs undoes what is their own alone,
   * and accounts are the business of those who may change them.
   */
  async undo({ clientId }: Actor, caller: Caller, id: string): Promise<Written<void>> {
    const activity = await this.store.read.findOne(ActivityEntity, { id });
    const own = caller.personId !== null && activity?.personId === caller.personId;
    if (activity && !own && !caller.may('logs', activity.stationId ?? null))
      throw new FullerError('FORBIDDEN', `“${activity.label}” was done by somebody else; ask a director to undo it.`);
    if (!caller.may('people') && (await thingsChangedBy(this.store.read, id)).includes('person'))
      throw new FullerError('FORBIDDEN', 'Accounts are changed by a director of every station.');
    if (await this.store.undoing.isLong(id)) return this.work.run('undo', [id, clientId], UNWATCHED);
    return this.store.undoing.undo(id, clientId);
  }

  /** The latest changes that somebody may see: of their stations and, for who may change accounts, of none. */
  async latest(
    caller: Caller,
    { limit, station, client, person, words, from, to, before }: OutputOf<typeof ENDPOINTS.activity.query>,
  ): Promise<ActivityRow[]> {
    const all = (await this.store.read.find(StationEntity, {})).map(({ id }) => id);
    const seen = (station === undefined ? all : [station]).filter((id) => caller.may('look', id));
    const ends = [...(to === undefined ? [] : [Date.parse(to) + DAY_MS]), ...(before === undefined ? [] : [before])];
    const rows = await latestActivities(this.store.read, limit, {
      stationIds: seen,
      shared: caller.may('people'),
      clientId: client,
      personId: person,
      words,
      fromMs: from === undefined ? undefined : Date.parse(from),
      beforeMs: ends.length === 0 ? undefined : Math.min(...ends),
    });
    return rows.map(({ undoes, undoneBy, ...row }) => ({ ...row, undoes: undoes !== null, undone: undoneBy !== null }));
  }

  /** What an activity changed, the first of it in words. */
  async changes(caller: Caller, id: string): Promise<ActivityChanges> {
    const em = this.store.read;
    const activity = await em.findOne(ActivityEntity, { id });
    if (!activity) throw notFound('activity', id);
    const recorded = await recordedFirst(em, id, SHOWN_CHANGES);
    if (!caller.may('people') && recorded.some(({ thing }) => thing === 'person'))
      throw new FullerError('FORBIDDEN', 'Accounts are shown to a director of every station.');
    const total = await em.count(ActivityChangeEntity, { activityId: id });
    return { changes: recorded.map(changeWords), total };
  }

  async settings(): Promise<ActivitySettings> {
    const row = await this.store.read.findOne(ActivitySettingEntity, { id: SETTING });
    return { keptDays: row ? (row.keptDays ?? null) : KEPT_DAYS };
  }

  async set({ keptDays }: ActivitySettings): Promise<void> {
    await this.store.quietly((em) => em.upsert(ActivitySettingEntity, { id: SETTING, keptDays }));
    await this.forgetOld();
  }

  /** Forgets what is older than activities are kept, a little at a time; how many that were. */
  async forgetOld(): Promise<number> {
    const { keptDays } = await this.settings();
    if (keptDays === null) return 0;
    let forgotten = 0;
    for (let more = true; more;) {
      const count = await this.store.quietly((em) =>
        forgetActivities(em, this.store.now() - keptDays * DAY_MS, FORGOTTEN_AT_ONCE),
      );
      forgotten += count;
      more = count === FORGOTTEN_AT_ONCE;
      await breathe();
    }
    return forgotten;
  }
}
