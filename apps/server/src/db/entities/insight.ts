import type { AskedReport } from '@fuller/contracts';
import type { ReportKind } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** The figures of a station's day as compact text; they follow from its log and its plays. */
export const DayFiguresEntity = defineEntity({
  name: 'DayFigures',
  tableName: 'day_figures',
  properties: { id: p.string().primary(), stationId: p.string(), date: p.string(), figures: p.text() },
});

/** A day whose figures are to be worked out again; the mark grows with every change of it. */
export const StaleFiguresEntity = defineEntity({
  name: 'StaleFigures',
  tableName: 'stale_figures',
  properties: { id: p.string().primary(), stationId: p.string(), date: p.string(), mark: p.integer() },
});

/** A report kept under a name, with what it is asked. */
export const KeptReportEntity = defineEntity({
  name: 'KeptReport',
  tableName: 'kept_report',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    nameKey: p.string(),
    report: p.string().$type<ReportKind>(),
    asked: p.json<AskedReport>(),
    position: p.integer(),
  },
});
export type KeptReportRecord = InferEntity<typeof KeptReportEntity>;
