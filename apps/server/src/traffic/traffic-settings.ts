import { USUAL_TOLERANCE_MS, type KeptLayout, type TrafficSettings } from '@fuller/contracts';
import { checkLayout, nameKey, type TextLayout } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { TextLayoutEntity, TrafficSettingsEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import type { ExchangeRoots } from '../hand-over/exchange-roots.js';
import { staleRevision } from '../store/change-set.js';
import { ofActiveStations } from '../stations/active-stations.js';
import type { Store, Written } from '../store/store.js';

const NEVER_SET: TrafficSettings = {
  revision: 0,
  toleranceMs: USUAL_TOLERANCE_MS,
  layoutId: null,
  folder: null,
  automatic: false,
};
const MOST_LAYOUTS = 50;

/** How stations take traffic logs, and the layouts they keep. */
export class TrafficSettingsService {
  constructor(
    private readonly store: Store,
    readonly roots: ExchangeRoots,
  ) {}

  async of(stationId: string, em: Em = this.store.read): Promise<TrafficSettings> {
    const row = await em.findOne(TrafficSettingsEntity, { id: stationId });
    if (!row) return NEVER_SET;
    const { revision, toleranceMs, layoutId, folder, automatic } = row;
    return {
      revision,
      toleranceMs,
      layoutId: layoutId ?? null,
      folder: folder ?? null,
      automatic: Boolean(automatic),
    };
  }

  /** Stations that watch a folder, with its path. */
  async watching(): Promise<{ readonly stationId: string; readonly folder: string }[]> {
    const rows = await this.store.read.find(TrafficSettingsEntity, { folder: { $ne: null } });
    const active = await ofActiveStations(this.store.read, rows, ({ id }) => id);
    return active.map(({ id, folder }) => ({ stationId: id, folder: folder! }));
  }

  async set({ stationId, clientId }: StationActor, { revision, ...fields }: TrafficSettings): Promise<Written<void>> {
    if (fields.folder !== null) await this.roots.folderAt(fields.folder);
    if (fields.layoutId !== null) await this.mustFind(stationId, fields.layoutId);
    const label = 'Change how traffic logs are imported';
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const before = await this.of(stationId, changes.em);
      if (before.revision !== revision) throw staleRevision('setting');
      if (revision === 0) await changes.insert('trafficSettings', [{ ...fields, id: stationId, revision: 1 }]);
      else await changes.update('trafficSettings', stationId, fields, revision);
    });
  }

  async layouts(stationId: string): Promise<KeptLayout[]> {
    const rows = await this.store.read.find(TextLayoutEntity, { stationId }, { orderBy: { nameKey: 'asc' } });
    return rows.map(({ id, revision, name, layout }) => ({ id, revision, name, layout }));
  }

  /** The layout a station reads traffic logs by; null where each file proposes its own. */
  async layoutOf(stationId: string): Promise<TextLayout | null> {
    const { layoutId } = await this.of(stationId);
    if (layoutId === null) return null;
    return (await this.layouts(stationId)).find(({ id }) => id === layoutId)?.layout ?? null;
  }

  private async mustFind(stationId: string, id: string): Promise<KeptLayout> {
    const found = (await this.layouts(stationId)).find((layout) => layout.id === id);
    if (!found) throw notFound('layout', id);
    return found;
  }

  /** Keeps a layout under an id, new or in place of the one that has it. */
  async saveLayout(
    { stationId, clientId }: StationActor,
    id: string,
    {
      name,
      layout: given,
      revision,
    }: { readonly name: string; readonly layout: TextLayout; readonly revision: number },
  ): Promise<Written<void>> {
    const checked = checkLayout({ ...given, name });
    if (!checked.ok) throw new FullerError('INVALID', checked.why, `layout.${checked.path}`);
    const row = { name, nameKey: nameKey(name), layout: checked.layout };
    return this.store.write({ clientId, stationId, label: `Save the layout ${name}` }, async (changes) => {
      const others = await changes.em.find(TextLayoutEntity, { stationId });
      if (others.some((one) => one.id !== id && one.nameKey === row.nameKey))
        throw new FullerError('NAME_TAKEN', `There is a layout “${name}” already.`, 'name');
      if (others.some((one) => one.id === id)) return changes.update('textLayout', id, row, revision);
      if (revision !== 0) throw staleRevision('layout');
      if (await changes.find('textLayout', id)) throw notFound('layout', id);
      if (others.length >= MOST_LAYOUTS)
        throw new FullerError('INVALID', `A station keeps ${MOST_LAYOUTS} layouts at most.`, 'name');
      await changes.insert('textLayout', [{ ...row, id, revision: 1, stationId }]);
    });
  }

  async removeLayout({ stationId, clientId }: StationActor, id: string): Promise<Written<void>> {
    const { name } = await this.mustFind(stationId, id);
    return this.store.write({ clientId, stationId, label: `Remove the layout ${name}` }, async (changes) => {
      const settings = await this.of(stationId, changes.em);
      if (settings.layoutId === id) await changes.update('trafficSettings', stationId, { layoutId: null });
      await changes.remove('textLayout', id);
    });
  }
}
