import type { StationActor } from '../actor.js';
import { visibleTo } from '../db/visible.js';
import { drawOf, sourceOf, itemOfLine, nameKey, usageOfClocks, type ClockLine } from '@fuller/core';
import { ClockEntity, StationEntity, type ClockRecord, type StationRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { listNames } from '../store/list-names.js';
import { nextPosition } from '../db/queries/categories.js';
import { dropPlaceFromRules } from '../rules/rule-places.js';
import { referencesOf, type NamedKind } from '../sharing/references.js';
import { mustBeSeen } from '../sharing/seen-by-all.js';
import type { ChangeSet } from '../store/change-set.js';
import type { PlanService } from '../week/plan-service.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Store, Written } from '../store/store.js';

/** Where a line names things. */
const FIELD_OF: Readonly<Partial<Record<NamedKind, string>>> = {
  source: 'categoryId',
  setList: 'setListId',
  item: 'itemId',
};

interface ClockFields {
  readonly name: string;
  readonly colour: string;
  readonly lengthMs: number;
  readonly lines: ClockLine[];
}

/** The clocks of a station. */
export class ClockService {
  constructor(
    private readonly store: Store,
    private readonly plans: PlanService,
    private readonly pools: PoolService,
  ) {}

  create({ stationId, clientId }: StationActor, fields: ClockFields): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `New clock ${fields.name}` }, async (changes) => {
      await this.refuseTaken(changes, stationId, fields.name, null);
      await this.refuseUnknown(changes, stationId, fields.lines, stationId);
      const id = newId();
      const position = await nextPosition(changes.em, 'clock');
      await changes.insert('clock', [
        { ...fields, id, revision: 1, scope: 'station', stationId, nameKey: nameKey(fields.name), position },
      ]);
      return id;
    });
  }

  update(
    { stationId, clientId }: StationActor,
    id: string,
    revision: number,
    fields: Omit<ClockFields, 'lengthMs'> & { readonly lengthMs?: number | undefined },
    label: string,
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      await this.refuseTaken(changes, stationId, fields.name, id);
      await this.updateIn(changes, stationId, id, revision, { ...fields, nameKey: nameKey(fields.name) });
      return id;
    });
  }

  /** Within a write: changes the lines of a clock, and what else is given. */
  async updateIn(
    changes: ChangeSet,
    stationId: string,
    id: string,
    revision: number,
    fields: Pick<ClockFields, 'lines'> & Readonly<Record<string, unknown>>,
  ): Promise<void> {
    const { stationId: owner } = await changes.mustSee('clock', id);
    await this.refuseUnknown(changes, stationId, fields.lines, (owner as string | null | undefined) ?? null);
    await changes.update('clock', id, fields, revision);
  }

  async remove({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    const clock = await this.store.read.findOne(ClockEntity, { id, ...visibleTo(stationId) });
    if (!clock) throw notFound('clock', id);
    // A shared clock may run at any station.
    const stations = await this.store.read.find(StationEntity, clock.scope === 'group' ? {} : { id: stationId });
    for (const station of stations)
      await this.refuseUsed(clock, station, station.id === stationId ? '' : ` at ${station.name}`);
    return this.store.write({ clientId, stationId, label: `Delete clock ${clock.name}` }, async (changes) => {
      await dropPlaceFromRules(changes, { kind: 'clock', id });
      await changes.remove('clock', id);
      return id;
    });
  }

  /** Throws IN_USE where a station needs a clock. */
  private async refuseUsed({ id, name }: ClockRecord, station: StationRecord, where: string): Promise<void> {
    const plan = await this.plans.plan(station.id);
    const shows = plan.shows.filter((show) =>
      [...show.clockIds, show.openerId, show.closerId, show.hourOpenerId].includes(id),
    );
    if (shows.length > 0)
      throw new FullerError('IN_USE', `${name} belongs to ${listNames(shows.map((show) => show.name))}${where}.`);
    if (Object.values(plan.framing).includes(id))
      throw new FullerError('IN_USE', `${name} opens or closes the hours of the station${where}.`);
    const dates = plan.dates.filter(({ blocks }) => blocks.some((block) => block.runs === 'clock' && block.id === id));
    if (dates.length > 0)
      throw new FullerError('IN_USE', `${name} runs on ${listNames(dates.map((date) => date.name))}${where}.`);
    const minutes = (usageOfClocks(plan).get(id) ?? []).reduce((sum, { from, to }) => sum + to - from, 0);
    if (minutes === 0 && plan.week.defaultClockId !== id) return;
    const hours = Math.round((minutes / 60) * 10) / 10;
    throw new FullerError(
      'IN_USE',
      `${name} runs in ${minutes ? `${hours} hours of the week` : 'every hour without a clock of its own'}${where}.`,
    );
  }

  private async refuseTaken(changes: ChangeSet, stationId: string, name: string, ownId: string | null): Promise<void> {
    const visible = visibleTo(stationId);
    const rows = await changes.em.find(ClockEntity, visible, { disableIdentityMap: true });
    if (rows.some((row) => row.id !== ownId && row.nameKey === nameKey(name)))
      throw new FullerError('NAME_TAKEN', `There is a clock named “${name}” already.`, 'name');
  }

  /** Lines may name only what is there, and filters must be readable. */
  private async refuseUnknown(
    changes: ChangeSet,
    stationId: string,
    lines: readonly ClockLine[],
    owner: string | null,
  ): Promise<void> {
    for (const [index, line] of lines.entries())
      await mustBeSeen(
        changes.em,
        referencesOf('clock', { lines: [line] }),
        owner,
        ({ kind }) => `lines.${index}.${FIELD_OF[kind]}`,
      );
    const filtered = lines.some((line) => drawOf(line)?.filter);
    const vocabulary = filtered ? await this.pools.vocabulary(stationId) : undefined;
    for (const [index, line] of lines.entries()) {
      const draw = drawOf(line);
      const place = `Line ${index + 1}`;
      const source = sourceOf(line);
      if (source && !(await changes.find('category', source)) && !(await changes.find('pool', source)))
        throw new FullerError(
          'INVALID',
          `${place} names a category or pool that is not there.`,
          `lines.${index}.categoryId`,
        );
      if (draw?.filter) {
        await this.pools.read(stationId, draw.filter, vocabulary).catch((error: unknown) => {
          if (!(error instanceof FullerError)) throw error;
          throw new FullerError(
            'INVALID',
            `The filter of line ${index + 1}: ${error.message}`,
            `lines.${index}.filter`,
          );
        });
      }
      if (line.kind === 'set list' && !(await changes.find('setList', line.setListId)))
        throw new FullerError('INVALID', `${place} names a set list that is not there.`, `lines.${index}.setListId`);
      const itemId = itemOfLine(line);
      if (itemId && !(await changes.find('item', itemId)))
        throw new FullerError('INVALID', `${place} names an item that is not there.`, `lines.${index}.itemId`);
    }
  }
}
