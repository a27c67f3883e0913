import { LINK_TARGETS, MOVING_RANGES, REPORT_KINDS, REPORT_UNITS } from '@fuller/core';
import * as v from 'valibot';
import { AirDate, Id, Name, Revision, ShortText } from './basics.js';

/** A report covers so many days at most: a leap year. */
export const MOST_REPORT_DAYS = 366;
/** So many stations are reported on together. */
const MOST_STATIONS = 50;

const FixedRange = v.pipe(
  v.strictObject({ from: AirDate, to: AirDate }),
  v.check(({ from, to }) => from <= to, 'ends before it begins'),
);

/** What a report is asked, besides its kind. */
export const AskedReport = v.strictObject({
  /** A range that moves with the date, or two dates, both included. */
  range: v.union([v.picklist(MOVING_RANGES), FixedRange]),
  /** A daypart of the station; null for every hour. */
  daypartId: v.nullable(Id),
  /** Further stations that count too. */
  stationIds: v.pipe(v.array(Id), v.maxLength(MOST_STATIONS)),
  /** For hours by days: a category; null for every song. */
  categoryId: v.nullable(Id),
  /** For the mix: a tag family by its name; null for the first. */
  family: v.nullable(ShortText),
});
export type AskedReport = v.InferOutput<typeof AskedReport>;

const optionalId = v.optional(Id);
/** The same in an address: a moving range, or from and to. */
export const ReportQuery = v.pipe(
  v.strictObject({
    range: v.optional(v.picklist(MOVING_RANGES)),
    from: v.optional(AirDate),
    to: v.optional(AirDate),
    daypart: optionalId,
    /** Ids with commas between them. */
    stations: v.optional(
      v.pipe(
        v.string(),
        v.transform((text) => text.split(',').filter(Boolean)),
        v.array(Id),
        v.maxLength(MOST_STATIONS),
      ),
    ),
    category: optionalId,
    family: v.optional(ShortText),
  }),
  v.check(
    ({ range, from, to }) => (range === undefined) === (from !== undefined && to !== undefined),
    'names a range, or both from and to',
  ),
  v.check(({ from, to }) => from === undefined || to === undefined || from <= to, 'ends before it begins'),
  v.transform(({ range, from, to, daypart, stations, category, family }): AskedReport => ({
    range: range ?? { from: from!, to: to! },
    daypartId: daypart ?? null,
    stationIds: stations ?? [],
    categoryId: category ?? null,
    family: family ?? null,
  })),
);

/** What a report is asked, as the query of its address. */
export function reportAddress({
  range,
  daypartId,
  stationIds,
  categoryId,
  family,
}: AskedReport): v.InferInput<typeof ReportQuery> & Record<string, string> {
  return {
    ...(typeof range === 'string' ? { range } : range),
    ...(daypartId === null ? {} : { daypart: daypartId }),
    ...(stationIds.length ? { stations: stationIds.join(',') } : {}),
    ...(categoryId === null ? {} : { category: categoryId }),
    ...(family === null ? {} : { family }),
  };
}

const ReportLink = v.object({ to: v.picklist(LINK_TARGETS), id: v.string() });
const links = v.array(v.nullable(ReportLink));
const unit = v.picklist(REPORT_UNITS);
const values = v.array(v.nullable(v.number()));
const Picture = v.variant('shape', [
  v.object({
    shape: v.picklist(['bars', 'lines', 'stack']),
    unit,
    labels: v.array(v.string()),
    series: v.array(
      v.object({ name: v.string(), colour: v.nullable(v.string()), values, link: v.optional(ReportLink) }),
    ),
    links,
  }),
  v.object({
    shape: v.literal('heat'),
    unit,
    rows: v.array(v.string()),
    columns: v.array(v.string()),
    values: v.array(values),
    links: v.array(links),
  }),
]);

export const ReportKindName = v.picklist(REPORT_KINDS);

/** A report with the dates it is about. */
export const ReportAnswer = v.object({
  report: ReportKindName,
  from: AirDate,
  to: AirDate,
  /** The range before, of the same length. */
  beforeFrom: AirDate,
  beforeTo: AirDate,
  /** Names of the stations counted. */
  stations: v.array(v.string()),
  /** The name of the daypart; null for every hour. */
  daypart: v.nullable(v.string()),
  sentence: v.string(),
  picture: Picture,
  columns: v.array(v.object({ label: v.string(), unit: v.union([unit, v.literal('text')]) })),
  rows: v.array(
    v.object({ cells: v.array(v.nullable(v.union([v.string(), v.number()]))), link: v.nullable(ReportLink) }),
  ),
  empty: v.boolean(),
});
export type ReportAnswer = v.InferOutput<typeof ReportAnswer>;

/** A report kept under a name. */
export const KeptReport = v.object({
  id: Id,
  revision: Revision,
  name: v.string(),
  report: ReportKindName,
  asked: AskedReport,
});
export type KeptReport = v.InferOutput<typeof KeptReport>;
export const NewKeptReport = v.object({ name: Name, report: ReportKindName, asked: AskedReport });
export type NewKeptReport = v.InferOutput<typeof NewKeptReport>;
export const KeptReportPatch = v.object({
  revision: Revision,
  name: v.optional(Name),
  report: v.optional(ReportKindName),
  asked: v.optional(AskedReport),
});
export type KeptReportPatch = v.InferOutput<typeof KeptReportPatch>;
