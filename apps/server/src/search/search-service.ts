import type { FoundKind, FoundThing } from '@fuller/contracts';
import { foldText } from '@fuller/core';
import type { EntityName } from '@mikro-orm/core';
import {
  CategoryEntity,
  ClockEntity,
  DatePlanEntity,
  PoolEntity,
  SetListEntity,
  ShowEntity,
  StationEntity,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import type { Store } from '../store/store.js';

interface NamedRow {
  readonly id: string;
  readonly name: string;
  readonly stationId?: string | null;
}

const KINDS: readonly [FoundKind, EntityName<NamedRow>][] = [
  ['category', CategoryEntity as EntityName<NamedRow>],
  ['clock', ClockEntity as EntityName<NamedRow>],
  ['show', ShowEntity as EntityName<NamedRow>],
  ['date', DatePlanEntity as EntityName<NamedRow>],
  ['set list', SetListEntity as EntityName<NamedRow>],
  ['pool', PoolEntity as EntityName<NamedRow>],
];
const MOST = 20;

/** Finds things by their names, whatever their station. */
export class SearchService {
  constructor(private readonly store: Store) {}

  /** What of the stations somebody may look at has all the words in its name; shared things at the open one, or the first. */
  async find(text: string, mayLook: (stationId: string) => boolean, open?: string): Promise<FoundThing[]> {
    const words = foldText(text).split(' ').filter(Boolean);
    if (words.length === 0) return [];
    const em = this.store.read;
    const stations = (await em.find(StationEntity, { archived: false }, { orderBy: { position: 'asc' } })).filter(
      ({ id }) => mayLook(id),
    );
    const first = stations.find(({ id }) => id === open) ?? stations[0];
    if (!first) return [];
    const nameOf = new Map(stations.map(({ id, name }) => [id, name]));
    const fits = ({ name }: { readonly name: string }): boolean => {
      const folded = foldText(name);
      return words.every((word) => folded.includes(word));
    };
    const found: FoundThing[] = stations
      .filter(fits)
      .map(({ id, name }) => ({ kind: 'station', id, name, stationId: id, stationName: name }));
    for (const [kind, entity] of KINDS)
      for (const { id, name, stationId } of (await namesOf(em, entity)).filter(fits)) {
        const at = stationId ?? first.id;
        const stationName = nameOf.get(at);
        if (stationName !== undefined) found.push({ kind, id, name, stationId: at, stationName });
      }
    return found.slice(0, MOST);
  }
}

function namesOf(em: Em, entity: EntityName<NamedRow>): Promise<NamedRow[]> {
  return em.find(entity, {}, { fields: ['id', 'name', 'stationId'], orderBy: { name: 'asc' } }) as Promise<NamedRow[]>;
}
