import type { ForecastAnswer, ForecastChangeAsked } from '@fuller/contracts';
import {
  addDays,
  compareForecasts,
  foldText,
  localTimeOf,
  withChanges,
  type DayFigures,
  type ForecastChange,
  type StationData,
} from '@fuller/core';
import { CategoryEntity, ItemEntity, StationEntity } from '../db/entities/index.js';
import { visibleTo } from '../db/visible.js';
import { FullerError, notFound } from '../errors.js';
import type { Compute } from '../jobs/compute.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { StationReader } from '../logs/station-reader.js';
import { ruleSentences } from '../rules/rule-names.js';
import type { Store } from '../store/store.js';

export interface ForecastAsk {
  /** The first day; tomorrow where nothing is said. */
  readonly from?: string | undefined;
  readonly weeks: number;
  readonly seed: number;
  readonly changes: readonly ForecastChangeAsked[];
}

interface Named {
  readonly categories: ReadonlyMap<string, { readonly name: string; readonly code: string; readonly music: boolean }>;
  readonly rules: Readonly<Record<string, string>>;
}

/** Weeks generated in memory, as the station is and as it would be; nothing is written. */
export class ForecastService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly compute: Compute,
    private readonly now: () => number,
  ) {}

  /** Throws INVALID for a change that names what is not there. */
  async run(
    stationId: string,
    { from, weeks, seed, changes }: ForecastAsk,
    { progress, signal }: Pick<RunningJob, 'progress' | 'signal'>,
  ): Promise<ForecastAnswer> {
    const em = this.store.read;
    const station = await em.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const first = from ?? addDays(localTimeOf(this.now(), station.timeZone).date, 1);
    const data = await this.reader.data(stationId, first);
    const named = await this.named(stationId);
    const changed = await this.changedBy(data, changes, named);
    let done = 0;
    const weekDone = (): void => progress(++done / (2 * weeks), `${done} of ${2 * weeks} weeks`);
    const ahead = (one: StationData): Promise<DayFigures[]> => this.weeks(one, first, weeks, seed, weekDone, signal);
    const [today, then] = await Promise.all([ahead(data), changed === data ? null : ahead(changed)]);
    const compared = compareForecasts(today, then ?? today, {
      category: (id) => named.categories.get(id)?.name ?? id,
      rule: (id) => named.rules[id] ?? 'a rule',
      isMusic: (id) => named.categories.get(id)?.music ?? false,
    });
    const items = new Map([...data.items, ...changed.items].map((item) => [item.id, item]));
    return {
      ...compared,
      from: first,
      weeks,
      seed,
      sentences: [...compared.sentences],
      strains: compared.strains.map((one) => ({ ...one, rule: named.rules[one.ruleId] ?? 'a rule' })),
      categories: compared.categories.map((one) => ({
        ...one,
        category: named.categories.get(one.categoryId)?.name ?? one.categoryId,
      })),
      songs: compared.songs.flatMap((one) => {
        const item = items.get(one.itemId);
        if (!item || (item.kind ?? 'song') !== 'song') return [];
        return [{ ...one, title: item.title, artist: item.artist }];
      }),
    };
  }

  /** One week after the other, each in a thread, so that two set-ups go on side by side. */
  private async weeks(
    data: StationData,
    from: string,
    weeks: number,
    seed: number,
    weekDone: () => void,
    signal: AbortSignal,
  ): Promise<DayFigures[]> {
    const days: DayFigures[] = [];
    let now = data;
    for (let week = 0; week < weeks; week++) {
      const asked = [now, addDays(from, 7 * week), seed + 7 * week] as const;
      const { figures, carried } = await this.compute.run('forecastWeek', [...asked], signal);
      days.push(...figures);
      now = { ...now, ...carried };
      weekDone();
    }
    return days;
  }

  private async named(stationId: string): Promise<Named> {
    const em = this.store.read;
    const categories = await em.find(CategoryEntity, visibleTo(stationId));
    return {
      categories: new Map(categories.map(({ id, name, code, music }) => [id, { name, code, music: Boolean(music) }])),
      rules: await ruleSentences(em, stationId),
    };
  }

  private async changedBy(
    data: StationData,
    changes: readonly ForecastChangeAsked[],
    named: Named,
  ): Promise<StationData> {
    if (changes.length === 0) return data;
    const meant: ForecastChange[] = [];
    for (const change of changes) meant.push(await this.meant(change, data, named));
    try {
      return withChanges(data, meant);
    } catch (error) {
      if (error instanceof RangeError) throw new FullerError('INVALID', error.message, 'changes');
      throw error;
    }
  }

  /** A change with everything it names by id. */
  private async meant(change: ForecastChangeAsked, data: StationData, named: Named): Promise<ForecastChange> {
    const category = (called: string): string => {
      const found = [...named.categories].find(
        ([id, { name, code }]) => id === called || isSame(name, called) || isSame(code, called),
      );
      return mustBe(found?.[0], 'category', called);
    };
    switch (change.kind) {
      case 'move':
        return {
          kind: 'move',
          itemIds: await this.songs(change.songs),
          categoryId: change.to === null ? null : category(change.to),
        };
      case 'rule': {
        const found = data.rules.find(({ id }) => id === change.rule || isSame(named.rules[id] ?? '', change.rule));
        const ruleId = mustBe(found?.id, 'rule', change.rule);
        const { amount, resting } = change;
        return {
          kind: 'rule',
          ruleId,
          ...(amount === undefined ? {} : { amount }),
          ...(resting === undefined ? {} : { resting }),
        };
      }
      case 'clock': {
        const found = data.plan.clocks.find(({ id, name }) => id === change.clock || isSame(name, change.clock));
        return { kind: 'clock', clockId: mustBe(found?.id, 'clock', change.clock), lines: change.lines as never };
      }
      case 'add':
        return { kind: 'add', categoryId: category(change.category), songs: change.songs };
    }
  }

  private async songs(called: readonly string[]): Promise<string[]> {
    const rows = await this.store.read.find(
      ItemEntity,
      { $or: [{ id: { $in: [...called] } }, { cart: { $in: [...called] } }] },
      { fields: ['id', 'cart'] },
    );
    return called.map((one) => mustBe(rows.find(({ id, cart }) => id === one || cart === one)?.id, 'song', one));
  }
}

function isSame(one: string, other: string): boolean {
  return foldText(one) === foldText(other);
}

function mustBe(id: string | undefined, what: string, called: string): string {
  if (id === undefined) throw new FullerError('INVALID', `There is no ${what} “${called}”.`, 'changes');
  return id;
}
