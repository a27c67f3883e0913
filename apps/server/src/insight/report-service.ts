import type { AskedReport, ReportAnswer } from '@fuller/contracts';
import { MOST_REPORT_DAYS } from '@fuller/contracts';
import {
  addDays,
  datesIn,
  datesOfRange,
  elementAt,
  hoursOfDay,
  localTimeOf,
  makeReport,
  rangeBefore,
  StationModel,
  turnoverSheet,
  turnoverOf,
  type DateRange,
  type ReportCategory,
  type ReportGround,
  type ReportItem,
  type ReportKind,
  type ReportNames,
  type StationDays,
} from '@fuller/core';
import { itemsForReports, requestsBetween } from '../db/queries/figures.js';
import { CategoryEntity, DaypartEntity, StationEntity, type StationRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import type { StationReader } from '../logs/station-reader.js';
import { ruleFamilies, ruleSentences } from '../rules/rule-names.js';
import { KeptLatest } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';
import type { FiguresReader } from './figures-reader.js';

interface NamesBesideItems extends Omit<ReportNames, 'items'> {
  /** Items that could have played. */
  readonly inMusic: readonly string[];
}

/** Makes reports over the days of stations. */
export class ReportService {
  private readonly named = new KeptLatest<NamesBesideItems>(12);
  private readonly items = new KeptLatest<Map<string, ReportItem | null>>(1);

  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly figures: FiguresReader,
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {}

  async report(stationId: string, kind: ReportKind, asked: AskedReport): Promise<ReportAnswer> {
    const stations = await this.stations([stationId, ...asked.stationIds]);
    const { timeZone } = elementAt(stations, 0);
    const today = localTimeOf(this.now(), timeZone).date;
    const range = typeof asked.range === 'string' ? datesOfRange(asked.range, today) : asked.range;
    const dates = datesIn(range);
    if (dates.length > MOST_REPORT_DAYS)
      throw new FullerError('INVALID', `A report covers ${MOST_REPORT_DAYS} days at most.`, 'to');
    const before = rangeBefore(range);
    const daypart = await this.daypart(stationId, asked.daypartId);
    const days = await Promise.all(stations.map((station) => this.daysOf(station, range, before, kind)));
    const ground: ReportGround = {
      stations: days,
      names: await this.names(stations, days, kind),
      dates,
      hours: daypart?.hours ?? null,
    };
    const made = makeReport(kind, ground, { categoryId: asked.categoryId, family: asked.family });
    return {
      report: kind,
      ...range,
      beforeFrom: before.from,
      beforeTo: before.to,
      stations: stations.map(({ name }) => name),
      daypart: daypart?.name ?? null,
      ...(made as Omit<ReportAnswer, 'report' | 'from' | 'to' | 'beforeFrom' | 'beforeTo' | 'stations' | 'daypart'>),
    };
  }

  private async stations(ids: readonly string[]): Promise<StationRecord[]> {
    const wanted = [...new Set(ids)];
    const found = await this.store.read.find(StationEntity, { id: { $in: wanted } });
    return wanted.map((id) => {
      const station = found.find((one) => one.id === id);
      if (!station) throw notFound('station', id);
      return station;
    });
  }

  private async daypart(stationId: string, id: string | null): Promise<{ name: string; hours: string } | null> {
    if (id === null) return null;
    const daypart = await this.store.read.findOne(DaypartEntity, { id, stationId });
    if (!daypart) throw notFound('daypart', id);
    return daypart;
  }

  private async daysOf(
    { id, name, timeZone }: StationRecord,
    range: DateRange,
    before: DateRange,
    kind: ReportKind,
  ): Promise<StationDays> {
    const all = await this.figures.days(id, before.from, range.to);
    const days = all.filter(({ date }) => date >= range.from);
    const now = localTimeOf(this.now(), timeZone);
    const startMs = elementAt(hoursOfDay(now.date, timeZone), 0).startMs;
    return {
      name,
      days,
      before: all.filter(({ date }) => date < range.from),
      // A day before today has aired whole, what ran over its midnight too.
      airedUntil: (date) => (date < now.date ? Infinity : date > now.date ? -1 : (this.now() - startMs) / 1000),
      requests: kind === 'requests' ? await this.requests(id, timeZone, before.from, range.to) : new Map(),
    };
  }

  private async requests(
    stationId: string,
    timeZone: string,
    from: string,
    to: string,
  ): Promise<StationDays['requests']> {
    const startOf = (date: string): number => elementAt(hoursOfDay(date, timeZone), 0).startMs;
    const rows = await requestsBetween(this.store.read, stationId, startOf(from), startOf(addDays(to, 1)));
    const byDate = new Map<string, Record<string, number>>();
    for (const { atMs, state } of rows) {
      const { date } = localTimeOf(atMs, timeZone);
      const own = byDate.get(date) ?? {};
      own[state] = (own[state] ?? 0) + 1;
      byDate.set(date, own);
    }
    return byDate;
  }

  private async names(
    stations: readonly StationRecord[],
    days: readonly StationDays[],
    kind: ReportKind,
  ): Promise<ReportNames> {
    const all = await Promise.all(
      stations.map(({ id, timeZone }) => {
        const { date } = localTimeOf(this.now(), timeZone);
        return this.named.get(id, `${this.revisions.ground} ${date}`, () => this.readNames(id, date));
      }),
    );
    // What did not air is told of songs alone.
    const ids = new Set(kind === 'songs' ? all.flatMap(({ inMusic }) => inMusic) : []);
    for (const station of days)
      for (const { plays } of [...station.days, ...station.before]) for (const { itemId } of plays) ids.add(itemId);
    return {
      items: await this.itemsWith(ids),
      categories: new Map(all.flatMap(({ categories }) => [...categories])),
      rules: new Map(all.flatMap(({ rules }) => [...rules])),
      sponsors: all.flatMap(({ sponsors }) => sponsors),
      families: all[0]?.families ?? [],
    };
  }

  /** Items are read once for every change of the library; what is gone is known to be gone. */
  private async itemsWith(ids: ReadonlySet<string>): Promise<Map<string, ReportItem>> {
    const known = await this.items.get('', String(this.revisions.ground), () => Promise.resolve(new Map()));
    const missing = [...ids].filter((id) => !known.has(id));
    if (missing.length > 0) {
      const read = await itemsForReports(this.store.read, missing);
      for (const id of missing) known.set(id, read.get(id) ?? null);
    }
    const found = new Map<string, ReportItem>();
    for (const id of ids) {
      const item = known.get(id);
      if (item) found.set(id, item);
    }
    return found;
  }

  private async readNames(stationId: string, date: string): Promise<NamesBesideItems> {
    const em = this.store.read;
    const data = await this.reader.data(stationId, date);
    const sheet = new Map(
      turnoverSheet(new StationModel(data), [], date, this.now()).map((row) => [row.categoryId, row]),
    );
    const expectedOf = (id: string): ReportCategory['expected'] => {
      const row = sheet.get(id);
      const turn = row ? turnoverOf(row.slots, row.canPlay) : null;
      return row && turn
        ? { items: row.canPlay, slotsPerWeek: turn.slotsPerWeek, restMs: turn.averageRest * 1000 }
        : null;
    };
    // Plays may have been picked from a category of which the station has made its own since.
    const categories = await em.find(CategoryEntity, {}, { orderBy: { position: 'asc' } });
    return {
      categories: new Map(
        categories.map(({ id, name, code, colour, music }) => [
          id,
          { name, code, colour, music: Boolean(music), expected: expectedOf(id) },
        ]),
      ),
      rules: new Map([
        ...Object.entries(await ruleSentences(em, stationId)),
        ['', 'Rules that were not counted then'] as const,
      ]),
      sponsors: data.sponsors?.sponsors ?? [],
      families: (await ruleFamilies(em)).map(({ name, values }) => ({ name, values })),
      inMusic: data.musicCategories.flatMap((id) => data.categories[id] ?? []),
    };
  }
}
