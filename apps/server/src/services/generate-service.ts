import type { GeneratedDaySummary } from '@fuller/contracts';
import {
  addDays,
  allEntries,
  formatLocalDateTime,
  sentenceOf,
  slotsOf,
  StationModel,
  type DailyLog,
  type GeneratedDay,
  type StationData,
} from '@fuller/core';
import { FullerError } from '../errors.js';
import type { Compute } from '../jobs/compute.js';
import type { JobOutcome, RunningJob } from '../jobs/job-runner.js';
import type { CatalogueService } from './catalogue-service.js';
import { docOf, type LogService } from './log-service.js';
import type { PoolService } from './pool-service.js';
import type { Store } from './store.js';

export interface GenerateRange {
  readonly from: string;
  readonly days: number;
  readonly seed: number;
  readonly only: 'all' | 'open';
  /** Only these hours of one day, by their place in it. */
  readonly hours?: readonly number[] | undefined;
  readonly answers?: Readonly<Record<string, string>> | undefined;
}

export interface GenerateOutcome extends JobOutcome {
  readonly result: { readonly days: readonly GeneratedDaySummary[] };
}

/** Generates days of a station: computed first, then written all together. */
export class GenerateService {
  constructor(
    private readonly store: Store,
    private readonly logs: LogService,
    private readonly catalogue: CatalogueService,
    private readonly pools: PoolService,
    private readonly compute: Compute,
    private readonly now: () => number,
  ) {}

  /** What can be refused before a job is made of it. */
  async check(stationId: string, range: GenerateRange): Promise<void> {
    if (range.hours && range.days > 1)
      throw new FullerError('INVALID', 'Hours are generated anew for one day at a time.', 'hours');
    if (range.hours) await this.logs.mustFind(stationId, range.from);
    for (const [question, filter] of Object.entries(range.answers ?? {})) {
      await this.pools.read(stationId, filter).catch((error: unknown) => {
        if (!(error instanceof FullerError)) throw error;
        throw new FullerError('INVALID', `The answer to “${question}”: ${error.message}`, 'answers');
      });
    }
    const { timeZone } = await this.catalogue.station(stationId);
    const today = formatLocalDateTime(this.now(), timeZone).slice(0, 10);
    if (range.from < today) {
      throw new FullerError('INVALID', `${range.from} has aired; only today and later days can be generated.`, 'from');
    }
  }

  async run(stationId: string, clientId: string, range: GenerateRange, job: RunningJob): Promise<GenerateOutcome> {
    const { categories } = await this.catalogue.catalogue(stationId);
    const names = new Map(categories.map((category) => [category.id, category.name]));
    const answers = range.answers ?? {};
    const made: { log: DailyLog; revision: number | null; summary: GeneratedDaySummary }[] = [];
    for (let day = 0; day < range.days; day++) {
      const date = addDays(range.from, day);
      job.progress(day / range.days, `Generating ${date}`);
      const previous = await this.logs.find(stationId, date);
      const data = withMadeDays(
        await this.logs.stationData(stationId, date, undefined, Object.values(answers).filter(Boolean)),
        made.map((one) => one.log),
        range,
        date,
      );
      const startedAt = performance.now();
      const generated = await this.compute.run(
        'generateDay',
        [
          data,
          {
            date,
            seed: range.seed,
            previous: previous ? docOf(previous) : null,
            ...(range.hours ? { only: 'hours' as const, hours: range.hours } : { only: range.only }),
            answers,
          },
        ],
        job.signal,
      );
      job.signal.throwIfAborted();
      refuseEmpty(generated, date);
      const ms = Math.round(performance.now() - startedAt);
      const summary = summaryOf(data, generated.log, names, ms);
      made.push({ log: generated.log, revision: previous?.revision ?? null, summary });
    }
    job.progress(1, 'Writing');
    const label = range.hours
      ? `Generate ${range.hours.length === 1 ? 'an hour' : `${range.hours.length} hours`} of ${range.from} anew`
      : range.days === 1
        ? `Generate ${range.from}`
        : `Generate ${range.days} days from ${range.from}`;
    const written = await this.store.write({ clientId, stationId, label }, async (changes) => {
      for (const { log, revision } of made) {
        const current = await this.logs.find(stationId, log.date, changes.em);
        if ((current?.revision ?? null) !== revision) {
          throw new FullerError(
            'CONFLICT',
            `The log of ${log.date} was changed while it was being generated; nothing was written.`,
          );
        }
        await this.logs.save(changes, stationId, log);
      }
      job.signal.throwIfAborted();
    });
    const days = made.map((one) => one.summary);
    const open = days.reduce((sum, one) => sum + one.open.length, 0);
    const message = `${range.days === 1 ? range.from : `${range.days} days`}: ${open === 0 ? 'every slot filled' : `${open} open`}.`;
    return { activityId: written.activityId, message, result: { days } };
  }
}

/** The days made before this one in the same run, which the database does not know yet. */
function withMadeDays(data: StationData, made: readonly DailyLog[], range: GenerateRange, date: string): StationData {
  if (made.length === 0) return data;
  const model = new StationModel(data);
  const firstMs = made[0]!.hours[0]!.startMs;
  const plays = made.flatMap((log) => model.plays(log));
  // The next day's old log is about to be replaced, so it must not hold this one back.
  const nextIsMadeToo = range.only === 'all' && addDays(date, 1) < addDays(range.from, range.days);
  return {
    ...data,
    history: [...data.history.filter((play) => play.startMs < firstMs), ...plays],
    nextLog: nextIsMadeToo ? null : data.nextLog,
  };
}

function refuseEmpty(generated: GeneratedDay, date: string): void {
  if (allEntries(generated.log).length === 0) {
    throw new FullerError('INVALID', `No clock runs on ${date}; paint the week or choose a default clock.`, 'from');
  }
}

function summaryOf(
  data: StationData,
  log: DailyLog,
  categoryNames: ReadonlyMap<string, string>,
  ms: number,
): GeneratedDaySummary {
  const timing = new StationModel(data).timing(log);
  const ruleText = new Map(data.rules.map((rule) => [rule.id, sentenceOf(rule, (id) => categoryNames.get(id) ?? id)]));
  const picks = slotsOf(log);
  return {
    date: log.date,
    slots: picks.length,
    filled: picks.filter((entry) => entry.itemId !== null).length,
    open: picks
      .filter((entry) => entry.itemId === null)
      .map((entry) => ({
        start: formatLocalDateTime(timing.entries.get(entry.id)!.startMs, log.timeZone),
        line: categoryNames.get(entry.categoryId) ?? entry.categoryId,
        heldBackBy: (entry.open?.heldBackBy ?? []).map(({ ruleId, items }) => ({
          rule: ruleText.get(ruleId) ?? ruleId,
          items,
        })),
        proof: entry.open?.proof ?? 'budget',
      })),
    soft: [],
    hours: timing.hours.map(({ index, overMs }) => ({
      hour: log.hours[index]!.localHour,
      overSeconds: Math.round(overMs / 1000),
    })),
    ms,
  };
}
