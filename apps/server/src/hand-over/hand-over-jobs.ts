import { addDays, formatAirTime, localTimeOf } from '@fuller/core';
import type { JobView } from '@fuller/contracts';
import { programAt, type StationActor } from '../actor.js';
import { OutputNightEntity } from '../db/entities/index.js';
import type { JobRunner } from '../jobs/job-runner.js';
import type { LogService } from '../logs/log-service.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Store } from '../store/store.js';
import type { HandOverService } from './hand-over-service.js';
import type { OutputService } from './output-service.js';

const CHECK_EVERY_MS = 20_000;

/** What hands over in the background: by hand, and each day at the time of an output. */
export class HandOverJobs {
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly store: Store,
    private readonly catalogue: CatalogueService,
    private readonly logs: LogService,
    private readonly outputs: OutputService,
    private readonly handOver: HandOverService,
    private readonly jobs: JobRunner,
    private readonly now: () => number,
  ) {}

  /** Begins to hand a day over by an output. Throws NOT_FOUND and NO_LOG at once. */
  async begin(actor: StationActor, date: string, outputId: string): Promise<JobView> {
    const { stationId, clientId } = actor;
    const { name } = await this.outputs.mustFind(stationId, outputId);
    await this.logs.mustFind(stationId, date);
    const label = `Hand over ${date} to ${name}`;
    return this.jobs.start({ kind: 'hand-over', label, stationId, clientId }, async (job) => {
      const { value } = await this.handOver.handOver(actor, date, outputId, job);
      const { entries, files, heldBack, folder } = value;
      const left = heldBack > 0 ? `, ${heldBack} left out` : '';
      const count = files.length === 1 ? '1 file' : `${files.length} files`;
      return {
        activityId: null,
        message: `${entries.toLocaleString('en-GB')} entries in ${count} to ${folder}${left}.`,
        result: null,
      };
    });
  }

  /** Looks from now on whether an output is to write by itself. */
  watch(reportFault: (error: unknown) => void): void {
    const look = (): void => void this.handOverDue().catch(reportFault);
    look();
    this.timer = setInterval(look, CHECK_EVERY_MS);
    this.timer.unref();
  }

  /** Hands over what is due: once a day, from the time of the output on, so that a late start makes up for it. */
  async handOverDue(): Promise<void> {
    for (const { id, stationId, nightly } of await this.outputs.nightly()) {
      if (!nightly) continue;
      const { timeZone } = await this.catalogue.station(stationId);
      const nowMs = this.now();
      const today = localTimeOf(nowMs, timeZone).date;
      const clock = formatAirTime(nowMs, timeZone).slice(0, 5);
      if (!(await this.isDue(id, today, clock >= nightly.at))) continue;
      const date = addDays(today, nightly.daysAhead);
      await this.begin(programAt(stationId, 'nightly'), date, id).catch((error: unknown) =>
        this.tell(stationId, date, error),
      );
    }
  }

  /**
   * Whether an output is to write by itself now; it is then noted as written today. One whose time was set after it had
   * passed begins tomorrow.
   */
  private isDue(id: string, today: string, isPast: boolean): Promise<boolean> {
    return this.store.quietly(async (em) => {
      const known = await em.findOne(OutputNightEntity, { id });
      if (known && (!isPast || known.date >= today)) return false;
      await em.upsert(OutputNightEntity, { id, date: isPast ? today : addDays(today, -1) });
      return known !== null;
    });
  }

  /** A night that fails is told among the jobs. */
  private tell(stationId: string, date: string, error: unknown): void {
    const about = { kind: 'hand-over', label: `Hand over ${date}`, stationId, clientId: 'nightly' } as const;
    this.jobs.start(about, () => Promise.reject(error as Error));
  }

  close(): void {
    if (this.timer) clearInterval(this.timer);
  }
}
