import { elementAt } from '../values/look-up.js';
import type { DemandSlot, ValueShares } from './demand.js';
import { isForced, shareOf, valuesOf, type Bound, type Ground } from './ground.js';
import { heaviestRun } from './stretches.js';

/** In any run of one more than allowed, one play must be another: no value may have more than that share of it. */
export function streakBounds({ rule, charged, shares, demand }: Ground): Bound[] {
  const most = Math.min(...charged.map(({ amount }) => amount));
  if (charged.length <= most) return [];
  return valuesOf(rule, charged, shares).flatMap((value): Bound[] => {
    const weights = demand.slots.map(({ source }) => shareOf(shares.get(source), value));
    const mean = heaviestRun(weights, Math.max(most + 1, 12));
    const bound: Bound = {
      demand: mean.share,
      capacity: most / (most + 1),
      measure: 'share of a value',
      value,
      categoryId: null,
      at: elementAt(demand.slots, mean.at).second,
      proven: false,
    };
    const forced = longestForced(charged, demand.slots, shares, value);
    return forced.run > most
      ? [bound, { ...bound, demand: forced.run, capacity: most, measure: 'forced plays', at: forced.at, proven: true }]
      : [bound];
  });
}

function longestForced(
  charged: Ground['charged'],
  slots: readonly DemandSlot[],
  shares: ReadonlyMap<string, ValueShares>,
  value: string,
): { readonly run: number; readonly at: number } {
  const isCharged = new Set(charged.map(({ slot }) => slot));
  let [run, best, at] = [0, 0, 0];
  for (const slot of slots) {
    run = isForced(shares.get(slot.source), value) ? run + 1 : 0;
    if (run > best && isCharged.has(slot)) [best, at] = [run, slot.second];
  }
  return { run: best, at };
}

/** After each play of the first value one must follow that is not the second. */
export function handOffBounds({ rule, charged, shares, demand }: Ground): Bound[] {
  const [first, next] = [rule.value ?? '', rule.followedBy ?? ''];
  const run = 12;
  const firsts = demand.slots.map(({ source }) => shareOf(shares.get(source), first));
  const nexts = demand.slots.map(({ source }) => shareOf(shares.get(source), next));
  const { share, at } = heaviestRun(firsts, run);
  const room = 1 - heaviestRun(nexts, run).share;
  const bound: Bound = {
    demand: share,
    capacity: first === next ? Math.min(room, 0.5) : room,
    measure: 'share of a value',
    value: first,
    categoryId: null,
    at: elementAt(demand.slots, at).second,
    proven: false,
  };
  const isCharged = new Set(charged.map(({ slot }) => slot));
  const clash = demand.slots.findIndex((slot, n) => {
    const before = demand.slots[n - 1];
    return (
      before !== undefined &&
      isCharged.has(slot) &&
      isForced(shares.get(before.source), first) &&
      isForced(shares.get(slot.source), next)
    );
  });
  return clash < 0
    ? [bound]
    : [
        bound,
        {
          ...bound,
          demand: 1,
          capacity: 0,
          measure: 'forced plays',
          at: elementAt(demand.slots, clash).second,
          proven: true,
        },
      ];
}
