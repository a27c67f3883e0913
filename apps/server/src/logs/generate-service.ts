import type { StationActor } from '../actor.js';
import type { GeneratedDaySummary } from '@fuller/contracts';
import {
  addDays,
  airedIds,
  allEntries,
  formatLocalDateTime,
  itemOf,
  StationModel,
  type DailyLog,
  type StationData,
  ruleSentence,
} from '@fuller/core';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import type { Compute } from '../jobs/compute.js';
import type { GeneratedDayResult } from '../jobs/generate-task.js';
import type { JobOutcome, RunningJob } from '../jobs/job-runner.js';
import type { ReadingThread } from '../readers/reading-thread.js';
import type { RuleService } from '../rules/rule-service.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Judgement } from './judge.js';
import type { LogService } from './log-service.js';
import type { LogWriter } from './log-writer.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Revisions } from '../store/revisions.js';
import { docOf, type StationReader } from './station-reader.js';
import type { Store } from '../store/store.js';

export interface GenerateRange {
  readonly from: string;
  readonly days: number;
  readonly seed: number;
  readonly only: 'all' | 'open';
  /** Only these hours of one day, by their place in it. */
  readonly hours?: readonly number[] | undefined;
  readonly replaceByHand?: boolean | undefined;
  readonly answers?: Readonly<Record<string, string>> | undefined;
}

export interface GenerateOutcome extends JobOutcome {
  readonly result: { days: GeneratedDaySummary[] };
}

/** What is on the air when a run is written has begun up to so much before: time for a run to be worked out. */
const LEAD_MS = 15_000;
const LEAD_PER_DAY_MS = 4_000;
/** A run is worked out again when the library changes under it, so often at most. */
const MOST_RUNS = 3;

/** Of some items, those that may not air on a date: gone, ended, not yet on, paused, or without a length. */
const OFF_AIR = `select coalesce(i.title, 'A deleted item') as title from json_each(?) j left join item i on i.id = j.value
  where i.id is null or i.end_date < ? or i.start_date > ? or i.paused_until >= ? or i.duration_ms <= 0 limit 1`;

class TakenOffAir extends FullerError {}

interface Parts {
  readonly store: Store;
  readonly logs: LogService;
  readonly logWriter: LogWriter;
  readonly reader: StationReader;
  readonly thread: ReadingThread | null;
  readonly catalogue: CatalogueService;
  readonly rules: RuleService;
  readonly pools: PoolService;
  readonly compute: Compute;
  readonly revisions: Revisions;
  readonly now: () => number;
}

interface MadeDay extends GeneratedDayResult {
  readonly revision: number | null;
  readonly judged: Judgement;
}

/** Generates days of a station: computed first, then written all together. */
export class GenerateService {
  constructor(private readonly parts: Parts) {}

  /** What can be refused before a job is made of it. */
  async check(stationId: string, range: GenerateRange): Promise<void> {
    const { logs, pools, catalogue, now } = this.parts;
    const { timeZone } = await catalogue.station(stationId);
    if (range.hours && range.days > 1)
      throw new FullerError('INVALID', 'Hours are regenerated for one day at a time.', 'hours');
    const today = formatLocalDateTime(now(), timeZone).slice(0, 10);
    if (range.from < today)
      throw new FullerError('INVALID', `${range.from} has aired; only today and later days can be generated.`, 'from');
    if (range.hours) await logs.mustFind(stationId, range.from);
    const previous = await logs.find(stationId, range.from);
    if (previous && range.from === today && range.days === 1) await this.refuseAired(stationId, docOf(previous), range);
    for (const [question, filter] of Object.entries(range.answers ?? {})) {
      await pools.read(stationId, filter).catch((error: unknown) => {
        if (!(error instanceof FullerError)) throw error;
        throw new FullerError('INVALID', `The answer to “${question}”: ${error.message}`, 'answers');
      });
    }
  }

  /** Refuses a run of which everything has aired. */
  private async refuseAired(stationId: string, log: DailyLog, range: GenerateRange): Promise<void> {
    const { reader, now } = this.parts;
    const model = new StationModel(await reader.data(stationId, log.date));
    const aired = airedIds(model, log, now());
    const hours = new Set(range.hours);
    const left = log.hours
      .filter(({ index }) => !range.hours || hours.has(index))
      .some(({ entries, startMs, durationMs }) =>
        entries.length === 0 ? startMs + durationMs > now() : entries.some(({ id }) => !aired.has(id)),
      );
    if (left) return;
    const what = range.hours
      ? range.hours.length === 1
        ? 'That hour has'
        : 'Those hours have'
      : `All of ${log.date} has`;
    throw new FullerError('INVALID', `${what} aired or begun to air; there is nothing left to generate.`, 'from');
  }

  async run(actor: StationActor, range: GenerateRange, job: RunningJob): Promise<GenerateOutcome> {
    for (let tries = 1; ; tries++) {
      const made = await this.make(actor.stationId, range, job);
      try {
        return await this.save(actor, range, made, job);
      } catch (error) {
        if (!(error instanceof TakenOffAir) || tries === MOST_RUNS) throw error;
        job.progress(0, `${error.message} Generating again`);
      }
    }
  }

