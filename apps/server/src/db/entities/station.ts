import { defineEntity, p } from '@mikro-orm/core';
import type { InferEntity } from '@mikro-orm/core';

export const StationGroupEntity = defineEntity({
  name: 'StationGroup',
  tableName: 'station_group',
  properties: { id: p.string().primary(), name: p.string() },
});

export const StationEntity = defineEntity({
  name: 'Station',
  tableName: 'station',
  properties: {
    id: p.string().primary(),
    groupId: p.string(),
    name: p.string(),
    frequency: p.string(),
    timeZone: p.string(),
    revision: p.integer().default(1),
    /** Kept to look at; nothing is planned, made or handed over for it. */
    archived: p.boolean().default(false),
    /** Moves that are due are made each night. */
    movesByItself: p.boolean().default(false),
    /** The date they were made last. */
    movedOn: p.string().nullable(),
    position: p.integer(),
  },
});
export type StationRecord = InferEntity<typeof StationEntity>;
