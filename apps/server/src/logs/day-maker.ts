import { addDays, type GenerateOptions, type StationData } from '@fuller/core';
import type { Compute } from '../jobs/compute.js';
import type { GeneratedDayResult } from '../jobs/generate-task.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { ReadingThread } from '../readers/reading-thread.js';
import { ruleSentences } from '../rules/rule-names.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Store } from '../store/store.js';
import { refuseEmpty, type GenerateRange } from './generate-checks.js';
import type { LogService } from './log-service.js';
import type { MadeDay } from './made-day.js';
import type { StationReader } from './station-reader.js';
import { docOf } from './stored-logs.js';

/** What is on the air when a run is written has begun up to so much before: time for a run to be worked out. */
const LEAD_MS = 15_000;
const LEAD_PER_DAY_MS = 4_000;

interface Parts {
  readonly store: Store;
  readonly logs: LogService;
  readonly reader: StationReader;
  readonly thread: ReadingThread | null;
  readonly catalogue: CatalogueService;
  readonly compute: Compute;
  readonly now: () => number;
}

interface MakeOptions {
  /** Progress of the job goes from here on over a share of it. */
  readonly begun: number;
  readonly share: number;
  /** Days of other stations made in the same run, which the database does not know yet. */
  readonly elsewhere: readonly MadeDay[];
}

/** Works days out in threads; nothing is written. */
export class DayMaker {
  constructor(private readonly parts: Parts) {}

  /** The days of a station in a range. */
  async make(
    stationId: string,
    range: GenerateRange,
    job: RunningJob,
    { begun, share, elsewhere }: MakeOptions,
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
            elsewhere: elsewhere.map(({ stationId: id, log, judged }) => ({ stationId: id, log, plays: judged.plays })),
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
}

function scopeOf({ categories, hours, only }: GenerateRange): Pick<GenerateOptions, 'only' | 'hours' | 'categories'> {
  if (categories) return { only: 'categories', categories, ...(hours ? { hours } : {}) };
  return hours ? { only: 'hours', hours } : { only };
}