  /** Refuses what may not air any more: an item can be taken off the air while a run that chose it goes on. */
  private async refuseTakenOff(em: Em, { date, hours }: DailyLog, before: DailyLog | null): Promise<void> {
    // What stood there before the run is not its choice.
    const stood = new Map(before ? allEntries(before).map((entry) => [entry.id, itemOf(entry)]) : []);
    const chosen = hours.flatMap(({ entries }) =>
      entries.flatMap((entry) =>
        entry.kind === 'pick' &&
        entry.origin === 'engine' &&
        !entry.locked &&
        entry.itemId !== null &&
        stood.get(entry.id) !== entry.itemId
          ? [entry.itemId]
          : [],
      ),
    );
    const rows = await this.parts.store.rows<{ title: string }>(
      OFF_AIR,
      [JSON.stringify(chosen), date, date, date],
      em,
    );
    if (rows.length > 0)
      throw new TakenOffAir('CONFLICT', `${rows[0]!.title} was taken off the air while ${date} was being generated.`);
  }

  private async make(stationId: string, range: GenerateRange, job: RunningJob): Promise<MadeDay[]> {
    const { catalogue, rules, logs, compute, now } = this.parts;
    const station = await catalogue.catalogue(stationId);
    const ruleNames = await rules.names();
    const names = Object.fromEntries([
      ...station.categories.map(({ id, name }) => [id, name]),
      ...station.rules.map((rule) => [rule.id, ruleSentence(rule, ruleNames)]),
    ]);
    const answers = range.answers ?? {};
    const made: MadeDay[] = [];
    for (let day = 0; day < range.days; day++) {
      const date = addDays(range.from, day);
      job.progress(day / range.days, `Generating ${date}`);
      const previous = await logs.find(stationId, date);
      const done = await compute.run(
        'generateStationDay',
        [
          {
            data: await this.dataFor(stationId, date, Object.values(answers).filter(Boolean)),
            made: made.map(({ log }) => log),
            replacesNext: range.only === 'all' && day + 1 < range.days,
            names,
            options: {
              date,
              seed: range.seed,
              previous: previous ? docOf(previous) : null,
              nowMs: now() + LEAD_MS + LEAD_PER_DAY_MS * (range.days - day),
              ...(range.replaceByHand ? { replaceByHand: true } : {}),
              ...(range.hours ? { only: 'hours' as const, hours: range.hours } : { only: range.only }),
              answers,
            },
          },
        ],
        job.signal,
      );
      job.signal.throwIfAborted();
      refuseEmpty(done.log, date);
      made.push({ ...done, revision: previous?.revision ?? null });
    }
    return made;
  }

  private async dataFor(
    stationId: string,
    date: string,
    filters: readonly string[],
  ): Promise<Uint8Array | StationData> {
    const { thread, reader } = this.parts;
    return thread ? thread.data(stationId, date, filters) : reader.data(stationId, date, { filters });
  }

  private async save(
    { stationId, clientId }: StationActor,
    range: GenerateRange,
    made: readonly MadeDay[],
    job: RunningJob,
  ): Promise<GenerateOutcome> {
    const { store, logs, logWriter, now } = this.parts;
    job.progress(1, 'Writing');
    const written = await store.write({ clientId, stationId, label: labelOf(range) }, async (changes) => {
      for (const { log, revision, judged, airedUntilMs } of made) {
        const current = await logs.find(stationId, log.date, changes.em);
        if ((current?.revision ?? null) !== revision)
          throw new FullerError(
            'CONFLICT',
            `The log of ${log.date} was changed while it was being generated; nothing was written.`,
          );
        if (current && log.hours[0]!.startMs <= now() && airedUntilMs < now())
          throw new FullerError(
            'CONFLICT',
            `Generating took so long that more of ${log.date} has aired; nothing was written.`,
          );
        await this.refuseTakenOff(changes.em, log, current && docOf(current));
        await logWriter.save(changes, stationId, log, judged);
        job.signal.throwIfAborted();
      }
    });
    const days = made.map((one) => one.summary);
    const open = days.reduce((sum, one) => sum + one.open.length, 0);
    const what = range.days === 1 ? range.from : `${range.days} days`;
    const message =
      written.activityId === null
        ? `${what}: nothing was left to change.`
        : `${what}: ${open === 0 ? 'every slot filled' : `${open} open`}.`;
    return { activityId: written.activityId, message, result: { days } };
  }
}

function labelOf({ from, days, hours }: GenerateRange): string {
  if (hours) return `Regenerate ${hours.length === 1 ? 'an hour' : `${hours.length} hours`} of ${from}`;
  return days === 1 ? `Generate ${from}` : `Generate ${days} days from ${from}`;
}

function refuseEmpty(log: DailyLog, date: string): void {
  if (allEntries(log).length === 0) {
    throw new FullerError('INVALID', `No clock runs on ${date}; paint the week or choose a default clock.`, 'from');
  }
}
