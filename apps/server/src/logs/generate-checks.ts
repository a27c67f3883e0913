import { addDays, airedIds, allEntries, formatLocalDateTime, itemOf, StationModel, type DailyLog } from '@fuller/core';
import { titleOffAir } from '../db/queries/items.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import type { PoolService } from '../pools/pool-service.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { LogService } from './log-service.js';
import type { StationReader } from './station-reader.js';
import { docOf } from './stored-logs.js';

/** A separation that asks for fewer seconds in one run. */
export interface RelaxedRule {
  readonly ruleId: string;
  readonly seconds: number;
}

export interface GenerateRange {
  readonly from: string;
  readonly days: number;
  readonly seed: number;
  readonly only: 'all' | 'open';
  /** Only these hours of one day, by their place in it. */
  readonly hours?: readonly number[] | undefined;
  /** Ids of categories whose slots are chosen again, all others stay. */
  readonly categories?: readonly string[] | undefined;
  /** Ids of other stations of the same run. */
  readonly stations?: readonly string[] | undefined;
  /** Separations that ask less in this run. */
  readonly relax?: readonly RelaxedRule[] | undefined;
  /** Whether the run is only to show what it would change. */
  readonly preview?: boolean | undefined;
  readonly replaceByHand?: boolean | undefined;
  readonly answers?: Readonly<Record<string, string>> | undefined;
  /** Ids of rules that do not apply in this run. */
  readonly rulesOff?: readonly string[] | undefined;
}

/** An item that a run chose was taken off the air meanwhile. */
export class TakenOffAir extends FullerError {}

interface Parts {
  readonly logs: LogService;
  readonly reader: StationReader;
  readonly catalogue: CatalogueService;
  readonly pools: PoolService;
  readonly now: () => number;
}

/** Refuses runs that cannot come to anything. */
export class GenerateChecks {
  constructor(private readonly parts: Parts) {}

  /** What can be refused before a job is made of it. */
  async check(stationId: string, range: GenerateRange): Promise<void> {
    for (const id of new Set([stationId, ...(range.stations ?? [])])) await this.checkStation(id, range);
  }

  private async checkStation(stationId: string, range: GenerateRange): Promise<void> {
    const { logs, pools, reader, catalogue, now } = this.parts;
    await catalogue.mustHave(stationId, true);
    const { timeZone } = await catalogue.station(stationId);
    if (range.hours && range.days > 1)
      throw new FullerError('INVALID', 'Hours are regenerated for one day at a time.', 'hours');
    const today = formatLocalDateTime(now(), timeZone).slice(0, 10);
    if (range.from < today)
      throw new FullerError('INVALID', `${range.from} has aired; only today and later days can be generated.`, 'from');
    const { rules } = await reader.ground(stationId);
    for (const id of range.rulesOff ?? [])
      if (!rules.some((rule) => rule.id === id))
        throw new FullerError('INVALID', `There is no rule “${id}”.`, 'rulesOff');
    for (const { ruleId } of range.relax ?? [])
      if (!rules.some((rule) => rule.id === ruleId && rule.shape === 'apart'))
        throw new FullerError('INVALID', `There is no separation “${ruleId}” to loosen.`, 'relax');
    if (range.categories) await this.refuseCategories(stationId, range);
    else if (range.hours) await logs.mustFind(stationId, range.from);
    const previous = await logs.find(stationId, range.from);
    if (previous && range.from === today && range.days === 1) await this.refuseAired(stationId, docOf(previous), range);
    for (const [question, filter] of Object.entries(range.answers ?? {})) {
      await pools.read(stationId, filter).catch((error: unknown) => {
        if (!(error instanceof FullerError)) throw error;
        throw new FullerError('INVALID', `The answer to “${question}”: ${error.message}`, 'answers');
      });
    }
  }

  /** Refuses a run over categories that the station does not have, or over a day without a log. */
  private async refuseCategories(
    stationId: string,
    { categories = [], from, days, only }: GenerateRange,
  ): Promise<void> {
    const { logs, catalogue } = this.parts;
    if (only === 'open')
      throw new FullerError('INVALID', 'Choose categories or only the open slots, not both.', 'categories');
    const known = new Set((await catalogue.catalogue(stationId)).categories.map(({ id }) => id));
    const unknown = categories.find((id) => !known.has(id));
    if (unknown !== undefined) throw new FullerError('INVALID', `There is no category “${unknown}”.`, 'categories');
    for (let day = 0; day < days; day++) await logs.mustFind(stationId, addDays(from, day));
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
}

/** Refuses what may not air any more: an item can be taken off the air while a run that chose it goes on. */
export async function refuseTakenOff(em: Em, { date, hours }: DailyLog, before: DailyLog | null): Promise<void> {
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
  const title = await titleOffAir(em, chosen, date);
  if (title !== null)
    throw new TakenOffAir('CONFLICT', `${title} was taken off the air while ${date} was being generated.`);
}

/** Refuses a day on which no clock runs. */
export function refuseEmpty(log: DailyLog, date: string): void {
  if (allEntries(log).length === 0) {
    throw new FullerError('INVALID', `No clock runs on ${date}; paint the week or choose a default clock.`, 'from');
  }
}
