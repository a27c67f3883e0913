import type { StationActor } from '../actor.js';
import type { GeneratedDaySummary } from '@fuller/contracts';
import { elementAt, addDays, lookUpIn, type StationData } from '@fuller/core';
import { LogRunEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import type { Compute } from '../jobs/compute.js';
import type { GeneratedDayResult } from '../jobs/generate-task.js';
import type { JobOutcome, RunningJob } from '../jobs/job-runner.js';
import type { ReadingThread } from '../readers/reading-thread.js';
import { newId } from '../ids.js';
import { ruleSentences } from '../rules/rule-names.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import { GenerateChecks, refuseEmpty, refuseTakenOff, TakenOffAir, type GenerateRange } from './generate-checks.js';
import type { Judgement } from './judge.js';
import type { LogService } from './log-service.js';
import type { LogWriter } from './log-writer.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Revisions } from '../store/revisions.js';
import type { StationReader } from './station-reader.js';
import { docOf } from './stored-logs.js';
import type { Store } from '../store/store.js';

export interface GenerateOutcome extends JobOutcome {
  readonly result: { days: GeneratedDaySummary[] };
}

/** What is on the air when a run is written has begun up to so much before: time for a run to be worked out. */
const LEAD_MS = 15_000;
const LEAD_PER_DAY_MS = 4_000;
/** A run is worked out again when the library changes under it, so often at most. */
const MOST_RUNS = 3;

interface Parts {
  readonly store: Store;
  readonly logs: LogService;
  readonly logWriter: LogWriter;
  readonly reader: StationReader;
  readonly thread: ReadingThread | null;
  readonly catalogue: CatalogueService;
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
  private readonly checks: GenerateChecks;

  constructor(private readonly parts: Parts) {
    this.checks = new GenerateChecks(parts);
  }

  /** What can be refused before a job is made of it. */
  check(stationId: string, range: GenerateRange): Promise<void> {
    return this.checks.check(stationId, range);
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

  private async make(stationId: string, range: GenerateRange, job: RunningJob): Promise<MadeDay[]> {
    const { store, catalogue, logs, compute, now } = this.parts;
    const station = await catalogue.catalogue(stationId);
    const names = {
      ...Object.fromEntries(station.categories.map(({ id, name }) => [id, name])),
      ...(await ruleSentences(store.read, stationId)),
    };
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
            rulesOff: range.rulesOff ?? [],
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
    const sentences = await ruleSentences(store.read, stationId);
    const written = await store.write({ clientId, stationId, label: labelOf(range) }, async (changes) => {
      for (const { log, revision, judged, airedUntilMs } of made) {
        const current = await logs.find(stationId, log.date, changes.em);
        if ((current?.revision ?? null) !== revision)
          throw new FullerError(
            'CONFLICT',
            `The log of ${log.date} was changed while it was being generated; nothing was written.`,
          );
        if (current && elementAt(log.hours, 0).startMs <= now() && airedUntilMs < now())
          throw new FullerError(
            'CONFLICT',
            `Generating took so long that more of ${log.date} has aired; nothing was written.`,
          );
        await refuseTakenOff(changes.em, log, current && docOf(current));
        await logWriter.save(changes, stationId, log, judged);
        await changes.em.insert(LogRunEntity, {
          id: newId(),
          stationId,
          date: log.date,
          activityId: changes.activityId,
          atMs: now(),
          seed: range.seed,
          only: range.hours ? 'hours' : range.only,
          hours: range.hours ? [...range.hours] : null,
          rulesOff: (range.rulesOff ?? []).map((id) => lookUpIn(sentences, id)),
          answers: { ...range.answers },
        });
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
