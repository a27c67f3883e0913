import type { EntityName } from '@mikro-orm/core';
import type {
  ForecastAnswer,
  ForecastBrief,
  ForecastChangeAsked,
  ForecastRequest,
  ForecastView,
  JobView,
  RotationSheet,
} from '@fuller/contracts';
import { sum, withClockOn, type ForecastChange } from '@fuller/core';
import type { StationActor } from '../actor.js';
import type { ClockService } from '../clocks/clock-service.js';
import { ClockEntity, RuleEntity, WeekPlanEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import type { JobRunner } from '../jobs/job-runner.js';
import type { ItemEdits } from '../library/item-edits.js';
import type { RotationService } from '../rotation/rotation-service.js';
import type { RuleService } from '../rules/rule-service.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import type { PlanService } from '../week/plan-service.js';
import type { PlanWriter } from '../week/plan-writer.js';
import type { ForecastService, PreparedForecast } from './forecast-service.js';

/** So many forecasts are remembered, the latest of all stations. */
const REMEMBERED = 12;

interface Made extends Pick<PreparedForecast, 'from' | 'weeks' | 'seed' | 'changes' | 'words'> {
  readonly stationId: string;
  readonly atMs: number;
  /** What is changed, as it was when the forecast was made. */
  readonly revisions: ReadonlyMap<string, number>;
  readonly answer: ForecastAnswer;
}

export interface KeepingServices {
  readonly rules: RuleService;
  readonly clocks: ClockService;
  readonly plans: PlanService;
  readonly planWriter: PlanWriter;
  readonly itemEdits: ItemEdits;
  readonly rotation: RotationService;
}

/** The forecasts that were made, until the server stops: looked at, and their changes made for good. */
export class ForecastBook {
  private readonly made = new Map<string, Made>();

  constructor(
    private readonly store: Store,
    private readonly forecasts: ForecastService,
    private readonly jobs: JobRunner,
    private readonly services: KeepingServices,
    private readonly now: () => number,
  ) {}

  /** Begins a forecast in the background, one at a time; throws INVALID for a change that names what is not there. */
  async start({ stationId, clientId }: StationActor, asked: ForecastRequest): Promise<JobView> {
    const isRunning = this.jobs
      .list()
      .some((job) => job.kind === 'forecast' && job.state === 'running' && job.stationId === stationId);
    if (isRunning)
      throw new FullerError('CONFLICT', 'A forecast of this station is being made. Wait for it, or cancel it.');
    const prepared = await this.forecasts.prepare(stationId, asked);
    const revisions = await this.revisionsOf(stationId, prepared.changes);
    const label = `Forecast ${prepared.weeks === 1 ? 'a week' : `${prepared.weeks} weeks`} from ${prepared.from}`;
    return this.jobs.start({ kind: 'forecast', label, stationId, clientId }, async (job, id) => {
      const answer = await this.forecasts.run(prepared, job);
      const { from, weeks, seed, changes, words } = prepared;
      this.made.set(id, { from, weeks, seed, changes, words, stationId, atMs: this.now(), revisions, answer });
      for (const old of [...this.made.keys()].slice(0, -REMEMBERED)) this.made.delete(old);
      return { activityId: null, message: answer.sentences[0] ?? 'Done.', result: { forecastId: id } };
    });
  }

  list(stationId: string): ForecastBrief[] {
    return [...this.made]
      .filter(([, made]) => made.stationId === stationId)
      .map(([id, made]) => briefOf(id, made))
      .reverse();
  }

  /** Throws NOT_FOUND where it is no longer remembered. */
  find(stationId: string, id: string): ForecastView {
    const made = this.mustFind(stationId, id);
    const { from, weeks, seed, changes, answer } = made;
    return { ...briefOf(id, made), asked: { from, weeks, seed, changes: changes.map(asAsked) }, answer };
  }

  drop(stationId: string, id: string): void {
    this.mustFind(stationId, id);
    this.made.delete(id);
  }

  /**
   * Makes the changes of a forecast in one step. Songs that are not there yet cannot be added: they become the plan of
   * their category. Throws CONFLICT where somebody changed the same since.
   */
  async keep({ stationId, clientId }: StationActor, id: string): Promise<Written<void>> {
    const { changes: asked, words, revisions } = this.mustFind(stationId, id);
    if (asked.length === 0) throw new FullerError('INVALID', 'This forecast changes nothing.');
    const label = `Keep a forecast: ${words.join('; ')}`.slice(0, 300);
    const sheet = await this.services.rotation.sheet(stationId);
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const now = new Map(revisions);
      for (const change of asked) await this.make(changes, stationId, change, now, sheet);
    });
  }

  private async make(
    changes: ChangeSet,
    stationId: string,
    change: ForecastChange,
    revisions: Map<string, number>,
    sheet: RotationSheet,
  ): Promise<void> {
    const { rules, clocks, plans, planWriter, itemEdits, rotation } = this.services;
    const [thing, id] = thingOf(change, stationId) ?? ['rule', ''];
    const revision = revisions.get(id) ?? 0;
    switch (change.kind) {
      case 'move':
        await itemEdits.placeIn(changes, stationId, change.itemIds, change.categoryId);
        break;
      case 'rule': {
        const { amount, resting } = change;
        await rules.updateIn(changes, id, { revision, ...given({ amount, resting }) });
        break;
      }
      case 'clock':
        await clocks.updateIn(changes, stationId, id, revision, { lines: [...change.lines] });
        break;
      case 'week': {
        const { week } = await plans.rows(stationId, changes.em);
        await planWriter.updateWeekIn(changes, stationId, revision, { blocks: [...withClockOn(week, change).blocks] });
        break;
      }
      case 'add':
      case 'fewer': {
        const row = sheet.rows.find(({ categoryId }) => categoryId === change.categoryId);
        const items = Math.max(0, (row?.canPlay ?? 0) + (change.kind === 'add' ? change.songs : -change.songs));
        const slotsPerWeek = row?.plan?.slotsPerWeek ?? sum(row?.slots ?? []);
        await rotation.planIn(changes, stationId, change.categoryId, { items, slotsPerWeek });
        break;
      }
    }
    // The same thing may be changed twice in one forecast.
    if (revisions.has(id)) revisions.set(id, Number((await changes.find(thing, id))?.['revision']));
  }

  private mustFind(stationId: string, id: string): Made {
    const made = this.made.get(id);
    if (made?.stationId !== stationId) throw notFound('forecast', id);
    return made;
  }

  private async revisionsOf(
    stationId: string,
    changes: readonly ForecastChange[],
  ): Promise<ReadonlyMap<string, number>> {
    const found = new Map<string, number>();
    for (const change of changes) {
      const [thing, id] = thingOf(change, stationId) ?? [];
      if (!thing || !id) continue;
      const row = await this.store.read.findOne(ENTITIES[thing] as EntityName<{ revision: number }>, { id } as never);
      if (row) found.set(id, row.revision);
    }
    return found;
  }
}

