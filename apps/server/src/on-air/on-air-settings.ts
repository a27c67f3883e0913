import type { OnAirSettings, OnAirSettingsForm } from '@fuller/contracts';
import type { StationActor } from '../actor.js';
import { OnAirSecretEntity, OnAirSettingsEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { staleRevision } from '../store/change-set.js';
import { ofActiveStations } from '../stations/active-stations.js';
import type { Store, Written } from '../store/store.js';
import { USUAL_LATE_MS } from './as-run-reader.js';

const NEVER_SET: OnAirSettings = {
  revision: 0,
  playerUrl: null,
  hasToken: false,
  lateMs: USUAL_LATE_MS,
  acceptAll: true,
};

/** A player and what lets Fuller in. */
export interface PlayerAddress {
  readonly url: string;
  readonly token: string;
}

/** How stations follow their players. */
export class OnAirSettingsService {
  constructor(private readonly store: Store) {}

  async of(stationId: string, em: Em = this.store.read): Promise<OnAirSettings> {
    const row = await em.findOne(OnAirSettingsEntity, { id: stationId });
    if (!row) return NEVER_SET;
    const hasToken = (await em.count(OnAirSecretEntity, { id: stationId })) > 0;
    const { revision, playerUrl, lateMs, acceptAll } = row;
    return { revision, playerUrl: playerUrl ?? null, hasToken, lateMs, acceptAll: Boolean(acceptAll) };
  }

  /** Stations that have a player. */
  async withPlayer(): Promise<string[]> {
    const rows = await this.store.read.find(OnAirSettingsEntity, { playerUrl: { $ne: null } });
    const active = await ofActiveStations(this.store.read, rows, ({ id }) => id);
    return active.map(({ id }) => id);
  }

  /** The player of a station; null without one. */
  async playerOf(stationId: string): Promise<PlayerAddress | null> {
    const em = this.store.read;
    const row = await em.findOne(OnAirSettingsEntity, { id: stationId });
    if (!row?.playerUrl) return null;
    const secret = await em.findOne(OnAirSecretEntity, { id: stationId });
    return { url: row.playerUrl, token: secret?.playerToken ?? '' };
  }

  set(
    { stationId, clientId }: StationActor,
    { revision, token, ...fields }: OnAirSettingsForm,
  ): Promise<Written<void>> {
    return this.store.write({ clientId, stationId, label: 'Change what is on the air' }, async (changes) => {
      const before = await this.of(stationId, changes.em);
      if (before.revision !== revision) throw staleRevision('setting');
      if (revision === 0) await changes.insert('onAirSettings', [{ ...fields, id: stationId, revision: 1 }]);
      else await changes.update('onAirSettings', stationId, fields, revision);
      if (token === '') await changes.em.nativeDelete(OnAirSecretEntity, { id: stationId });
      else if (token !== undefined) await changes.em.upsert(OnAirSecretEntity, { id: stationId, playerToken: token });
    });
  }
}
