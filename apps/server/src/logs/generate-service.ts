import type { StationActor } from '../actor.js';
import type { GeneratedDaySummary } from '@fuller/contracts';
import { elementAt, addDays, formatSpan, type GenerateOptions, type StationData } from '@fuller/core';
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

export interface GenerateOutcome extends JobOutcome {
  readonly result: { days: GeneratedDaySummary[]; preview?: boolean };
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
  readonly versions: VersionService;
  readonly previews: Previews;
  readonly now: () => number;
}

/** Generates days of stations: computed first, then written all together, at once or when a preview is accepted. */
export class GenerateService {
  private readonly checks: GenerateChecks;

  constructor(private readonly parts: Parts) {
    this.checks = new GenerateChecks(parts);
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
        made.push(...(await this.make(stationId, range, job, n / stations.length, 1 / stations.length)));
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

  private async make(
    stationId: string,
    range: GenerateRange,
    job: RunningJob,
    begun: number,
    share: number,
  ): Promise<MadeDay[]> {
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
      const of = range.stations?.length ? ` of ${(await catalogue.station(stationId)).name}` : '';
      job.progress(begun + (share * day) / range.days, `Generating ${date}${of}`);
      const previous = await logs.find(stationId, date);
      const done = await compute.run(
        'generateStationDay',
        [
          {
            data: await this.dataFor(stationId, date, Object.values(answers).filter(Boolean)),
            made: made.map(({ log }) => log),
            replacesNext: range.only === 'all' && !range.categories && day + 1 < range.days,
            names,
            rulesOff: range.rulesOff ?? [],
            relax: range.relax,
            options: {
              date,
              seed: range.seed,
              previous: previous ? docOf(previous) : null,
              nowMs: now() + LEAD_MS + LEAD_PER_DAY_MS * (range.days - day),
              runMs: now(),
              ...(range.replaceByHand ? { replaceByHand: true } : {}),
              ...scopeOf(range),
              answers,
            },
          },
        ],
        job.signal,
      );
      job.signal.throwIfAborted();
      refuseEmpty(done.log, date);
      made.push({ ...done, stationId, revision: previous?.revision ?? null });
    }
    return made;
  }

  /** What a run would put into the open slots of a day, with what it strains; nothing is written. */
  async plan(
    stationId: string,
    date: string,
    run: {
      readonly seed: number;
      readonly rulesOff: readonly string[];
      readonly answers: Readonly<Record<string, string>>;
      readonly atMs: number;
    },
  ): Promise<GeneratedDayResult & { readonly revision: number }> {
    const { logs, compute, now } = this.parts;
    const row = await logs.mustFind(stationId, date);
    const made = await compute.run('generateStationDay', [
      {
        data: await this.dataFor(stationId, date, Object.values(run.answers).filter(Boolean)),
        made: [],
        replacesNext: false,
        names: {},
        rulesOff: run.rulesOff,
        options: {
          date,
          seed: run.seed,
          previous: docOf(row),
          nowMs: now(),
          runMs: run.atMs,
          only: 'open',
          answers: run.answers,
        },
      },
    ]);
    return { ...made, revision: row.revision };
  }

  private async dataFor(
    stationId: string,
    date: string,
    filters: readonly string[],
  ): Promise<Uint8Array | StationData> {
    const { thread, reader } = this.parts;
    return thread ? thread.data(stationId, date, filters) : reader.data(stationId, date, { filters });
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

/** The rules that did not apply in a run, and those that asked less. */
function offWords({ rulesOff = [], relax = [] }: GenerateRange, sentences: Readonly<Record<string, string>>): string[] {
  const nameOf = (id: string): string => sentences[id] ?? 'a deleted rule';
  return [
    ...rulesOff.map(nameOf),
    ...relax.map(({ ruleId, seconds }) => `${nameOf(ruleId)}, loosened to ${formatSpan(seconds)}`),
  ];
}

function outcomeOf(range: GenerateRange, made: readonly MadeDay[], written: Written<void>): GenerateOutcome {
  const several = new Set(made.map(({ stationId }) => stationId)).size > 1;
  const days = made.map(({ summary, stationId }) => (several ? { ...summary, stationId } : summary));
  const open = days.reduce((sum, one) => sum + one.open.length, 0);
  const message =
    written.activityId === null
      ? `${spanOf(range)}: nothing was left to change.`
      : `${spanOf(range)}: ${open === 0 ? 'every slot filled' : `${open} open`}.`;
  return { activityId: written.activityId, message, result: { days } };
}

function scopeOf({ categories, hours, only }: GenerateRange): Pick<GenerateOptions, 'only' | 'hours' | 'categories'> {
  if (categories) return { only: 'categories', categories, ...(hours ? { hours } : {}) };
  return hours ? { only: 'hours', hours } : { only };
}

function spanOf({ from, days, stations }: GenerateRange): string {
  const what = days === 1 ? from : `${days} days`;
  return stations?.length ? `${what} of ${stations.length + 1} stations` : what;
}

export function labelOf({ from, days, hours, stations }: GenerateRange): string {
  const of = stations?.length ? ` of ${stations.length + 1} stations` : '';
  if (hours) return `Regenerate ${hours.length === 1 ? 'an hour' : `${hours.length} hours`} of ${from}`;
  return days === 1 ? `Generate ${from}${of}` : `Generate ${days} days from ${from}${of}`;
}