const ENTITIES = { rule: RuleEntity, clock: ClockEntity, week: WeekPlanEntity } as const;

/** The one row that a change is about; null where it is about songs. */
function thingOf(change: ForecastChange, stationId: string): readonly [keyof typeof ENTITIES, string] | null {
  switch (change.kind) {
    case 'rule':
      return ['rule', change.ruleId];
    case 'clock':
      return ['clock', change.clockId];
    case 'week':
      return ['week', stationId];
    default:
      return null;
  }
}

/** Without what is not given. */
function given<T extends object>(fields: T): Partial<{ [K in keyof T]: Exclude<T[K], undefined> }> {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as never;
}

function briefOf(id: string, { atMs, from, weeks, words }: Made): ForecastBrief {
  return { id, atMs, from, weeks, changes: [...words] };
}

/** A change as it is asked, by ids. */
function asAsked(change: ForecastChange): ForecastChangeAsked {
  switch (change.kind) {
    case 'move':
      return { kind: 'move', songs: [...change.itemIds], to: change.categoryId };
    case 'rule': {
      const { ruleId, amount, resting } = change;
      return { kind: 'rule', rule: ruleId, ...given({ amount, resting }) };
    }
    case 'clock':
      return { kind: 'clock', clock: change.clockId, lines: change.lines as never };
    case 'week':
      return { kind: 'week', days: [...change.days], from: change.from, to: change.to, clock: change.clockId };
    case 'add':
    case 'fewer':
      return { kind: change.kind, category: change.categoryId, songs: change.songs };
  }
}
