import { lookUp } from '../values/look-up.js';
import { mayAirInHour } from '../library/availability.js';
import type { TurnOrder } from '../rotation/category.js';
import type { Order } from '../sequence/orders.js';
import { weekdayOf } from '../time/local-day.js';
import { themeValues } from '../themes/theme-values.js';
import type { EntryTheme } from '../themes/theme.js';
import type { StationModel } from './station-model.js';

/** Parts a category from the turn order of a line. */
const OWN_ORDER = '\u001f';

/** What may be picked from a category on a date, in the order of its turns. */
export interface DayPool {
  readonly items: string[];
  readonly order: Order;
  readonly weights?: Record<string, number>;
}

const ENGINE_ORDERS: Readonly<Record<TurnOrder, Order>> = {
  even: 'even',
  shuffle: 'shuffle',
  random: 'random',
  weighted: 'weighted',
  'fewest plays': 'fewestPlays',
  'artist rest': 'artistRest',
  newest: 'newest',
  'in order': 'inOrder',
};

/** A category's pool in the instance; lines with a turn order of their own draw from one of their own. */
export function poolKey({
  categoryId,
  turnOrder,
}: {
  readonly categoryId: string;
  readonly turnOrder?: TurnOrder;
}): string {
  return turnOrder ? `${categoryId}${OWN_ORDER}${turnOrder}` : categoryId;
}

/** The category of a pool, by the key of the pool. */
export function categoryOfPool(pool: string): string {
  return pool.split(OWN_ORDER)[0] ?? pool;
}

const known = new WeakMap<StationModel, Map<string, DayPools>>();

/** The pools of a date, worked out once for all that looks at the date. */
export function dayPools(model: StationModel, date: string): DayPools {
  let ofModel = known.get(model);
  if (!ofModel) known.set(model, (ofModel = new Map()));
  let pools = ofModel.get(date);
  if (!pools) ofModel.set(date, (pools = new DayPools(model, date)));
  return pools;
}

/** What may air on a date: by category, and by hour of the day. */
class DayPools {
  private readonly pools = new Map<string, DayPool>();
  private readonly members = new Map<string, ReadonlySet<string>>();
  private readonly allowed = new Map<string, string[] | undefined>();
  private readonly weekday: number;

  constructor(
    private readonly model: StationModel,
    private readonly date: string,
  ) {
    this.weekday = weekdayOf(date);
  }

  /** The pool of a category: what may air that day, in the order of its turns. */
  pool(categoryId: string, turnOrder?: TurnOrder): DayPool {
    const key = poolKey({ categoryId, ...(turnOrder && { turnOrder }) });
    let pool = this.pools.get(key);
    if (!pool) this.pools.set(key, (pool = this.makePool(categoryId, turnOrder)));
    return pool;
  }

  /** Whether an item is in the pool of a key. */
  has(key: string, itemId: string): boolean {
    let members = this.members.get(key);
    if (!members) this.members.set(key, (members = new Set(this.pools.get(key)?.items)));
    return members.has(itemId);
  }

  /** The items of a pool that may air in an hour, fit some filters and have the value of a theme, where that is not all of them. */
  allowIn(
    key: string,
    hour: number,
    filters: readonly string[],
    theme?: Pick<EntryTheme, 'by' | 'value'>,
  ): string[] | undefined {
    const value = theme?.value ?? null;
    const at = [hour, key, ...(value === null ? [] : [theme!.by, value]), '', ...filters].join(OWN_ORDER);
    if (!this.allowed.has(at)) {
      const items = this.pools.get(key)?.items ?? [];
      const fits = this.model.fitting(filters);
      const found = items.filter((id) => {
        const item = lookUp(this.model.known, id);
        if (value !== null && !themeValues(item, theme!.by).includes(value)) return false;
        return fits(id) && mayAirInHour(item, this.weekday, hour);
      });
      this.allowed.set(at, found.length === items.length ? undefined : found);
    }
    return this.allowed.get(at);
  }

  private makePool(categoryId: string, turnOrder: TurnOrder | undefined): DayPool {
    const { data, known: items } = this.model;
    const ids = (data.categories[categoryId] ?? []).filter((id) => {
      const item = items.get(id);
      return item !== undefined && this.model.unavailabilityOn(item, categoryId, this.date) === null;
    });
    const order = ENGINE_ORDERS[turnOrder ?? data.orders[categoryId] ?? 'even'];
    // The list is as items came into the category.
    if (order === 'newest') ids.reverse();
    if (order !== 'weighted') return { items: ids, order };
    return { items: ids, order, weights: Object.fromEntries(ids.map((id) => [id, lookUp(items, id).weight])) };
  }
}
