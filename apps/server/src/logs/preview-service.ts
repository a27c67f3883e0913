import type { PreviewDay } from '@fuller/contracts';
import { allEntries, itemOf, restoreHours, StationModel } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { FullerError } from '../errors.js';
import type { Written } from '../store/store.js';
import type { GenerateService } from './generate-service.js';
import type { MadeDay } from './made-day.js';
import type { LogService } from './log-service.js';
import type { Previews } from './previews.js';
import type { StationReader } from './station-reader.js';
import { docOf } from './stored-logs.js';

interface Acceptance {
  readonly revision?: number | null | undefined;
  readonly date?: string | undefined;
  readonly hours?: readonly number[] | undefined;
}

/** Shows what runs would write, and writes what is accepted of it. */
export class PreviewService {
  constructor(
    private readonly previews: Previews,
    private readonly generate: GenerateService,
    private readonly logs: LogService,
    private readonly reader: StationReader,
    private readonly now: () => number,
  ) {}

  days(stationId: string, id: string): Promise<PreviewDay[]> {
    return Promise.all(
      this.previews.mustFind(id, stationId).days.map(async (day): Promise<PreviewDay> => {
        const ids = allEntries(day.log).flatMap((entry) => itemOf(entry) ?? []);
        return {
          date: day.log.date,
          stationId: day.stationId,
          revision: day.revision,
          log: day.log as PreviewDay['log'],
          items: await this.reader.shown.withIds(ids),
          strains: [...day.judged.strains],
        };
      }),
    );
  }

  /** Forgets a preview; one that is no longer kept is none. */
  drop(stationId: string, id: string): void {
    this.previews.mustFind(id, stationId);
    this.previews.drop(id);
  }

  /**
   * Writes a preview, or some hours of one of its days. A log that has been changed since is refused, unless the person
   * names the revision they saw beside the preview: then they have seen the change too.
   */
  async accept(actor: StationActor, id: string, { revision, date, hours }: Acceptance): Promise<Written<void>> {
    const { range, days } = this.previews.mustFind(id, actor.stationId);
    if ((hours || revision !== undefined) && date === undefined)
      throw new FullerError('INVALID', 'Name the date of the day that is meant.', 'date');
    const accepted = days.filter(
      (day) => date === undefined || (day.log.date === date && day.stationId === actor.stationId),
    );
    if (accepted.length === 0) throw new FullerError('INVALID', `The preview has no day ${date}.`, 'date');
    const ready = await Promise.all(accepted.map((day) => this.asSeen(day, revision, hours)));
    // The history tells what was written, not what was shown.
    const written = await this.generate.save(actor, hours ? { ...range, hours } : range, ready);
    if (!hours && ready.length === days.length) this.previews.drop(id);
    return written;
  }

  /** The day on top of the log as the person saw it; only some hours of it where they chose them. */
  private async asSeen(
    day: MadeDay,
    revision: number | null | undefined,
    hours: readonly number[] | undefined,
  ): Promise<MadeDay> {
    const { stationId, log: made } = day;
    const row = await this.logs.find(stationId, made.date);
    const current = row?.revision ?? null;
    const seen = revision === undefined ? day.revision : revision;
    if (current !== seen)
      throw new FullerError(
        'CONFLICT',
        `Somebody else changed the log of ${made.date} since the preview was made. Look at both, and choose again.`,
      );
    const before = row && docOf(row);
    const hasBegun = before && (before.hours[0]?.startMs ?? Infinity) <= this.now();
    if (!before || (current === day.revision && !hours && !hasBegun)) return { ...day, revision: current };
    const aired = await this.logs.airedOf(stationId, before);
    const model = new StationModel(await this.reader.data(stationId, made.date, { log: made }));
    const log = restoreHours(model, before, made, { hours: hours ?? null, aired, nowMs: this.now() });
    return {
      ...day,
      log,
      revision: current,
      judged: await this.logs.judge(stationId, log),
      airedUntilMs: this.now() + 1000,
    };
  }
}
