import { elementAt } from '../values/look-up.js';
import { distinctValues } from './demand.js';
import { categoryOf, isForced, shareOf, valuesOf, type Bound, type Ground } from './ground.js';
import { handOffBounds, streakBounds } from './sequence-bounds.js';
import { busiest, heaviest } from './stretches.js';

/** Every bound of a rule; none where its limit is never reached. */
export function boundsOf(ground: Ground): Bound[] {
  switch (ground.rule.shape) {
    case 'apart':
      return [
        ...apartBounds(ground),
        ...sharesInStretch(
          ground,
          (amount) => amount,
          () => 1,
          true,
        ),
      ];
    case 'otherHour':
      return otherHourBounds(ground);
    case 'atMost':
      return atMostBounds(ground);
    case 'streak':
      return streakBounds(ground);
    case 'handOff':
      return handOffBounds(ground);
    case 'atLeast':
      return atLeastBounds(ground);
    case 'across':
      // What it leaves depends on other stations’ logs.
      return [];
  }
}

/** Charged slots by the source they draw from, with those of all sources together last. */
function bySource({ charged }: Ground): { readonly names: readonly string[]; readonly slots: Ground['charged'] }[] {
  const groups = new Map<string, (typeof charged)[number][]>();
  for (const one of charged) groups.set(one.slot.source, [...(groups.get(one.slot.source) ?? []), one]);
  const each = [...groups].map(([name, slots]) => ({ names: [name], slots }));
  return each.length > 1 ? [...each, { names: [...groups.keys()], slots: charged }] : each;
}

/** Plays in a stretch shorter than the separation all differ: no more slots there than different values. */
function apartBounds(ground: Ground): Bound[] {
  const { model, demand, rule } = ground;
  if (rule.value !== null) return forcedApart(ground);
  return bySource(ground).flatMap(({ names, slots }): Bound[] => {
    const { distinct, without } = distinctValues(model, demand, names, rule.tag);
    const least = Math.min(...slots.map(({ amount }) => amount));
    const shortest = Math.min(...names.map((name) => demand.sources.get(name)?.shortestSeconds ?? 0));
    // From the end of one to the start of the next: two starts closer than amount and length together clash.
    const { count, at } = busiest(
      slots.map(({ slot }) => slot.second),
      least + shortest,
    );
    if (without || count <= 1) return [];
    return [
      {
        demand: count,
        capacity: distinct,
        measure: 'different values',
        value: null,
        categoryId: categoryOf(demand, names),
        at,
        proven: true,
      },
    ];
  });
}

/** Slots that can hold nothing but the value must be far enough apart by themselves. */
function forcedApart({ demand, rule, charged, shares }: Ground): Bound[] {
  const forced = charged.filter(({ slot }) => isForced(shares.get(slot.source), rule.value!));
  if (forced.length < 2) return [];
  const least = Math.min(...forced.map(({ amount }) => amount));
  const shortest = Math.min(...forced.map(({ slot }) => demand.sources.get(slot.source)?.shortestSeconds ?? 0));
  const { count, at } = busiest(
    forced.map(({ slot }) => slot.second),
    least + shortest,
  );
  return [
    { demand: count, capacity: 1, measure: 'forced plays', value: rule.value, categoryId: null, at, proven: true },
  ];
}

/**
 * What even turns ask of each value in the busiest stretch, against so many as the rule allows there. `withLength` adds
 * the length of an item to a stretch that is counted from its end.
 */
function sharesInStretch(
  { demand, rule, charged, shares }: Ground,
  lengthOf: (amount: number) => number,
  allowedOf: (amount: number) => number,
  withLength = false,
): Bound[] {
  const byAmount = new Map<number, (typeof charged)[number][]>();
  for (const one of charged) byAmount.set(one.amount, [...(byAmount.get(one.amount) ?? []), one]);
  return [...byAmount].flatMap(([amount, slots]) =>
    valuesOf(rule, slots, shares).map((value): Bound => {
      const weights = slots.map(({ slot }) => shareOf(shares.get(slot.source), value));
      const shortest = withLength
        ? Math.min(...slots.map(({ slot }) => demand.sources.get(slot.source)?.shortestSeconds ?? 0))
        : 0;
      const { sum, at } = heaviest(
        slots.map(({ slot }) => slot.second),
        weights,
        lengthOf(amount) + shortest,
      );
      const categories = new Set(
        slots.filter((_, n) => elementAt(weights, n) > 0).map(({ slot }) => slot.location.categoryId),
      );
      return {
        demand: sum,
        capacity: allowedOf(amount),
        measure: 'share of a value',
        value,
        categoryId: categories.size === 1 ? ([...categories][0] ?? null) : null,
        at,
        proven: false,
      };
    }),
  );
}

