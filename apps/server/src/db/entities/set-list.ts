import type { Scope, SetListRow } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** An ordered list made by hand of items and picks. */
export const SetListEntity = defineEntity({
  name: 'SetList',
  tableName: 'set_list',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    scope: p.string().$type<Scope>(),
    stationId: p.string().nullable(),
    name: p.string(),
    nameKey: p.string(),
    wantedMs: p.integer().nullable(),
    rows: p.json<SetListRow[]>(),
    position: p.integer(),
  },
});
export type SetListRecord = InferEntity<typeof SetListEntity>;
