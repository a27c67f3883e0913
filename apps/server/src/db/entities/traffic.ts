import type { LineError, TrayRow } from '@fuller/contracts';
import type { TextLayout } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** How a station takes traffic logs; its id is the station's. */
export const TrafficSettingsEntity = defineEntity({
  name: 'TrafficSettings',
  tableName: 'traffic_settings',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    toleranceMs: p.integer(),
    /** Null proposes a layout from each file. */
    layoutId: p.string().nullable(),
    /** Where traffic puts its files; null watches none. */
    folder: p.string().nullable(),
    automatic: p.boolean(),
  },
});

/** A layout of text logs that a station keeps. */
export const TextLayoutEntity = defineEntity({
  name: 'TextLayout',
  tableName: 'text_layout',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    nameKey: p.string(),
    layout: p.json<TextLayout>(),
  },
});

/** The traffic log that was imported last for a day, with what of it is not in a break. */
export const TrafficDayEntity = defineEntity({
  name: 'TrafficDay',
  tableName: 'traffic_day',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    date: p.string(),
    atMs: p.bigint('number'),
    fileName: p.string(),
    /** Of the text, so that a file is not imported twice by itself. */
    hash: p.string(),
    lines: p.integer(),
    tray: p.json<TrayRow[]>(),
    errors: p.json<LineError[]>(),
  },
});
export type TrafficDayRecord = InferEntity<typeof TrafficDayEntity>;
