import type { StationActor } from '../actor.js';
import { elementAt } from '@fuller/core';
import { LogRunEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import type { Compute } from '../jobs/compute.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { ReadingThread } from '../readers/reading-thread.js';
import { newId } from '../ids.js';
import { ruleSentences } from '../rules/rule-names.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import { GenerateChecks, refuseTakenOff, TakenOffAir, type GenerateRange } from './generate-checks.js';
import type { LogService } from './log-service.js';
import type { LogWriter } from './log-writer.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Revisions } from '../store/revisions.js';
import type { StationReader } from './station-reader.js';
import { docOf } from './stored-logs.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import type { MadeDay } from './made-day.js';
import type { Previews } from './previews.js';
import type { VersionService } from './version-service.js';
import { DayMaker } from './day-maker.js';
import { labelOf, offWords, outcomeOf, spanOf, type GenerateOutcome } from './run-words.js';

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
  readonly versions: VersionService;
  readonly previews: Previews;
  readonly now: () => number;
}

/** Generates days of stations: computed first, then written all together, at once or when a preview is accepted. */
export class GenerateService {
  private readonly checks: GenerateChecks;
  private readonly maker: DayMaker;

  constructor(private readonly parts: Parts) {
    this.checks = new GenerateChecks(parts);
    this.maker = new DayMaker(parts);
  }

  /** What a run would put into the open slots of a day, with what it strains; nothing is written. */
  plan(...asked: Parameters<DayMaker['plan']>): ReturnType<DayMaker['plan']> {
    return this.maker.plan(...asked);
  }

  /** What can be refused before a job is made of it. */
  check(stationId: string, range: GenerateRange): Promise<void> {
    return this.checks.check(stationId, range);
  }

  /** `id` is what a preview is kept under. */
  async run(actor: StationActor, range: GenerateRange, job: RunningJob, id = ''): Promise<GenerateOutcome> {
    const stations = [...new Set([actor.stationId, ...(range.stations ?? [])])];
    for (let tries = 1; ; tries++) {
      const made: MadeDay[] = [];
      for (const [n, stationId] of stations.entries())
        made.push(
          ...(await this.maker.make(stationId, range, job, {
            begun: n / stations.length,
            share: 1 / stations.length,
            elsewhere: [...made],
          })),
        );
      if (range.preview) return this.preview(range, made, id);
      try {
        job.progress(1, 'Writing');
        return outcomeOf(range, made, await this.save(actor, range, made, { signal: job.signal }));
      } catch (error) {
        if (!(error instanceof TakenOffAir) || tries === MOST_RUNS) throw error;
        job.progress(0, `${error.message} Generating again`);
      }
    }
  }

  private preview(range: GenerateRange, made: readonly MadeDay[], id: string): GenerateOutcome {
    this.parts.previews.keep(id, range, made);
    const days = made.map(({ summary, stationId }) => ({ ...summary, stationId }));
    return { activityId: null, message: `${spanOf(range)}: ready to look at.`, result: { days, preview: true } };
  }

  /** Writes what was made: all of it or nothing, where no log has been changed since it was read. */
  async save(
    { stationId, clientId }: StationActor,
    range: GenerateRange,
    made: readonly MadeDay[],
    { signal }: { readonly signal?: AbortSignal } = {},
  ): Promise<Written<void>> {
    const { store } = this.parts;
    const sentences = new Map<string, Record<string, string>>();
    const categories = new Map<string, string[] | null>();
    for (const { stationId: id } of made) {
      sentences.set(id, await ruleSentences(store.read, id));
      categories.set(id, await this.categoryNames(id, range));
    }
    const several = made.some((one) => one.stationId !== stationId);
    const about = { clientId, stationId: several ? null : stationId, label: labelOf(range) };
    return store.write(about, async (changes) => {
      for (const day of made) {
        await this.saveDay(changes, day);
        await this.noteRun(changes, day, range, {
          rulesOff: offWords(range, sentences.get(day.stationId) ?? {}),
          categories: categories.get(day.stationId) ?? null,
        });
        signal?.throwIfAborted();
      }
    });
  }

  private async saveDay(
    changes: ChangeSet,
    { stationId, log, revision, judged, airedUntilMs }: MadeDay,
  ): Promise<void> {
    const { logs, logWriter, versions, now } = this.parts;
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
    if (current) await versions.keep(changes.em, current, 'before generating');
    await logWriter.save(changes, stationId, log, judged);
    await versions.keep(changes.em, await logs.mustFind(stationId, log.date, changes.em), 'generated');
  }

  private async noteRun(
    { em, activityId }: ChangeSet,
    { stationId, log }: MadeDay,
    range: GenerateRange,
    { rulesOff, categories }: { readonly rulesOff: string[]; readonly categories: string[] | null },
  ): Promise<void> {
    await em.insert(LogRunEntity, {
      id: newId(),
      stationId,
      date: log.date,
      activityId,
      atMs: this.parts.now(),
      seed: range.seed,
      only: range.categories ? 'categories' : range.hours ? 'hours' : range.only,
      hours: range.hours ? [...range.hours] : null,
      categories,
      replacedByHand: range.replaceByHand ?? false,
      rulesOff,
      answers: { ...range.answers },
    });
  }

  private async categoryNames(stationId: string, range: GenerateRange): Promise<string[] | null> {
    if (!range.categories) return null;
    const { categories } = await this.parts.catalogue.catalogue(stationId);
    const names = new Map(categories.map(({ id, name }) => [id, name]));
    return range.categories.map((id) => names.get(id) ?? 'a deleted category');
  }
}
