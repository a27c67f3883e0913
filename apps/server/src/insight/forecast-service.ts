import type { ForecastAnswer, ForecastChangeAsked } from '@fuller/contracts';
import {
  addDays,
  compareForecasts,
  foldText,
  forecastChangeWords,
  localTimeOf,
  withChanges,
  type ChangeNames,
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
import { namesForRules, ruleSentences } from '../rules/rule-names.js';
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

/** A forecast that is ready to be made: what it is made from, and what it changes. */
export interface PreparedForecast {
  readonly from: string;
  readonly weeks: number;
  readonly seed: number;
  readonly changes: readonly ForecastChange[];
  /** The changes in words. */
  readonly words: readonly string[];
  readonly data: StationData;
  readonly changed: StationData;
  readonly named: Named;
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
  async prepare(stationId: string, { from, weeks, seed, changes }: ForecastAsk): Promise<PreparedForecast> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const first = from ?? addDays(localTimeOf(this.now(), station.timeZone).date, 1);
    const data = await this.reader.data(stationId, first);
    const named = await this.named(stationId);
    const meant: ForecastChange[] = [];
    for (const change of changes) meant.push(await this.meant(change, data, named));
    const inRules = await namesForRules(this.store.read);
    const names: ChangeNames = {
      category: nameOf(named),
      clock: (id) => {
        const clock = data.plan.clocks.find((one) => one.id === id);
        return clock && { name: clock.name, lines: clock.lines.length };
      },
      rule: (id) => data.rules.find((one) => one.id === id),
      song: (id) => data.items.find((one) => one.id === id)?.title,
      inRules,
    };
    const words = meant.map((change) => forecastChangeWords(change, names));
    return { from: first, weeks, seed, changes: meant, words, data, changed: changedBy(data, meant), named };
  }

  async run(
    { from, weeks, seed, data, changed, named }: PreparedForecast,
    { progress, signal }: Pick<RunningJob, 'progress' | 'signal'>,
  ): Promise<ForecastAnswer> {
    let done = 0;
    const all = changed === data ? weeks : 2 * weeks;
    const weekDone = (): void => progress(++done / all, `${done} of ${all} weeks`);
    progress(0, `0 of ${all} weeks`);
    const ahead = (one: StationData): Promise<DayFigures[]> => this.weeks(one, from, weeks, seed, weekDone, signal);
    const [today, then] = await Promise.all([ahead(data), changed === data ? null : ahead(changed)]);
    const category = nameOf(named);
    const rule = (id: string): string => named.rules[id] ?? 'a rule';
    const compared = compareForecasts(today, then ?? today, {
      category,
      rule,
      isMusic: (id) => named.categories.get(id)?.music ?? false,
    });
    const items = new Map([...data.items, ...changed.items].map((item) => [item.id, item]));
    return {
      ...compared,
      from,
      weeks,
      seed,
      sentences: [...compared.sentences],
      strains: compared.strains.map((one) => ({ ...one, rule: rule(one.ruleId) })),
      categories: [...named.categories.keys()].flatMap((id) => {
        const found = compared.categories.find(({ categoryId }) => categoryId === id);
        return found ? [{ ...found, category: category(id) }] : [];
      }),
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
    const categories = await em.find(CategoryEntity, visibleTo(stationId), { orderBy: { position: 'asc' } });
    return {
      categories: new Map(categories.map(({ id, name, code, music }) => [id, { name, code, music: Boolean(music) }])),
      rules: await ruleSentences(em, stationId),
    };
  }

  /** A change with everything it names by id. */
  private async meant(change: ForecastChangeAsked, data: StationData, named: Named): Promise<ForecastChange> {
    const category = (called: string): string => {
      const found = [...named.categories].find(
        ([id, { name, code }]) => id === called || isSame(name, called) || isSame(code, called),
      );
      return mustBe(found?.[0], 'category', called);
    };
    const clock = (called: string): string => {
      const found = data.plan.clocks.find(({ id, name }) => id === called || isSame(name, called));
      return mustBe(found?.id, 'clock', called);
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
      case 'clock':
        return { kind: 'clock', clockId: clock(change.clock), lines: change.lines as never };
      case 'add':
      case 'fewer':
        return { kind: change.kind, categoryId: category(change.category), songs: change.songs };
      case 'week':
        return { kind: 'week', days: change.days, from: change.from, to: change.to, clockId: clock(change.clock) };
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

function changedBy(data: StationData, changes: readonly ForecastChange[]): StationData {
  if (changes.length === 0) return data;
  try {
    return withChanges(data, changes);
  } catch (error) {
    if (error instanceof RangeError) throw new FullerError('INVALID', error.message, 'changes');
    throw error;
  }
}

function nameOf({ categories }: Named): (categoryId: string) => string {
  return (id) => categories.get(id)?.name ?? id;
}

function isSame(one: string, other: string): boolean {
  return foldText(one) === foldText(other);
}

function mustBe(id: string | undefined, what: string, called: string): string {
  if (id === undefined) throw new FullerError('INVALID', `There is no ${what} “${called}”.`, 'changes');
  return id;
}