/** At one hour of the day over so many days and one more, every play of a value but one is a break. */
function otherHourBounds(ground: Ground): Bound[] {
  const { model, demand, rule, charged, shares } = ground;
  const bounds: Bound[] = [];
  for (const { names, slots } of bySource(ground)) {
    const { distinct, without } = distinctValues(model, demand, names, rule.tag);
    const days = Math.min(...slots.map(({ amount }) => amount)) + 1;
    const { count, at } = busiestHour(slots, days);
    const plain = rule.value === null && !without;
    if (plain && count > 1)
      bounds.push({
        demand: count,
        capacity: distinct,
        measure: 'different values',
        value: null,
        categoryId: categoryOf(demand, names),
        at,
        proven: false,
      });
  }
  for (const value of valuesOf(rule, charged, shares)) {
    const days = Math.min(...charged.map(({ amount }) => amount)) + 1;
    const weighted = charged.map(({ slot }) => shareOf(shares.get(slot.source), value));
    const perHour = new Map<number, number>();
    charged.forEach(({ slot }, n) =>
      perHour.set(slot.hour % 24, (perHour.get(slot.hour % 24) ?? 0) + elementAt(weighted, n)),
    );
    const [hour, most] = [...perHour].reduce((a, b) => (b[1] > a[1] ? b : a));
    // Two plays of a value within one hour on one day are no break: what counts is days that have any.
    const demandOfDays = Math.min(days, (most * days) / 7);
    bounds.push({
      demand: demandOfDays,
      capacity: 1,
      measure: 'share of a value',
      value,
      categoryId: null,
      at: hour * 3600,
      proven: false,
    });
  }
  return bounds.filter(({ demand: asked }) => asked > 0);
}

/** The most slots at one hour of the day over so many days on end, the week running on into the next. */
function busiestHour(slots: Ground['charged'], days: number): { readonly count: number; readonly at: number } {
  let best = { count: 0, at: 0 };
  const counts = new Map<number, number>();
  for (const { slot } of slots) counts.set(slot.hour, (counts.get(slot.hour) ?? 0) + 1);
  for (let hour = 0; hour < 24; hour++)
    for (let first = 0; first < 7; first++) {
      let count = 0;
      for (let day = first; day < first + days; day++) count += counts.get((day % 7) * 24 + hour) ?? 0;
      if (count > best.count) best = { count, at: (first * 24 + hour) * 3600 };
    }
  return best;
}

function atMostBounds(ground: Ground): Bound[] {
  const { rule, charged, shares } = ground;
  const window = rule.windowSeconds;
  const forced = valuesOf(rule, charged, shares).flatMap((value): Bound[] => {
    const of = charged.filter(({ slot }) => isForced(shares.get(slot.source), value));
    if (of.length === 0) return [];
    const most = Math.max(...of.map(({ amount }) => amount));
    const { count, at } = inWindow(of, window);
    return [{ demand: count, capacity: most, measure: 'forced plays', value, categoryId: null, at, proven: true }];
  });
  const reached = inWindow(charged, window).count;
  // A rule that allows more than there are slots is never reached.
  if (charged.every(({ amount }) => amount >= reached)) return [];
  return [
    ...forced,
    ...(window === null
      ? sharesByHour(ground)
      : sharesInStretch(
          ground,
          () => window,
          (amount) => amount,
        )),
  ];
}

/** The most slots in a sliding window, or in an hour of the clock. */
function inWindow(slots: Ground['charged'], window: number | null): { readonly count: number; readonly at: number } {
  if (window !== null)
    return busiest(
      slots.map(({ slot }) => slot.second),
      window,
    );
  const counts = new Map<number, number>();
  for (const { slot } of slots) counts.set(slot.hour, (counts.get(slot.hour) ?? 0) + 1);
  const [hour, count] = [...counts].reduce((a, b) => (b[1] > a[1] ? b : a), [0, 0]);
  return { count, at: hour * 3600 };
}

function sharesByHour({ rule, charged, shares }: Ground): Bound[] {
  return valuesOf(rule, charged, shares).flatMap((value): Bound[] => {
    const hours = new Map<number, { sum: number; allowed: number; categories: Set<string | null> }>();
    for (const { slot, amount } of charged) {
      const hour = hours.get(slot.hour) ?? { sum: 0, allowed: amount, categories: new Set() };
      const share = shareOf(shares.get(slot.source), value);
      hour.sum += share;
      hour.allowed = Math.min(hour.allowed, amount);
      if (share > 0) hour.categories.add(slot.location.categoryId);
      hours.set(slot.hour, hour);
    }
    const [at, worst] = [...hours].reduce((a, b) => (b[1].sum / b[1].allowed > a[1].sum / a[1].allowed ? b : a));
    return worst.sum === 0
      ? []
      : [
          {
            demand: worst.sum,
            capacity: worst.allowed,
            measure: 'share of a value',
            value,
            categoryId: worst.categories.size === 1 ? ([...worst.categories][0] ?? null) : null,
            at: at * 3600,
            proven: false,
          },
        ];
  });
}

/** In each hour enough slots must be able to hold the value; what even turns give of it tells how easily. */
function atLeastBounds({ rule, charged, shares }: Ground): Bound[] {
  const every = new Set([...shares.values()].flatMap(({ byValue }) => [...byValue.keys()]));
  const values = rule.value !== null ? [rule.value] : [...every];
  return values.flatMap((value): Bound[] => {
    const hours = new Map<number, { able: number; forced: number; share: number; asked: number }>();
    for (const { slot, amount } of charged) {
      const share = shares.get(slot.source);
      const hour = hours.get(slot.hour) ?? { able: 0, forced: 0, share: 0, asked: amount };
      if ((share?.byValue.get(value) ?? 0) > 0) hour.able++;
      if (isForced(share, value)) hour.forced++;
      hour.share += shareOf(share, value);
      hour.asked = Math.max(hour.asked, amount);
      hours.set(slot.hour, hour);
    }
    if ([...hours.values()].every(({ forced, asked }) => forced >= asked)) return [];
    return [...hours].flatMap(([hour, { able, share, asked }]): Bound[] => {
      const told = { value, categoryId: null, at: hour * 3600, demand: asked };
      return [
        { ...told, capacity: able, measure: 'supply of a value', proven: true },
        { ...told, capacity: share, measure: 'share of a value', proven: false },
      ];
    });
  });
}
