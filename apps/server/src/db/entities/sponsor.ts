import type { SponsorPromise } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** A sponsor and what was agreed with it; its messages are the items that name it as their artist. */
export const SponsorEntity = defineEntity({
  name: 'Sponsor',
  tableName: 'sponsor',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    nameKey: p.string(),
    product: p.string(),
    startDate: p.string().nullable(),
    endDate: p.string().nullable(),
    promises: p.json<SponsorPromise[]>(),
    position: p.integer(),
  },
});
export type SponsorRecord = InferEntity<typeof SponsorEntity>;

/** How a station keeps messages apart; its id is the station's. */
export const SponsorSettingsEntity = defineEntity({
  name: 'SponsorSettings',
  tableName: 'sponsor_settings',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    rivalsApartMinutes: p.integer(),
    mostPerHour: p.integer().nullable(),
  },
});
