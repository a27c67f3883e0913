import { allEntries, drawsOfPlan, parseFilter, type DailyLog, type LogEntry } from '@fuller/core';
import type { PoolService } from '../pools/pool-service.js';
import { Kept } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Ground } from './ground.js';

/** What a filter that looks at the time since the last play finds is good for so long. */
const FRESH_MS = 60_000;
/** In place of the items of a pool that is not there. */
const NO_POOL: readonly string[] = [];

/** Finds what the pools and filters that lines draw from hold, each once as long as it cannot have changed. */
export class DrawReader {
  private readonly found = new Kept<readonly string[]>(400);

  constructor(
    private readonly pools: PoolService,
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {}

  /** The ground with the pools and filters that clocks and logs draw from. */
  async added(
    stationId: string,
    ground: Ground,
    logs: readonly (DailyLog | null)[],
    moreFilters: readonly string[],
  ): Promise<Ground> {
    const logged = logs.flatMap((log) => (log ? allEntries(log) : []));
    const drawn = [
      ...drawsOfPlan(ground.plan),
      ...logged.filter(draws).map(({ categoryId }) => ({ categoryId, filter: '' })),
    ];
    const pools: Record<string, readonly string[]> = {};
    for (const id of new Set(drawn.map(({ categoryId }) => categoryId))) {
      if (ground.categories[id] || Object.hasOwn(ground.orders, id)) continue;
      const items = await this.itemsOfPool(stationId, id);
      if (items) pools[id] = items;
    }
    const texts = [
      ...moreFilters,
      ...drawn.map(({ filter }) => filter).filter((filter) => filter !== ''),
      ...logged.filter(draws).flatMap(({ filters = [] }) => filters),
    ];
    const filters: Record<string, readonly string[]> = {};
    for (const text of new Set(texts)) filters[text] = await this.itemsFitting(stationId, text);
    return {
      ...ground,
      filters,
      categories: { ...ground.categories, ...pools },
      musicCategories: [...ground.musicCategories, ...Object.keys(pools)],
    };
  }

  private async itemsOfPool(stationId: string, id: string): Promise<readonly string[] | null> {
    const items = await this.found.get(
      `${stationId} pool ${id} ${this.thisMinute()}`,
      async () => (await this.pools.itemsOf(stationId, [id]))[id] ?? NO_POOL,
    );
    return items === NO_POOL ? null : items;
  }

  private async itemsFitting(stationId: string, text: string): Promise<readonly string[]> {
    const at = (await this.looksAtRests(stationId, text)) ? this.thisMinute() : String(this.revisions.ground);
    return this.found.get(
      `${stationId} filter ${text} ${at}`,
      async () => (await this.pools.itemsFitting(stationId, [text]))[text] ?? [],
    );
  }

  /** Rests change by the minute. */
  private thisMinute(): string {
    return `${this.revisions.total} ${Math.floor(this.now() / FRESH_MS)}`;
  }

  private async looksAtRests(stationId: string, text: string): Promise<boolean> {
    if (!/last|rest|play/i.test(text)) return false;
    return parseFilter(text, await this.pools.vocabulary(stationId)).ok;
  }
}

type LoggedDraw = Extract<LogEntry, { kind: 'pick' | 'sweeper' }>;

function draws(entry: LogEntry): entry is LoggedDraw {
  return entry.kind === 'pick' || entry.kind === 'sweeper';
}
