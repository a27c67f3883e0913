import type { CategoryRow } from '@fuller/contracts';
import { elementAt, turnoverHours } from '@fuller/core';
import { momentsOfItems } from '../db/queries/lengths.js';
import type { CategoryRecord } from '../db/entities/index.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Store } from '../store/store.js';

/** Pools are told from categories by a colour of their own. */
const POOL_COLOUR = '#5B676C';
/** Taken for a pool that no clock draws from yet. */
export const AVERAGE_SONG_MS = 215_000;

/** What a category holds. */
export interface CategoryTotals {
  readonly items: number;
  readonly averageMs: number;
  readonly standardDeviationMs: number;
}

/** The standard deviation of lengths from their mean and the mean of their squares, milliseconds. */
export function standardDeviationOf(mean: number, meanOfSquares: number): number {
  return Math.round(Math.sqrt(Math.max(0, meanOfSquares - mean * mean)));
}

/** A category with what it holds and what the week asks of it. */
export function categoryView(
  row: CategoryRecord,
  totals: CategoryTotals | undefined,
  slotsPerWeek: number,
): CategoryRow {
  const { id, revision, scope, name, code, colour, music, position } = row;
  const items = totals?.items ?? 0;
  return {
    id,
    revision,
    scope,
    name,
    code,
    colour,
    music: Boolean(music),
    turnOrder: row.turnOrder,
    approvedOnly: Boolean(row.approvedOnly),
    coolOff: row.coolOff ?? null,
    life: row.life ?? null,
    pool: false,
    position,
    groupId: row.groupId ?? null,
    items,
    averageMs: totals?.averageMs ?? 0,
    standardDeviationMs: totals?.standardDeviationMs ?? 0,
    slotsPerWeek,
    turnoverHours: turnoverHours(items, slotsPerWeek),
  };
}

/** The pools a station sees as rows that stand where categories can. */
export async function poolRows(
  store: Store,
  service: PoolService,
  stationId: string,
  demand: ReadonlyMap<string, number>,
): Promise<CategoryRow[]> {
  const pools = await service.list(stationId);
  const used = await service.itemsOf(
    stationId,
    pools.map(({ id }) => id).filter((id) => demand.has(id)),
  );
  const rows: CategoryRow[] = [];
  for (const [position, { id, revision, scope, name, items }] of pools.entries()) {
    const { average, squares } = await momentsOfItems(store.read, used[id] ?? []);
    rows.push({
      id,
      revision,
      scope,
      name,
      code: initials(name),
      colour: POOL_COLOUR,
      music: true,
      groupId: null,
      turnOrder: 'even',
      approvedOnly: false,
      coolOff: null,
      life: null,
      pool: true,
      position: 10_000 + position,
      items,
      averageMs: Math.round(average ?? AVERAGE_SONG_MS),
      standardDeviationMs: standardDeviationOf(average ?? 0, squares ?? 0),
      slotsPerWeek: demand.get(id) ?? 0,
      turnoverHours: turnoverHours(items, demand.get(id) ?? 0),
    });
  }
  return rows;
}

/** Up to three letters that stand for a name. */
function initials(name: string): string {
  const words = name.split(/[^\p{L}\p{N}]+/u).filter(Boolean);
  return words
    .slice(0, 3)
    .map((word) => elementAt([...word], 0).toUpperCase())
    .join('');
}
